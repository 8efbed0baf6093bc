import { useEffect, useRef, type ReactNode } from 'react';

/** What can stand beside the text. */
export const besideViews = [
  ['material', 'Material'],
  ['words', 'The word at the cursor'],
  ['replace', 'Find and replace'],
  ['check', 'A look over it'],
  ['remarks', 'Remarks to yourself'],
  ['find', 'Find in all papers'],
  ['source', 'A source'],
  ['piece', 'Another piece'],
  ['steps', 'Steps'],
  ['heap', 'Heap'],
  ['sitting', 'This sitting'],
] as const;

export type BesideView = (typeof besideViews)[number][0];

/** The column beside the text, with the choice of what stands in it. */
export function BesideColumn({
  view,
  asked,
  onView,
  onLeave,
  children,
}: {
  view: BesideView;
  /** Grows with each time it is asked for by key. */
  asked: number;
  onView: (view: BesideView) => void;
  /** Back to the text. */
  onLeave: () => void;
  children: ReactNode;
}) {
  const choice = useRef<HTMLSelectElement>(null);
  useEffect(() => {
    if (asked > 0) choice.current?.focus();
  }, [asked]);
  return (
    <section
      aria-label="Beside the text"
      data-beside
      className="isolate flex w-[292px] shrink-0 flex-col contain-paint bg-board max-xl:w-[250px] max-lg:w-[230px] max-md:w-auto"
      onKeyDown={(event) => {
        if (event.key !== 'Escape' || event.defaultPrevented) return;
        event.preventDefault();
        event.stopPropagation();
        onLeave();
      }}
    >
      <div className="flex items-center border-b border-hair px-3.5 py-1.5">
        <select
          ref={choice}
          aria-label="What stands beside the text"
          value={view}
          onChange={(event) => onView(event.target.value as BesideView)}
          className="label min-h-7 w-full cursor-pointer bg-transparent"
        >
          {besideViews.map(([key, name]) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto max-md:max-h-[60vh]">{children}</div>
    </section>
  );
}
