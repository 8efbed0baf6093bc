import { memo, useRef, useState } from 'react';
import type { Format, Section, SeveralAct } from '../api/client';
import type { components } from '../api/schema';
import { useHeld } from '../ui/useField';
import { useSteady } from '../ui/useSteady';
import { endOf, useCarrying } from './carrying';
import { numbered } from './headings';
import { SectionLinks } from './SectionLinks';
import { Landing, SectionRow, type OutlineWay, type RowActs } from './SectionRow';
import { linksTo, usePieceLinks } from './pieceLinks';

export type OutlineActs = {
  add: (title: string, after: number | null, depth: number) => Promise<unknown>;
  edit: (section: number, change: components['schemas']['SectionChange']) => Promise<unknown>;
  move: (moved: readonly number[], before: number | null, depth: number) => Promise<unknown>;
  remove: (section: Section, inside: number) => Promise<unknown>;
  join: (section: Section) => Promise<unknown>;
  /** Lays in a section of the format. */
  lay: (section: Format['later'][number]) => Promise<unknown>;
  several: (sections: readonly number[], act: SeveralAct) => Promise<unknown>;
  goTo: (at: number) => void;
};

function useFolded(piece: number) {
  const place = `nachlass.folded.${piece}`;
  const [folded, setFolded] = useState(() => new Set(JSON.parse(localStorage.getItem(place) ?? '[]') as number[]));
  const toggle = (section: number) => {
    const next = new Set(folded);
    if (!next.delete(section)) next.add(section);
    localStorage.setItem(place, JSON.stringify([...next]));
    setFolded(next);
  };
  return [folded, toggle] as const;
}

/** The room the column takes, with or without what is in it. */
const outlineRoom = 'w-[372px] shrink-0 bg-quiet max-xl:w-[320px] max-lg:w-[280px] max-md:w-auto';

export const outlineToCome = <div className={outlineRoom} />;

/** The outline: every section with what is written of its aim and the material placed in it. */
export const OutlineColumn = memo(function OutlineColumn({
  piece,
  sections,
  current,
  beats,
  later,
  acts,
}: {
  piece: number;
  sections: readonly Section[];
  current: number;
  beats: readonly string[];
  /** Sections of its format that can be laid in. */
  later: Format['later'];
  acts: OutlineActs;
}) {
  const [linksOf, setLinksOf] = useState<string | null>(null);
  const [title, setTitle] = useHeld(`piece.${piece}.section`);
  const [error, setError] = useState('');
  const [folded, fold] = useFolded(piece);
  const list = useRef<HTMLElement>(null);
  const numbers = numbered(sections.map((section) => section.depth));
  const links = usePieceLinks(piece);
  const most = Math.max(1, ...sections.map((section) => Math.max(section.aim ?? 0, section.counts.words)));
  const add = async () => {
    if (!title.trim()) return;
    try {
      await acts.add(title, null, 1);
      setTitle('');
      setError('');
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  const hidden = new Set<number>();
  sections.forEach((section, at) => {
    if (folded.has(section.number)) for (let i = at + 1; i < endOf(sections, at); i++) hidden.add(i);
  });
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  // A section that is gone is chosen no more.
  const standing = sections.map((section) => section.number).filter((number) => chosen.has(number));
  const carrying = useCarrying(
    sections,
    standing,
    list,
    (moved, before, depth) => void acts.move(moved, before, depth).catch(() => undefined),
  );
  const { carried } = carrying;
  const last = useRef(0);
  const choose = (at: number, upTo: boolean) => {
    const next = new Set(upTo ? standing : chosen);
    if (upTo)
      for (let i = Math.min(last.current, at); i <= Math.max(last.current, at); i++) next.add(sections[i]!.number);
    else if (!next.delete(sections[at]!.number)) next.add(sections[at]!.number);
    last.current = at;
    setChosen(next);
  };
  const several = (act: SeveralAct) => {
    void acts.several(standing, act).catch(() => undefined);
    if (act === 'remove') setChosen(new Set());
  };
  const focusRow = (at: number, by: 1 | -1) => {
    let to = at + by;
    while (hidden.has(to)) to += by;
    list.current?.querySelector<HTMLElement>(`[data-section="${to}"] [data-handle]`)?.focus();
    return to >= 0 && to < sections.length ? to : at;
  };
  const own: RowActs = {
    edit: acts.edit,
    add: acts.add,
    remove: acts.remove,
    join: acts.join,
    go: (at, event) => {
      if (carrying.wasDragged()) return;
      if (event.ctrlKey || event.metaKey || event.shiftKey) return choose(at, event.shiftKey);
      last.current = at;
      setChosen(new Set());
      acts.goTo(at);
    },
    enter: acts.goTo,
    fold,
    links: setLinksOf,
    lift: carrying.lift,
    key: (event, at) => {
      if (event.altKey || carrying.key(event, at)) return;
      if (event.key === 'Escape' && standing.length > 0) {
        event.preventDefault();
        setChosen(new Set());
      }
      if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
        event.preventDefault();
        if (event.shiftKey && standing.length === 0) {
          last.current = at;
        }
        const to = focusRow(at, event.key === 'ArrowDown' ? 1 : -1);
        if (event.shiftKey) choose(to, true);
      }
      const section = sections[at]!;
      if (event.key === (folded.has(section.number) ? 'ArrowRight' : 'ArrowLeft') && endOf(sections, at) > at + 1) {
        event.preventDefault();
        fold(section.number);
      }
    },
    blur: () => void carrying.cancel(),
    step: (at: number, way: OutlineWay) => {
      const number = sections[at]!.number;
      void acts.several(standing.includes(number) ? standing : [number], way).catch(() => undefined);
    },
  };
  const rowActs = useSteady(own);
  return (
    <section
      ref={list}
      aria-label="Outline"
      className={`relative isolate flex flex-col overflow-y-auto contain-paint ${outlineRoom}`}
    >
      <header className="flex items-baseline justify-between px-5 pt-3 pb-0.5">
        <h2 className="label">Outline</h2>
        <span className="text-[12px] text-second">
          written <span className="inline-block h-[7px] w-[12px] bg-second" /> of aim{' '}
          <span className="inline-block h-[7px] w-[12px] border border-second" /> · material{' '}
          <span className="inline-block h-[4px] w-[4px] bg-blue align-middle" />
        </span>
      </header>
      <ol aria-label="Sections">
        {sections.map((section, at) =>
          hidden.has(at) ? null : (
            <SectionRow
              key={section.number}
              at={at}
              section={section}
              inside={endOf(sections, at) - at - 1}
              isFolded={folded.has(section.number)}
              links={linksTo(links, section.title).length}
              number={numbers[at]!}
              isCurrent={at === current}
              isCarried={carried?.own.has(at) ?? false}
              isChosen={chosen.has(section.number)}
              line={carried?.gap === at ? carried : null}
              most={most}
              beats={beats}
              isMany={sections.length > 24}
              acts={rowActs}
            />
          ),
        )}
        <li aria-hidden className="relative h-0">
          {carried?.gap === sections.length && <Landing carried={carried} />}
        </li>
      </ol>
      <p role="status" className="sr-only">
        {carried &&
          `${carried.moved.length > 1 ? `${carried.moved.length} sections` : `“${sections[carried.from]?.title}”`} would stand ${
            sections[carried.gap] ? `before “${sections[carried.gap]!.title}”` : 'at the end'
          }, at depth ${carried.depth}.`}
      </p>
      {linksOf !== null && <SectionLinks piece={piece} section={linksOf} onClose={() => setLinksOf(null)} />}
      {standing.length > 1 && (
        <div
          role="toolbar"
          aria-label="Chosen sections"
          className="sticky bottom-0 z-10 flex flex-wrap items-center gap-x-1 border-y border-blue bg-wash px-4 py-1 text-[12.5px]"
        >
          <b className="mr-2">{standing.length} sections</b>
          {(
            [
              ['up', '↑', 'Move them up'],
              ['down', '↓', 'Move them down'],
              ['out', '←', 'Nest them less'],
              ['in', '→', 'Nest them deeper'],
            ] as const
          ).map(([act, sign, name]) => (
            <button
              key={act}
              type="button"
              aria-label={name}
              title={name}
              className="min-h-7 min-w-7 font-[system-ui] hover:text-blue"
              onClick={() => several(act)}
            >
              {sign}
            </button>
          ))}
          <button type="button" className="link min-h-7 px-1" onClick={() => several('settle')}>
            settled
          </button>
          <button type="button" className="min-h-7 px-1 text-second hover:text-red" onClick={() => several('remove')}>
            delete
          </button>
          <button
            type="button"
            aria-label="Choose none"
            className="ml-auto min-h-7 min-w-7 text-second hover:text-ink"
            onClick={() => setChosen(new Set())}
          >
            ×
          </button>
        </div>
      )}
      <div className="px-5 pt-1 pb-6">
        <input
          aria-label="New section"
          value={title}
          onChange={(event) => setTitle(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter') void add();
            if (event.key === 'Escape') event.currentTarget.blur();
          }}
          placeholder="another section"
          className="written w-full border-b border-hair bg-transparent py-1.5 pl-[34px] text-[15px] outline-none placeholder:italic focus:border-blue"
        />
        {error && (
          <p role="alert" className="mt-1 text-red">
            {error}
          </p>
        )}
        {later.length > 0 && (
          <p className="mt-2 pl-[34px] text-[12.5px] text-second">
            lay in{' '}
            {later.map((one, at) => (
              <span key={one.number}>
                {at > 0 && ', '}
                <button
                  type="button"
                  className="min-h-6 text-blue hover:underline"
                  onClick={() => void acts.lay(one).catch(() => undefined)}
                >
                  {one.title}
                </button>
              </span>
            ))}
          </p>
        )}
        {sections.length === 0 && (
          <p className="mt-3 text-second">
            No sections yet. Add one here, or write a line that starts with ## in the draft.
          </p>
        )}
      </div>
    </section>
  );
});
