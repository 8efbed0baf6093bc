import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, ask, done, type Reference } from '../api/client';
import type { components } from '../api/schema';
import { keys } from '../api/queries';
import { carryOut } from '../papers/notices';
import { addressOf } from '../sources/Connections';
import { Button } from '../ui/Button';
import { Figure } from '../ui/Figure';
import { TextField } from '../ui/TextField';
import { useHeld } from '../ui/useField';

type Side = 'for' | 'against';
type Evidence = components['schemas']['Evidence'];

/** A slip refined into a claim: its title, what speaks for it and against it, and how ready it is. */
export function ClaimPart({ slip }: { slip: number }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const path = { number: String(slip) };
  const claim = useQuery({
    queryKey: keys.claim(slip),
    queryFn: () => ask(api.GET('/api/slips/{number}/claim', { params: { path } })),
  }).data?.claim;
  if (!claim) return null;
  const refresh = () => client.invalidateQueries();
  const of = (thing: Reference) => ({ path: { ...path, kind: thing.kind, thing: thing.number } });
  const weigh = (thing: Reference, side: Side, note: string | null, said: string) =>
    carryOut(
      done(api.PUT('/api/slips/{number}/claim/{kind}/{thing}', { params: of(thing), body: { side, note } })),
      said,
    ).then(refresh);
  const ready = Math.round(100 * claim.readiness.figure);
  return (
    <section aria-label="Claim" className="mt-7 border-l-2 border-done pl-5">
      <header className="flex items-baseline gap-5">
        <div className="min-w-0 flex-1">
          <TextField
            label="The claim in one line"
            value={claim.title}
            placeholder="What does it say?"
            onSave={(title) =>
              carryOut(
                done(api.PUT('/api/slips/{number}/claim', { params: { path }, body: { title } })),
                'Claim changed.',
              ).then(refresh)
            }
            className="written text-[20px] font-semibold"
          />
        </div>
        <span className="text-right">
          <Figure shown={`${ready}%`} of="How ready the claim is" className="written text-[22px] font-semibold">
            {claim.readiness.terms.map((term) => (
              <p key={term.name} className="flex justify-between border-t border-rule py-1 first:border-0">
                <span>{term.name}</span>
                <span className="figures">{Math.round(100 * term.figure)}</span>
              </p>
            ))}
          </Figure>
          <span className="block text-[12px] text-second">ready</span>
        </span>
      </header>
      {claim.readiness.missing.length > 0 && (
        <p className="mt-1 text-[12.5px] text-second">{claim.readiness.missing.join(' ')}</p>
      )}
      <div className="mt-4 grid grid-cols-2 gap-x-8 max-md:grid-cols-1">
        {(['for', 'against'] as const).map((side) => (
          <div key={side}>
            <h3 className={`label border-b border-hair pb-1 ${side === 'for' ? 'text-done' : 'text-red'}`}>
              Speaks {side === 'for' ? 'for it' : 'against it'}
            </h3>
            {claim.evidence
              .filter((evidence) => evidence.side === side)
              .map((evidence) => (
                <EvidenceLine
                  key={`${evidence.thing.kind}${evidence.thing.number}`}
                  evidence={evidence}
                  onNote={(note) => weigh(evidence.thing, side, note, 'Noted.')}
                  onOther={() =>
                    void weigh(
                      evidence.thing,
                      side === 'for' ? 'against' : 'for',
                      evidence.note,
                      'On the other side.',
                    ).catch(() => undefined)
                  }
                  onAway={() =>
                    void carryOut(
                      done(api.DELETE('/api/slips/{number}/claim/{kind}/{thing}', { params: of(evidence.thing) })),
                      'Taken away.',
                    ).then(refresh, refresh)
                  }
                />
              ))}
          </div>
        ))}
      </div>
      <p className="mt-3">
        <Button
          onClick={() =>
            void carryOut(
              done(
                api.POST('/api/slips/{number}/decision', {
                  params: { path },
                  body: { decision: 'start', format: null, title: null },
                }),
              ),
              ({ piece }) => `Started P ${piece} with what speaks for it and against it.`,
            ).then(
              ({ piece }) => void refresh().then(() => navigate(`/bench/${piece}`)),
              () => undefined,
            )
          }
        >
          Start a piece from this claim
        </Button>
      </p>
      <AddEvidence onAdd={(thing, side) => weigh(thing, side, null, `Put ${side === 'for' ? 'for' : 'against'} it.`)} />
      {claim.offers.length > 0 && (
        <div className="mt-4">
          <h3 className="label border-b border-hair pb-1 text-second">Reads like it, not weighed yet</h3>
          {claim.offers.map((offer) => (
            <div
              key={`${offer.thing.kind}${offer.thing.number}`}
              className="flex items-baseline gap-3 border-b border-rule py-2"
            >
              <Link
                to={addressOf(offer.thing)}
                className="written line-clamp-2 min-w-0 flex-1 text-[14.5px] hover:text-blue"
              >
                {offer.title}{' '}
                <span className="font-sans text-[12px] text-second">
                  {offer.thing.kind} {offer.thing.number}
                  {offer.because && ` · ${offer.because}`}
                </span>
              </Link>
              <Button onClick={() => void weigh(offer.thing, 'for', null, 'Put for it.').catch(() => undefined)}>
                For
              </Button>
              <Button
                onClick={() => void weigh(offer.thing, 'against', null, 'Put against it.').catch(() => undefined)}
              >
                Against
              </Button>
            </div>
          ))}
        </div>
      )}
    </section>
  );
}

function EvidenceLine({
  evidence,
  onNote,
  onOther,
  onAway,
}: {
  evidence: Evidence;
  onNote: (note: string) => Promise<unknown>;
  onOther: () => void;
  onAway: () => void;
}) {
  return (
    <div className="group border-b border-rule py-2">
      <Link to={addressOf(evidence.thing)} className="written text-[14.5px] leading-snug hover:text-blue">
        {evidence.title}
      </Link>
      <p className="flex gap-3 text-[12px] text-second">
        {evidence.thing.kind} {evidence.thing.number}
        <button type="button" className="link opacity-0 group-hover:opacity-100 focus:opacity-100" onClick={onOther}>
          other side
        </button>
        <button type="button" className="link opacity-0 group-hover:opacity-100 focus:opacity-100" onClick={onAway}>
          take away
        </button>
      </p>
      <TextField
        label={`Why ${evidence.thing.kind} ${evidence.thing.number}`}
        shown={false}
        value={evidence.note}
        placeholder={evidence.side === 'for' ? 'why' : 'your answer'}
        onSave={onNote}
        className="text-[13px]"
      />
    </div>
  );
}

function AddEvidence({ onAdd }: { onAdd: (thing: Reference, side: Side) => Promise<unknown> }) {
  const [typed, setTyped] = useHeld(`evidence.${location.pathname}`);
  const [wrong, setWrong] = useState('');
  const add = async (side: Side) => {
    const read = /^\s*(slip|source)?\s*(\d{1,9})\s*$/i.exec(typed);
    if (!read) return setWrong('Give it by its kind and number: slip 214, or source 61.');
    try {
      await onAdd({ kind: (read[1]?.toLowerCase() ?? 'slip') as 'slip' | 'source', number: Number(read[2]) }, side);
      setTyped('');
      setWrong('');
    } catch (error) {
      setWrong((error as Error).message);
    }
  };
  return (
    <div className="mt-3 flex flex-wrap items-baseline gap-3">
      <input
        aria-label="Another slip or source"
        placeholder="slip 214, or source 61"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        className="w-44 border-b border-hair bg-transparent py-1 outline-none focus:border-blue"
      />
      <Button disabled={!typed.trim()} onClick={() => void add('for')}>
        For
      </Button>
      <Button disabled={!typed.trim()} onClick={() => void add('against')}>
        Against
      </Button>
      {wrong && (
        <span role="alert" className="text-red">
          {wrong}
        </span>
      )}
    </div>
  );
}
