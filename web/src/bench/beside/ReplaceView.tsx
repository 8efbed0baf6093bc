import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { api, ask, done, type Section } from '../../api/client';
import { queryClient } from '../../api/queries';
import type { components } from '../../api/schema';
import { carryOut } from '../../papers/notices';
import { Button } from '../../ui/Button';

type Asked = components['schemas']['ReplaceAsked'];
type Place = components['schemas']['PlaceShown'];

/** Finds and replaces in the section, the draft, or the series; every place is seen before anything changes. */
export function ReplaceView({
  piece,
  version,
  section,
  inSeries,
  first,
  onGo,
  flush,
}: {
  piece: number;
  version: number;
  section: Section | undefined;
  inSeries: boolean;
  /** What was chosen in the draft when it was opened. */
  first: string;
  onGo: (from: number, to: number) => void;
  flush: () => Promise<unknown>;
}) {
  const [find, setFind] = useState(first);
  const [replacement, setReplacement] = useState('');
  const [as, setAs] = useState<NonNullable<Asked['as']>>('plain');
  const [matchCase, setMatchCase] = useState(false);
  const [where, setWhere] = useState<'section' | 'draft' | 'series'>('draft');
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const at = useRef(-1);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.select(), []);
  const settled = useLater(find);
  const asked: Asked = {
    piece,
    find: settled,
    with: replacement,
    as,
    matchCase,
    section: where === 'section' ? section?.number : undefined,
    series: where === 'series',
  };
  const found = useQuery({
    queryKey: ['replace', asked, version],
    queryFn: async () => {
      await flush();
      return ask(api.POST('/api/replace/preview', { body: asked }));
    },
    enabled: settled !== '',
    retry: false,
    placeholderData: (before) => before,
  });
  const pieces = settled === '' || found.error ? [] : (found.data ?? []);
  const own = pieces.find((one) => one.piece === piece)?.places ?? [];
  const all = pieces.flatMap((one) => one.places.map((place) => ({ piece: one.piece, place })));
  const key = (of: number, place: Place) => `${of}:${place.from}`;
  const chosen = all.filter(({ piece: of, place }) => !left.has(key(of, place)));
  const step = (way: 1 | -1) => {
    if (own.length === 0) return;
    at.current = (at.current + way + own.length) % own.length;
    const place = own[at.current]!;
    onGo(place.from, place.to);
    field.current?.focus();
  };
  const replace = async () => {
    const made = await carryOut(
      done(
        api.POST('/api/replace', {
          body: {
            asked,
            chosen: pieces.map((one) => ({
              piece: one.piece,
              version: one.version,
              places: one.places.filter((place) => !left.has(key(one.piece, place))).map((place) => place.nth),
            })),
          },
        }),
      ),
      ({ places, pieces: where }) =>
        `Replaced ${places === 1 ? 'once' : `${places} times`}${where.length > 1 ? ` in ${where.length} pieces` : ''}.`,
    ).catch(() => undefined);
    if (made) setLeft(new Set());
    await queryClient.invalidateQueries({ queryKey: ['replace'] });
  };
  const way = (name: NonNullable<Asked['as']>, said: string) => (
    <label className="flex min-h-6 items-center gap-1.5">
      <input type="radio" name="as" checked={as === name} onChange={() => setAs(name)} />
      {said}
    </label>
  );
  return (
    <form
      className="px-3.5 py-3"
      onSubmit={(event) => {
        event.preventDefault();
        step(1);
      }}
    >
      <label className="label block text-second">
        Find
        <input
          ref={field}
          aria-label="Find"
          value={find}
          autoFocus
          onChange={(event) => {
            setFind(event.target.value);
            at.current = -1;
          }}
          onKeyDown={(event) => {
            if (event.key === 'Enter' && event.shiftKey) {
              event.preventDefault();
              step(-1);
            }
          }}
          className="written mt-0.5 block w-full border-b border-ink bg-transparent py-0.5 text-[15px] font-normal tracking-normal normal-case outline-none focus:border-blue"
        />
      </label>
      <label className="label mt-2 block text-second">
        Put in its place
        <input
          aria-label="Put in its place"
          value={replacement}
          onChange={(event) => setReplacement(event.target.value)}
          className="written mt-0.5 block w-full border-b border-hair bg-transparent py-0.5 text-[15px] font-normal tracking-normal normal-case outline-none focus:border-blue"
        />
      </label>
      <fieldset className="mt-2 flex flex-wrap gap-x-3 text-[12.5px]">
        <legend className="sr-only">How it is looked for</legend>
        {way('plain', 'as it stands')}
        {way('words', 'whole words')}
        {way('pattern', 'a pattern')}
        <label className="flex min-h-6 items-center gap-1.5">
          <input type="checkbox" checked={matchCase} onChange={(event) => setMatchCase(event.target.checked)} />
          capitals count
        </label>
      </fieldset>
      {as === 'pattern' && (
        <p className="mt-1 text-[12px] text-second">
          A regular expression; $1 puts in its first group. It looks neither ahead nor back.
        </p>
      )}
      <label className="mt-1 flex items-center gap-2 text-[12.5px]">
        in
        <select
          value={where}
          onChange={(event) => setWhere(event.target.value as typeof where)}
          className="min-h-6 flex-1 bg-transparent"
        >
          <option value="draft">the whole draft</option>
          {section && <option value="section">“{section.title}”</option>}
          {inSeries && <option value="series">all pieces of its series</option>}
        </select>
      </label>
      {found.error && settled !== '' && (
        <p role="alert" className="mt-2 text-red">
          {found.error.message}
        </p>
      )}
      <p role="status" className="mt-3 text-[12.5px]">
        {settled === '' || found.error
          ? ''
          : all.length === 0 && !found.isFetching
            ? 'It stands nowhere there.'
            : `${all.length} ${all.length === 1 ? 'place' : 'places'}`}
      </p>
      {all.length > 0 && (
        <div className="mt-1 flex flex-wrap gap-2">
          <Button type="submit">Next</Button>
          <Button look="main" disabled={chosen.length === 0} onClick={() => void replace()}>
            Replace {chosen.length === 1 ? 'it' : chosen.length}
          </Button>
        </div>
      )}
      {pieces.map((one) => (
        <div key={one.piece} className="mt-2">
          {pieces.length > 1 && (
            <h3 className="label text-second">
              P {one.piece} · {one.title}
            </h3>
          )}
          {one.places.slice(0, 200).map((place) => (
            <div key={place.from} className="flex items-start gap-2 border-b border-rule py-1">
              <input
                type="checkbox"
                aria-label={`Replace “${place.found}” here`}
                checked={!left.has(key(one.piece, place))}
                onChange={() => {
                  const next = new Set(left);
                  if (!next.delete(key(one.piece, place))) next.add(key(one.piece, place));
                  setLeft(next);
                }}
                className="mt-1.5"
              />
              <button
                type="button"
                disabled={one.piece !== piece}
                onClick={() => onGo(place.from, place.to)}
                className="written min-w-0 text-left text-[13.5px] leading-snug enabled:hover:bg-wash"
              >
                {place.before}
                <del className="text-red">{place.found}</del>
                {place.becomes && <ins className="text-blue no-underline">{place.becomes}</ins>}
                {place.after}
              </button>
            </div>
          ))}
          {one.places.length > 200 && (
            <p className="text-second">and {one.places.length - 200} more, which go with them</p>
          )}
        </div>
      ))}
    </form>
  );
}

/** A value a moment after it was typed. */
function useLater<T>(value: T): T {
  const [later, setLater] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setLater(value), 200);
    return () => clearTimeout(timer);
  }, [value]);
  return later;
}
