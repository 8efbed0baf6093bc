import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, done, type Fault, type RouteShown } from '../../api/client';
import { carryOut } from '../../papers/notices';
import { Button } from '../../ui/Button';
import { refreshPiece } from '../refreshPiece';
import type { RouteActs } from './RoutePart';

const labels: Record<Fault['kind'], string> = {
  beatMissing: 'no such beat',
  outOfOrder: 'out of order',
  tooLong: 'too long',
  tooShort: 'too short',
  saysTwice: 'says it twice',
  longStep: 'a long step',
  beforeItsTime: 'before its time',
  noMaterial: 'nothing to say it with',
  unused: 'left lying',
  stillOpen: 'still open',
  noCall: 'asks for nothing',
};

/** Where the route would lose a reader; each leads to its place, and can be set aside with a reason. */
export function Faults({ piece, shown, acts }: { piece: number; shown: RouteShown; acts: RouteActs }) {
  const [all, setAll] = useState(false);
  const { faults } = shown.route;
  const standing = faults.filter((fault) => fault.setAside === null);
  const aside = faults.filter((fault) => fault.setAside !== null);
  return (
    <section aria-label="Where it would lose a reader">
      <h2 className="label flex items-baseline border-b border-ink pb-2">
        Where it would lose a reader
        <span className="ml-auto text-[12.5px] font-medium tracking-normal text-second normal-case">
          {standing.length === 0 ? 'nowhere' : standing.length === 1 ? 'one place' : `${standing.length} places`}
          {aside.length > 0 && (
            <>
              {' · '}
              <button type="button" aria-expanded={all} className="link" onClick={() => setAll(!all)}>
                {aside.length} set aside
              </button>
            </>
          )}
        </span>
      </h2>
      {standing.length === 0 && (
        <p className="border-b border-rule py-3 text-second">
          Nothing is missing, doubled, out of its time or out of measure
          {aside.length > 0 ? ' that is not meant so' : ''}.
        </p>
      )}
      {[...standing, ...(all ? aside : [])].map((fault) => (
        <Line key={fault.key} piece={piece} fault={fault} shown={shown} acts={acts} />
      ))}
    </section>
  );
}

function Line({ piece, fault, shown, acts }: { piece: number; fault: Fault; shown: RouteShown; acts: RouteActs }) {
  const [open, setOpen] = useState(false);
  const [asked, setAsked] = useState(false);
  const [reason, setReason] = useState('');
  const navigate = useNavigate();
  const path = { number: String(piece) };
  const about = fault.slips.map((number) => shown.named.find((one) => one.number === number)).filter((one) => !!one);
  const setAside = (why: string | null) =>
    void carryOut(
      done(api.PUT('/api/pieces/{number}/route/aside', { params: { path }, body: { key: fault.key, reason: why } })),
      why === null ? 'It stands again.' : 'Set aside: it is meant so.',
    ).then(
      () => {
        setAsked(false);
        setReason('');
        return refreshPiece();
      },
      () => undefined,
    );
  const layIn = () =>
    void carryOut(
      acts.onDraft(async (version) => {
        const made = await done(
          api.POST('/api/pieces/{number}/proposal/take', {
            params: { path },
            body: { version, keys: [`section:${fault.sections[0]!}`], slips: fault.slips },
          }),
        );
        return made;
      }),
      `${fault.slips.length === 1 ? 'A slip is' : `${fault.slips.length} slips are`} laid in.`,
    ).catch(() => undefined);
  const addBeat = () => {
    const missing = shown.route.missing.find((one) => one.beat === fault.beat);
    // A section is added behind another; the one it comes before has its own neighbour.
    const sections = shown.route.sections;
    const at = missing?.before ? sections.findIndex((one) => one.number === missing.before) : sections.length;
    const title = fault.beat.charAt(0).toUpperCase() + fault.beat.slice(1);
    void carryOut(
      acts.onDraft((version) =>
        done(
          api.POST('/api/pieces/{number}/outline', {
            params: { path },
            body: {
              title,
              after: at > 0 ? sections[at - 1]!.number : undefined,
              depth: 1,
              beat: fault.beat,
              aim: missing?.aim ?? undefined,
              version,
            },
          }),
        ),
      ),
      `“${title}” is laid in.`,
    ).catch(() => undefined);
  };
  const act =
    fault.setAside !== null ? (
      <button type="button" className="link min-h-6" onClick={() => setAside(null)}>
        not meant so
      </button>
    ) : fault.kind === 'noMaterial' && about.length > 0 ? (
      <button type="button" className="link min-h-6" onClick={layIn}>
        lay {about.length === 1 ? 'it' : 'them'} in
      </button>
    ) : fault.kind === 'beatMissing' ? (
      <button type="button" className="link min-h-6" onClick={addBeat}>
        lay one in
      </button>
    ) : fault.kind === 'stillOpen' || fault.kind === 'noCall' ? (
      <button type="button" className="link min-h-6" onClick={() => void navigate(`/bench/${piece}/before`)}>
        before writing
      </button>
    ) : fault.at !== null ? (
      <button type="button" className="link min-h-6" onClick={() => acts.goTo(fault.at!)}>
        go there
      </button>
    ) : null;
  return (
    <article
      aria-label={`${labels[fault.kind]}: ${[fault.before, fault.phrases.join(', '), fault.after].filter(Boolean).join(' ')}`}
      className="grid grid-cols-[112px_minmax(0,1fr)_auto] items-baseline gap-x-4 border-b border-rule py-2.5 max-md:grid-cols-[minmax(0,1fr)_auto]"
    >
      <span
        className={`text-[13px] leading-tight font-bold max-md:col-span-2 ${fault.setAside !== null ? 'text-second' : fault.isGrave ? 'text-red' : 'text-ink'}`}
      >
        {labels[fault.kind]}
      </span>
      <div className="min-w-0">
        <p className={`written text-[16.5px] leading-[1.3] ${fault.setAside !== null ? 'text-second' : ''}`}>
          {fault.before}
          {fault.phrases.length > 0 && (
            <>
              {fault.before && ' '}
              <i>{fault.phrases.join(', ')}</i>
            </>
          )}
          {fault.after && ` ${fault.after}`}
          {about.length > 0 && (
            <>
              {fault.kind === 'noMaterial' ? '; ' : ': '}
              <button
                type="button"
                aria-expanded={open}
                className="text-blue hover:underline"
                onClick={() => setOpen(!open)}
              >
                {fault.kind === 'noMaterial'
                  ? about.length === 1
                    ? 'one slip would fit'
                    : `${about.length} slips would fit`
                  : open
                    ? 'fold them'
                    : about.length === 1
                      ? 'which'
                      : 'which they are'}
              </button>
            </>
          )}
        </p>
        {open && (
          <ul className="mt-1">
            {about.map((slip) => (
              <li key={slip.number} className="py-0.5">
                <Link to={`/library/slip/${slip.number}`} className="written line-clamp-2 text-[14px] hover:text-blue">
                  <span className="narrow font-sans text-[11.5px] text-second">slip {slip.number}</span> {slip.words}
                </Link>
              </li>
            ))}
          </ul>
        )}
        {fault.setAside !== null ? (
          <p className="text-[12.5px] text-second">meant so: {fault.setAside}</p>
        ) : asked ? (
          <form
            className="mt-1 flex items-baseline gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              if (reason.trim()) setAside(reason);
            }}
          >
            <input
              autoFocus
              aria-label="Why it is meant so"
              value={reason}
              placeholder="why?"
              onChange={(event) => setReason(event.target.value)}
              onKeyDown={(event) => event.key === 'Escape' && setAsked(false)}
              className="min-w-0 flex-1 border-b border-hair bg-transparent py-0.5 outline-none focus:border-blue"
            />
            <Button type="submit" disabled={!reason.trim()}>
              Set aside
            </Button>
          </form>
        ) : (
          <button
            type="button"
            className="min-h-6 text-[12.5px] text-second hover:text-ink"
            onClick={() => setAsked(true)}
          >
            it is meant so
          </button>
        )}
      </div>
      <span className="text-[13px] whitespace-nowrap">{act}</span>
    </article>
  );
}
