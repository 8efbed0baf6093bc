import { useRef, useState } from 'react';
import type { Section } from '../api/client';
import type { components } from '../api/schema';
import { useHeld } from '../ui/useField';
import { endOf, useCarrying } from './carrying';
import { numbered } from './headings';
import { SectionLinks } from './SectionLinks';
import { Landing, SectionRow } from './SectionRow';
import { linksTo, usePieceLinks } from './pieceLinks';

export type OutlineActs = {
  add: (title: string, after: number | null, depth: number) => Promise<unknown>;
  edit: (section: number, change: components['schemas']['SectionChange']) => Promise<unknown>;
  move: (section: number, before: number | null, depth: number) => Promise<unknown>;
  remove: (section: Section, inside: number) => Promise<unknown>;
  goTo: (at: number) => void;
};

/** Step of a section by key: up, down, deeper or shallower, its children with it. */
function step(
  sections: readonly Section[],
  at: number,
  key: string,
): { before: number | null; depth: number } | undefined {
  const own = sections[at]!;
  const end = endOf(sections, at);
  const number = (index: number) => sections[index]?.number ?? null;
  if (key === 'ArrowUp' && at > 0) {
    // Before the nearest section above that is not deeper, so that no family is broken up.
    let to = at - 1;
    while (to > 0 && sections[to]!.depth > own.depth) to--;
    return { before: number(to), depth: own.depth };
  }
  if (key === 'ArrowDown' && end < sections.length) return { before: number(endOf(sections, end)), depth: own.depth };
  if (key === 'ArrowRight' && at > 0 && own.depth <= sections[at - 1]!.depth)
    return { before: number(end), depth: own.depth + 1 };
  if (key === 'ArrowLeft' && own.depth > 1) {
    // Out of its family altogether, behind the last of it.
    const parent = sections.slice(0, at).findLastIndex((section) => section.depth < own.depth);
    return { before: number(parent < 0 ? end : endOf(sections, parent)), depth: own.depth - 1 };
  }
  return undefined;
}

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

/** The outline: every section with what is written of its aim and the material placed in it. */
export function OutlineColumn({
  piece,
  sections,
  current,
  beats,
  acts,
}: {
  piece: number;
  sections: readonly Section[];
  current: number;
  beats: readonly string[];
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
  const carrying = useCarrying(
    sections,
    list,
    (section, before, depth) => void acts.move(section, before, depth).catch(() => undefined),
  );
  const { carried } = carrying;
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
  const focusRow = (at: number, by: 1 | -1) => {
    let to = at + by;
    while (hidden.has(to)) to += by;
    list.current?.querySelector<HTMLElement>(`[data-section="${to}"] [data-handle]`)?.focus();
  };
  return (
    <section
      ref={list}
      aria-label="Outline"
      className="relative flex w-[372px] shrink-0 flex-col overflow-y-auto bg-quiet max-xl:w-[320px] max-lg:w-[280px] max-md:w-auto"
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
              onFold={() => fold(section.number)}
              links={linksTo(links, section.title).length}
              number={numbers[at]!}
              isCurrent={at === current}
              isCarried={carried !== null && at >= carried.from && at < endOf(sections, carried.from)}
              line={carried?.gap === at ? carried : null}
              most={most}
              beats={beats}
              acts={acts}
              onGo={() => !carrying.wasDragged() && acts.goTo(at)}
              onLinks={() => setLinksOf(section.title)}
              onLift={(event) => carrying.lift(event, at)}
              onHandleKey={(event) => {
                if (event.altKey || carrying.key(event, at)) return;
                if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
                  event.preventDefault();
                  focusRow(at, event.key === 'ArrowDown' ? 1 : -1);
                }
                const isFolded = folded.has(section.number);
                if (event.key === (isFolded ? 'ArrowRight' : 'ArrowLeft') && endOf(sections, at) > at + 1) {
                  event.preventDefault();
                  fold(section.number);
                }
              }}
              onHandleBlur={() => void carrying.cancel()}
              onStep={(key) => {
                const to = step(sections, at, key);
                if (to) void acts.move(section.number, to.before, to.depth).catch(() => undefined);
              }}
            />
          ),
        )}
        <li aria-hidden className="relative h-0">
          {carried?.gap === sections.length && <Landing carried={carried} />}
        </li>
      </ol>
      <p role="status" className="sr-only">
        {carried &&
          `“${sections[carried.from]?.title}” would stand ${
            sections[carried.gap] ? `before “${sections[carried.gap]!.title}”` : 'at the end'
          }, at depth ${carried.depth}.`}
      </p>
      {linksOf !== null && <SectionLinks piece={piece} section={linksOf} onClose={() => setLinksOf(null)} />}
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
        {sections.length === 0 && (
          <p className="mt-3 text-second">
            No sections yet. Add one here, or write a line that starts with ## in the draft.
          </p>
        )}
      </div>
    </section>
  );
}
