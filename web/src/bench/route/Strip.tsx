import { Fragment, useState } from 'react';
import type { RouteSection, RouteShown } from '../../api/client';
import type { RouteActs } from './RoutePart';

/** Words a minute, read silently and aloud, as the server counts them. */
const aloud = 183;

const inside = (sections: readonly RouteSection[], at: number) => {
  let end = at + 1;
  while (end < sections.length && sections[end]!.depth > sections[at]!.depth) end++;
  return sections.slice(at, end);
};

/** The whole piece as one strip, each section as broad as it is long; red only where something is wrong. Sections are moved on it. */
export function Strip({ route: { route }, acts }: { route: RouteShown; acts: RouteActs }) {
  const [minutes, setMinutes] = useState(() => localStorage.getItem('nachlass.route.in') === 'minutes');
  const [dragged, setDragged] = useState<number | null>(null);
  const [gap, setGap] = useState<number | null>(null);
  // A part stands on the strip with all that is inside it.
  const tops = route.sections
    .map((section, at) => ({ section, at }))
    .filter(({ section, at }) => at === 0 || section.depth === 1);
  const said = (words: number) =>
    minutes ? `${(words / aloud).toLocaleString('en', { maximumFractionDigits: 1 })}` : words.toLocaleString('en');
  const total = route.sections.reduce((sum, section) => sum + section.words, 0);
  const aim = route.sections.reduce((sum, section) => sum + (section.aim ?? 0), 0);
  const moveTo = (from: number, before: number | null) => {
    const own = tops[from]!.section;
    if (before === from || before === from + 1) return;
    void acts
      .move([own.number], before === null || before >= tops.length ? null : tops[before]!.section.number, 1)
      .catch(() => undefined);
  };
  if (tops.length === 0)
    return (
      <p className="mt-8 max-w-[46rem] text-second">
        No sections yet, so there is no route. What the material proposes stands below; or lay out sections beside the
        draft.
      </p>
    );
  return (
    <section aria-label="Route" className="mt-6">
      <div className="flex items-baseline gap-4 pb-2 text-[12.5px] text-second">
        <span className="figures">
          {said(total)} of {said(aim)} {minutes ? 'minutes, read aloud' : 'words'}
        </span>
        <span className="max-md:hidden">drag a section to move it, or Alt ← → on it</span>
        <button
          type="button"
          className="link ml-auto min-h-6"
          onClick={() => {
            localStorage.setItem('nachlass.route.in', minutes ? 'words' : 'minutes');
            setMinutes(!minutes);
          }}
        >
          in {minutes ? 'words' : 'minutes'}
        </button>
      </div>
      <div className="overflow-x-auto pb-1" tabIndex={0} role="group" aria-label="The strip">
        <ol
          className="flex w-full gap-[3px]"
          style={{ minWidth: `${tops.length * 74}px` }}
          onDragLeave={(event) => {
            if (!event.currentTarget.contains(event.relatedTarget as Node)) setGap(null);
          }}
        >
          {tops.map(({ section, at }, nth) => {
            const family = inside(route.sections, at);
            const words = family.reduce((sum, one) => sum + one.words, 0);
            const aimed = family.reduce((sum, one) => sum + (one.aim ?? 0), 0);
            return (
              <Fragment key={section.number}>
                {route.missing
                  .filter((beat) => beat.before === section.number)
                  .map((beat) => (
                    <Missing key={beat.beat} beat={beat.beat} breadth={Math.max(beat.aim ?? 0, 60)} />
                  ))}
                <li
                  data-strip={section.number}
                  className="relative flex min-w-[70px] flex-col"
                  style={{ flex: `${Math.max(section.breadth, 40)} 1 0%` }}
                  onDragOver={(event) => {
                    if (dragged === null) return;
                    event.preventDefault();
                    const box = event.currentTarget.getBoundingClientRect();
                    setGap(event.clientX < box.left + box.width / 2 ? nth : nth + 1);
                  }}
                  onDrop={(event) => {
                    event.preventDefault();
                    if (dragged !== null && gap !== null) moveTo(dragged, gap);
                    setDragged(null);
                    setGap(null);
                  }}
                >
                  {gap === nth && <span aria-hidden className="absolute inset-y-0 -left-[3px] w-[3px] bg-blue" />}
                  {gap === tops.length && nth === tops.length - 1 && (
                    <span aria-hidden className="absolute inset-y-0 -right-[3px] w-[3px] bg-blue" />
                  )}
                  <button
                    type="button"
                    draggable
                    onDragStart={(event) => {
                      event.dataTransfer.effectAllowed = 'move';
                      event.dataTransfer.setData('text/plain', section.title);
                      setDragged(nth);
                    }}
                    onDragEnd={() => {
                      setDragged(null);
                      setGap(null);
                    }}
                    onKeyDown={(event) => {
                      if (!event.altKey || (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight')) return;
                      // Never the browser's own: Alt+← would leave the page.
                      event.preventDefault();
                      if (event.key === 'ArrowLeft' && nth > 0) moveTo(nth, nth - 1);
                      if (event.key === 'ArrowRight' && nth + 1 < tops.length) moveTo(nth, nth + 2);
                    }}
                    onClick={() => acts.goTo(-1 - at)}
                    title={section.title}
                    className={`relative flex h-[68px] flex-col items-start overflow-hidden bg-board/60 px-2 pt-1.5 text-left ${
                      section.isAtFault ? 'border-2 border-red' : 'border-2 border-transparent hover:border-hair'
                    } ${dragged === nth ? 'opacity-50' : ''}`}
                  >
                    <span className="written line-clamp-2 text-[14px] leading-[1.15] font-semibold">
                      {section.title}
                    </span>
                    <span className="narrow figures w-full truncate text-[11.5px] text-second">
                      {said(words)} / {aimed ? said(aimed) : '–'}
                      {family.length > 1 && ` · ${family.length - 1} inside`}
                    </span>
                    <span
                      aria-hidden
                      className="absolute bottom-0 left-0 h-[5px] bg-second"
                      style={{
                        width: `${Math.min(100, aimed ? (100 * words) / Math.max(aimed, words) : words ? 100 : 0)}%`,
                      }}
                    />
                  </button>
                  <span className={`mt-1 truncate text-[11.5px] ${section.beat ? 'text-second' : 'text-second'}`}>
                    {section.beat || 'no beat'}
                  </span>
                </li>
              </Fragment>
            );
          })}
          {route.missing
            .filter((beat) => beat.before === null)
            .map((beat) => (
              <Missing key={beat.beat} beat={beat.beat} breadth={Math.max(beat.aim ?? 0, 60)} />
            ))}
        </ol>
      </div>
    </section>
  );
}

/** A beat that no section carries. */
function Missing({ beat, breadth }: { beat: string; breadth: number }) {
  return (
    <li className="flex min-w-[70px] flex-col" style={{ flex: `${Math.min(breadth, 150)} 1 0%` }}>
      <span className="narrow flex h-[68px] flex-col border border-dashed border-red px-2 pt-1.5 text-[12px] leading-tight">
        {beat}
        <span>is missing</span>
      </span>
      <span className="mt-1 truncate text-[11.5px] text-red">{beat}</span>
    </li>
  );
}
