import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask, done, type Slip, type ToFind } from '../../api/client';
import { keys } from '../../api/queries';
import { carryOut } from '../../papers/notices';
import { AddLine } from '../../ui/AddLine';
import { Button } from '../../ui/Button';
import { nearDay } from '../../ui/dates';
import { refreshPiece } from '../refreshPiece';

const said = (slip: Slip) => slip.title || slip.text;

/** Questions that the piece has to answer, and things it has to get. */
export function FindOut({ piece }: { piece: number }) {
  const path = { number: String(piece) };
  const list =
    useQuery({
      queryKey: keys.toFind(piece),
      queryFn: () => ask(api.GET('/api/pieces/{number}/to-find', { params: { path } })),
    }).data ?? [];
  const add = (get: boolean) => (text: string) =>
    carryOut(
      done(api.POST('/api/pieces/{number}/to-find', { params: { path }, body: { text, get } })),
      get ? 'It is a move now.' : 'It is a question now.',
    ).then(refreshPiece);
  const open = list.filter((one) => !one.isSettled).length;
  return (
    <section aria-label="To find out" className="mt-8">
      <h2 className="label flex items-baseline border-b border-hair pb-1">
        To find out
        <span className="figures ml-auto font-medium text-second normal-case">
          {list.length === 0 ? '' : open === 0 ? 'all of it found' : `${open} open`}
        </span>
      </h2>
      {list.map((one) => (
        <Found key={one.number} one={one} piece={piece} />
      ))}
      <AddLine
        place={`piece.${piece}.find`}
        label="Something to find out or to get"
        placeholder="a question, or something to get"
        press="To find out"
        onAdd={add(false)}
        others={(text, by) => (
          <Button disabled={!text.trim()} onClick={() => by(add(true))}>
            To get
          </Button>
        )}
      />
    </section>
  );
}

function Found({ one, piece }: { one: ToFind; piece: number }) {
  const [answering, setAnswering] = useState(false);
  const path = { number: String(piece), item: String(one.number) };
  const act = (asked: Parameters<typeof carryOut>[0], words: string) =>
    void carryOut(asked, words).then(refreshPiece, () => undefined);
  const name = one.slip ? said(one.slip) : one.move!.text;
  const answer = (slip: number | null) =>
    act(
      done(api.PUT('/api/pieces/{number}/to-find/{item}/answer', { params: { path }, body: { slip } })),
      slip === null ? 'It is open again.' : `Answered with slip ${slip}.`,
    );
  return (
    <div className="border-b border-rule py-2">
      <div className="flex items-baseline gap-3">
        {one.move ? (
          <input
            type="checkbox"
            aria-label={name}
            checked={one.move.doneAt !== null}
            onChange={() =>
              act(
                done(
                  api.PATCH('/api/moves/{number}', {
                    params: { path: { number: String(one.move!.number) } },
                    body: { version: one.move!.version, done: one.move!.doneAt === null },
                  }),
                ),
                one.move!.doneAt === null ? 'Got.' : 'Open again.',
              )
            }
            className="h-[15px] w-[15px] shrink-0 translate-y-[2px] accent-(--done)"
          />
        ) : (
          <span
            aria-hidden
            className={`w-[15px] shrink-0 text-center font-semibold ${one.isSettled ? 'text-done' : 'text-red'}`}
          >
            {one.isSettled ? '✓' : '?'}
          </span>
        )}
        <div className="min-w-0 flex-1">
          {one.slip ? (
            <Link
              to={`/library/slip/${one.slip.number}`}
              className="written text-[15.5px] leading-snug hover:text-blue"
            >
              {name}
            </Link>
          ) : (
            <span
              className={`written text-[15.5px] leading-snug ${one.isSettled ? 'text-second line-through decoration-hair' : ''}`}
            >
              {name}
            </span>
          )}
          {one.move?.due && <span className="ml-2 text-[12px] text-second">due {nearDay(one.move.due)}</span>}
          {one.answer && (
            <p className="written text-[14.5px] leading-snug text-second">
              <Link to={`/library/slip/${one.answer.number}`} className="hover:text-blue">
                <span className="narrow font-sans text-[11.5px]">slip {one.answer.number}</span> {said(one.answer)}
              </Link>
            </p>
          )}
        </div>
        {one.slip && (
          <button
            type="button"
            className="link min-h-6 shrink-0 text-[12.5px]"
            aria-expanded={answering}
            onClick={() => (one.answer ? answer(null) : setAnswering(!answering))}
          >
            {one.answer ? 'open it again' : answering ? 'not now' : 'answer it'}
          </button>
        )}
        <button
          type="button"
          aria-label={`Take “${name}” from the list`}
          className="min-h-6 min-w-6 shrink-0 text-second hover:text-red"
          onClick={() =>
            act(
              done(api.DELETE('/api/pieces/{number}/to-find/{item}', { params: { path } })),
              'Taken from the list; it stays in the papers.',
            )
          }
        >
          ×
        </button>
      </div>
      {answering && one.slip && (
        <Answers
          piece={piece}
          question={one.slip}
          onTake={(slip) => {
            setAnswering(false);
            answer(slip);
          }}
        />
      )}
    </div>
  );
}

/** Passages that could answer: what reads like the question first, then the rest of the piece's material. */
function Answers({ piece, question, onTake }: { piece: number; question: Slip; onTake: (slip: number) => void }) {
  const near = useQuery({
    queryKey: keys.advice(question.number),
    queryFn: () =>
      ask(api.GET('/api/slips/{number}/advice', { params: { path: { number: String(question.number) } } })),
  }).data;
  const material = useQuery({
    queryKey: keys.material(piece),
    queryFn: () => ask(api.GET('/api/pieces/{number}/material', { params: { path: { number: String(piece) } } })),
  }).data;
  const [typed, setTyped] = useState('');
  const seen = new Set([question.number]);
  const offers: { number: number; text: string }[] = [];
  const offer = (number: number, text: string) => {
    if (seen.has(number)) return;
    seen.add(number);
    offers.push({ number, text });
  };
  for (const alike of [...(near?.readsLike ?? []), ...(near?.wouldFit ?? [])])
    if (alike.thing.kind === 'slip') offer(alike.thing.number, alike.title);
  for (const item of material?.items ?? [])
    if (item.slip && item.slip.kind !== 'question') offer(item.slip.number, said(item.slip));
  return (
    <div className="mt-1.5 ml-[27px] border-l border-line pl-3">
      {!near && <p className="text-second">looking…</p>}
      {offers.slice(0, 6).map((one) => (
        <button
          key={one.number}
          type="button"
          onClick={() => onTake(one.number)}
          className="block w-full py-1 text-left hover:text-blue"
        >
          <span className="written line-clamp-2 text-[14.5px] leading-snug">
            <span className="narrow font-sans text-[11.5px] text-second">slip {one.number}</span> {one.text}
          </span>
        </button>
      ))}
      {near && offers.length === 0 && <p className="text-second">Nothing here reads like it.</p>}
      <form
        className="mt-1 flex items-baseline gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          const number = Number(typed.replace(/^slip\s*/i, ''));
          if (number > 0) onTake(number);
        }}
      >
        <label className="text-[12.5px] text-second">
          or slip{' '}
          <input
            inputMode="numeric"
            aria-label="Number of the slip that answers"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            className="figures w-16 border-b border-hair bg-transparent outline-none focus:border-blue"
          />
        </label>
        <Button type="submit" disabled={!(Number(typed.replace(/^slip\s*/i, '')) > 0)}>
          Answer
        </Button>
      </form>
    </div>
  );
}
