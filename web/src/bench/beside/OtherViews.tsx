import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask, done, type Draft, type Done, type Piece, type Section } from '../../api/client';
import { keys, queryClient, usePieces } from '../../api/queries';
import { carryOut } from '../../papers/notices';
import { QueryField } from '../../text/QueryField';
import { useSettled } from '../../text/understood';
import { Found } from '../../ui/Found';
import { Prose } from '../../ui/MarkdownText';
import { Failed, Loading } from '../../ui/States';
import { Heap } from '../before/Heap';

const remembered = (place: string) => Number(localStorage.getItem(place)) || 0;

/** Everything in the papers, without leaving the text. */
export function FindView({ onPut }: { onPut: (reference: string) => void }) {
  const [typed, setTyped] = useState('');
  const query = useSettled(typed.trim());
  const found = useQuery({
    queryKey: keys.find(query),
    queryFn: () => ask(api.GET('/api/find', { params: { query: { query } } })),
    enabled: query !== '',
    retry: false,
    placeholderData: (before) => before,
  });
  const hits = query === '' ? [] : (found.data?.hits ?? []);
  return (
    <div className="px-3.5 py-3">
      <QueryField label="Find in all papers" placeholder="words, or topic: kind: …" value={typed} onChange={setTyped} />
      {found.error && <p className="mt-2 text-red">{found.error.message}</p>}
      {hits.map((hit, nth) => {
        const name = hit.thing.kind === 'piece' ? `P ${hit.thing.number}` : `${hit.thing.kind} ${hit.thing.number}`;
        const canBeNamed = ['slip', 'source', 'piece', 'topic'].includes(hit.thing.kind);
        return (
          <article key={`${name}${nth}`} className="border-b border-rule py-1.5">
            <p className="written text-[14px] leading-snug">
              <b className="font-semibold">{hit.title}</b>{' '}
              {hit.excerpt && hit.excerpt !== hit.title && <Found text={hit.excerpt} />}
            </p>
            <p className="flex gap-3 text-[12px]">
              <Link className="link inline-flex min-h-6 items-center" to={hit.address}>
                {canBeNamed ? name : hit.thing.kind}
              </Link>
              {canBeNamed && (
                <button type="button" className="link min-h-6" onClick={() => onPut(`[[${name}]]`)}>
                  refer to it
                </button>
              )}
            </p>
          </article>
        );
      })}
      {query !== '' && found.data?.hits.length === 0 && <p className="mt-2 text-second">Nothing has these words.</p>}
    </div>
  );
}

/** A source with what it says and what was said in it. */
export function SourceView({ onPut }: { onPut: (reference: string) => void }) {
  const [number, setNumber] = useState(() => remembered('nachlass.beside.source'));
  const sources = useQuery({
    queryKey: keys.library({ beside: 'sources' }),
    queryFn: () =>
      ask(api.GET('/api/library', { params: { query: { query: 'kind:source', state: 'all', pageSize: 200 } } })),
  });
  const path = { number: String(number) };
  const opened = useQuery({
    queryKey: [...keys.source(number), 'opened'],
    queryFn: () => ask(api.GET('/api/sources/{number}/opened', { params: { path } })),
    enabled: number > 0,
    retry: false,
  });
  const lines = useQuery({
    queryKey: keys.transcript(number),
    queryFn: () => ask(api.GET('/api/sources/{number}/transcript', { params: { path } })),
    enabled: number > 0,
    retry: false,
  });
  const all = (sources.data?.items ?? []).flatMap((entry) => (entry.source ? [entry.source] : []));
  const source = opened.data?.source;
  return (
    <div className="px-3.5 py-3">
      <select
        aria-label="Source"
        value={number}
        onChange={(event) => {
          localStorage.setItem('nachlass.beside.source', event.target.value);
          setNumber(Number(event.target.value));
        }}
        className="min-h-7 w-full border-b border-ink bg-transparent text-[13px]"
      >
        <option value={0}>choose a source…</option>
        {all.map((one) => (
          <option key={one.number} value={one.number}>
            {one.title}
          </option>
        ))}
      </select>
      {opened.error && number > 0 && <Failed error={opened.error} />}
      {opened.isFetching && !source && <Loading />}
      {source && (
        <>
          <h2 className="written mt-2 text-[16px] leading-snug font-semibold">{source.title}</h2>
          <p className="text-[12.5px] text-second">
            {source.creators} {source.date}
          </p>
          <p className="flex gap-3 text-[12.5px]">
            <button type="button" className="link min-h-6" onClick={() => onPut(`[[source ${source.number}]]`)}>
              cite it
            </button>
            <Link className="link min-h-6" to={`/library/source/${source.number}`}>
              open it
            </Link>
          </p>
          {source.summary && (
            <p className="written mt-2 text-[14px] leading-snug whitespace-pre-wrap">{source.summary}</p>
          )}
          {(opened.data?.passages ?? []).map((passage) => (
            <article key={passage.number} className="border-b border-rule py-1.5">
              <p className="written text-[14px] leading-snug">{passage.text}</p>
              <p className="flex gap-3 text-[12px] text-second">
                {passage.locator}
                <button type="button" className="link min-h-6" onClick={() => onPut(`[[slip ${passage.number}]]`)}>
                  cite slip {passage.number}
                </button>
              </p>
            </article>
          ))}
          {(lines.data ?? []).length > 0 && <h3 className="label mt-3 text-second">Transcript</h3>}
          {(lines.data ?? []).map((line, nth) => (
            <p key={nth} className="written py-0.5 text-[13.5px] leading-snug">
              {line.speaker && <b className="font-sans text-[12px]">{line.speaker} </b>}
              {line.text}
            </p>
          ))}
          {source.text && opened.data && <Prose html={opened.data.textHtml} className="mt-3 text-[14px]" />}
        </>
      )}
    </div>
  );
}

/** An earlier piece, to read while writing. */
export function PieceView({ besides, onPut }: { besides: number; onPut: (reference: string) => void }) {
  const [number, setNumber] = useState(() => remembered('nachlass.beside.piece'));
  const pieces = (usePieces().data ?? []).filter((piece) => piece.number !== besides);
  const draft = useQuery({
    queryKey: ['beside', 'read', number],
    queryFn: async () => {
      const answer = await fetch(`/api/pieces/${number}/export?as=html&fragment=true`);
      if (!answer.ok) throw new Error(`P ${number} can’t be read now: the server answered ${answer.status}.`);
      return answer.text();
    },
    enabled: number > 0 && number !== besides,
    retry: false,
  });
  return (
    <div className="px-3.5 py-3">
      <select
        aria-label="Piece"
        value={number}
        onChange={(event) => {
          localStorage.setItem('nachlass.beside.piece', event.target.value);
          setNumber(Number(event.target.value));
        }}
        className="min-h-7 w-full border-b border-ink bg-transparent text-[13px]"
      >
        <option value={0}>choose a piece…</option>
        {pieces.map((piece) => (
          <option key={piece.number} value={piece.number}>
            P {piece.number} · {piece.title}
          </option>
        ))}
      </select>
      {draft.error && number > 0 && <Failed error={draft.error} />}
      {draft.isFetching && !draft.data && <Loading />}
      {draft.data && number !== besides && (
        <>
          <p className="flex gap-3 text-[12.5px]">
            <button type="button" className="link min-h-6" onClick={() => onPut(`[[P ${number}]]`)}>
              refer to it
            </button>
            <Link className="link min-h-6" to={`/bench/${number}`}>
              open it
            </Link>
          </p>
          <Prose html={draft.data} className="mt-1 text-[14px]" />
        </>
      )}
    </div>
  );
}

/** The steps of the piece's stage, to be ticked. */
export function StepsView({ piece }: { piece: Piece }) {
  const list = useQuery({
    queryKey: keys.steps(piece.number),
    queryFn: () => ask(api.GET('/api/pieces/{number}/steps', { params: { path: { number: String(piece.number) } } })),
  });
  if (list.error) return <Failed error={list.error} />;
  if (!list.data) return <Loading />;
  const here = list.data.steps.filter((step) => step.stage === list.data.stage);
  return (
    <div className="px-3.5 py-3">
      <h2 className="label text-second">{list.data.stage}</h2>
      {here.length === 0 && <p className="text-second">This stage has no steps.</p>}
      {here.map((step) => (
        <label key={step.number} className="flex items-baseline gap-2 border-b border-rule py-1 text-[13.5px]">
          <input
            type="checkbox"
            checked={step.doneAt !== null}
            onChange={(event) =>
              void carryOut(
                done(
                  api.PATCH('/api/pieces/{number}/steps/{step}', {
                    params: { path: { number: String(piece.number), step: String(step.number) } },
                    body: { done: event.target.checked },
                  }),
                ),
                event.target.checked ? 'Step done.' : 'Step open again.',
              ).then(() => queryClient.invalidateQueries({ queryKey: keys.steps(piece.number) }))
            }
          />
          <span className={step.doneAt ? 'text-second line-through' : ''}>{step.text}</span>
        </label>
      ))}
    </div>
  );
}

/** The heap of raw words. */
export function HeapView({
  piece,
  sections,
  onDraft,
}: {
  piece: number;
  sections: readonly Section[];
  onDraft: <T extends { draft: Draft }>(run: () => Promise<Done<T>>) => Promise<Done<T>>;
}) {
  const brief = useQuery({
    queryKey: keys.brief(piece),
    queryFn: () => ask(api.GET('/api/pieces/{number}/brief', { params: { path: { number: String(piece) } } })),
  });
  if (brief.error) return <Failed error={brief.error} />;
  if (!brief.data) return <Loading />;
  return (
    <div className="px-3.5">
      <Heap piece={piece} brief={brief.data.brief} sections={[...sections]} onDraft={onDraft} />
    </div>
  );
}
