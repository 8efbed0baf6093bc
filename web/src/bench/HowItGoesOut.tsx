import { useQuery } from '@tanstack/react-query';
import { api, ask, done, type Piece } from '../api/client';
import { keys, usePieces } from '../api/queries';
import { carryOut } from '../papers/notices';
import { numbered } from './headings';
import { refreshPiece } from './refreshPiece';

/** Which parts go out, with which titles, how works are cited, and what goes with the draft. */
export function HowItGoesOut({
  piece,
  isBook,
  how,
  onChange,
}: {
  piece: Piece;
  /** Whether other pieces can stand behind it. */
  isBook: boolean;
  how: Record<string, string>;
  onChange: (how: Record<string, string>) => void;
}) {
  const path = { number: String(piece.number) };
  const sections =
    useQuery({
      queryKey: ['piece', piece.number, 'outline'],
      queryFn: () => ask(api.GET('/api/pieces/{number}/outline', { params: { path } })),
    }).data ?? [];
  const sides = (
    useQuery({
      queryKey: keys.sideTexts(piece.number),
      queryFn: () => ask(api.GET('/api/pieces/{number}/side-texts', { params: { path } })),
    }).data ?? []
  ).filter((side) => side.text.trim() !== '');
  const numbers = numbered(sections.map((section) => section.depth));
  const set = (name: string, value: string | undefined) => {
    const rest = Object.fromEntries(Object.entries(how).filter(([key]) => key !== name));
    onChange(value === undefined ? rest : { ...rest, [name]: value });
  };
  const list = (name: string) => (how[name] ?? '').split(',').filter(Boolean);
  const turn = (name: string, one: string) => {
    const now = list(name);
    const next = now.includes(one) ? now.filter((other) => other !== one) : [...now, one];
    set(name, next.length > 0 ? next.join(',') : undefined);
  };
  const others = (usePieces().data ?? []).filter((one) => one.number !== piece.number && one.words > 0);
  const isSide = how.side !== undefined;
  return (
    <details className="mt-3 border-b border-rule pb-2">
      <summary className="min-h-7 cursor-pointer font-semibold text-blue">What of it, and how</summary>
      {sides.length > 0 && (
        <label className="flex min-h-7 items-center gap-2 text-[13px]">
          take out
          <select
            aria-label="What is taken out"
            value={how.side ?? ''}
            onChange={(event) => set('side', event.target.value || undefined)}
            className="min-w-0 flex-1 bg-transparent"
          >
            <option value="">the draft</option>
            {sides.map((side) => (
              <option key={side.key} value={side.key}>
                {side.name}, by itself
              </option>
            ))}
          </select>
        </label>
      )}
      {!isSide && (
        <>
          <label className="flex min-h-7 items-center gap-2 text-[13px]">
            <input
              type="checkbox"
              checked={how.title !== 'false'}
              onChange={(event) => set('title', event.target.checked ? undefined : 'false')}
            />
            with its title
          </label>
          <label className="flex min-h-7 items-center gap-2 text-[13px]">
            headings
            <select
              aria-label="Headings"
              value={how.headings ?? 'kept'}
              onChange={(event) => set('headings', event.target.value === 'kept' ? undefined : event.target.value)}
              className="bg-transparent"
            >
              <option value="kept">as they stand</option>
              <option value="numbered">numbered</option>
              <option value="left">left out</option>
            </select>
          </label>
          <label className="flex min-h-7 items-center gap-2 text-[13px]">
            works are cited
            <select
              aria-label="How works are cited"
              value={piece.citing}
              onChange={(event) =>
                void carryOut(
                  done(
                    api.PATCH('/api/pieces/{number}', {
                      params: { path },
                      body: { citing: event.target.value as Piece['citing'], version: piece.version },
                    }),
                  ),
                  'How works are cited is changed.',
                ).then(refreshPiece, () => undefined)
              }
              className="bg-transparent"
            >
              <option value="none">not at all</option>
              <option value="authorYear">by author and year</option>
              <option value="notes">in numbered notes</option>
            </select>
          </label>
          {sides.length > 0 && (
            <fieldset>
              <legend className="text-[12.5px] text-second">and behind it</legend>
              {sides.map((side) => (
                <label key={side.key} className="flex min-h-6 items-center gap-2 text-[13px]">
                  <input
                    type="checkbox"
                    checked={list('sides').includes(side.key)}
                    onChange={() => turn('sides', side.key)}
                  />
                  {side.name}
                </label>
              ))}
            </fieldset>
          )}
          {isBook && others.length > 0 && (
            <fieldset className="mt-1">
              <legend className="text-[12.5px] text-second">together with, in this order</legend>
              <div className="max-h-32 overflow-y-auto">
                {others.map((one) => (
                  <label key={one.number} className="flex min-h-6 items-center gap-2 text-[13px]">
                    <input
                      type="checkbox"
                      checked={list('with').includes(String(one.number))}
                      onChange={() => turn('with', String(one.number))}
                    />
                    <span className="min-w-0 flex-1 truncate">
                      P {one.number} · {one.title}
                    </span>
                    <span className="figures text-[12px] text-second">
                      {list('with').includes(String(one.number)) ? list('with').indexOf(String(one.number)) + 2 : ''}
                    </span>
                  </label>
                ))}
              </div>
            </fieldset>
          )}
          {sections.length > 1 && (
            <fieldset className="mt-1">
              <legend className="text-[12.5px] text-second">
                {list('sections').length === 0 ? 'the whole of it; or only' : 'only'}
              </legend>
              <div className="max-h-40 overflow-y-auto">
                {sections.map((section, nth) => (
                  <label key={section.number} className="flex min-h-6 items-center gap-2 text-[13px]">
                    <input
                      type="checkbox"
                      checked={list('sections').includes(String(section.number))}
                      onChange={() => turn('sections', String(section.number))}
                    />
                    <span className="figures w-7 text-second">{numbers[nth]}</span>
                    <span className="min-w-0 flex-1 truncate">{section.title}</span>
                  </label>
                ))}
              </div>
            </fieldset>
          )}
        </>
      )}
    </details>
  );
}
