import { isKey, type ActName } from '../papers/ownKeys';
import { useDroppable } from '@dnd-kit/core';
import { memo, useEffect, useRef, useState } from 'react';
import type { Section } from '../api/client';
import { ActionMenu } from '../ui/ActionMenu';
import { TextField } from '../ui/TextField';
import { useField } from '../ui/useField';
import type { Carried } from './carrying';
import type { OutlineActs } from './OutlineColumn';

/** Where what is carried will land, and how deep. */
export function Landing({ carried }: { carried: Carried }) {
  return (
    <span
      aria-hidden
      data-landing={carried.depth}
      className="pointer-events-none absolute -top-px right-3 z-20 h-[3px] bg-blue before:absolute before:-top-[3px] before:-left-[3px] before:h-[9px] before:w-[9px] before:border-2 before:border-blue before:bg-sheet"
      style={{ left: 20 + (carried.depth - 1) * 18 }}
    />
  );
}

/** A step of a section in the outline. */
export type OutlineWay = 'up' | 'down' | 'in' | 'out';

/** The ways a section goes by key. */
const steps: [ActName, OutlineWay][] = [
  ['bench.up', 'up'],
  ['bench.down', 'down'],
  ['bench.shallower', 'out'],
  ['bench.deeper', 'in'],
];

/** What a row may ask of the outline; the same object at every render, so that a row is drawn again only when it changed. */
export type RowActs = {
  edit: OutlineActs['edit'];
  add: OutlineActs['add'];
  remove: OutlineActs['remove'];
  join: OutlineActs['join'];
  /** Into its text; with a modifier it is chosen beside others instead. */
  go: (at: number, event: React.MouseEvent) => void;
  enter: (at: number) => void;
  fold: (section: number) => void;
  links: (title: string) => void;
  lift: (event: React.PointerEvent, at: number) => void;
  key: (event: React.KeyboardEvent, at: number) => void;
  blur: () => void;
  step: (at: number, way: OutlineWay) => void;
};

type RowProps = {
  at: number;
  section: Section;
  /** How many sections are inside it. */
  inside: number;
  isFolded: boolean;
  /** How many links lead to it. */
  links: number;
  number: string;
  isCurrent: boolean;
  isCarried: boolean;
  isChosen: boolean;
  /** What would land before it. */
  line: Carried | null;
  most: number;
  beats: readonly string[];
  /** Whether there are so many that only those in sight are drawn whole. */
  isMany: boolean;
  acts: RowActs;
};

/** A section of the outline: its title, what is written of its aim, its beat, its note and the material placed in it. */
export const SectionRow = memo(Row, (before, after) => {
  const { section: a, ...rest } = before;
  const { section: b, ...others } = after;
  return (
    (Object.keys(rest) as (keyof typeof rest)[]).every((key) => rest[key] === others[key]) &&
    a.number === b.number &&
    a.title === b.title &&
    a.depth === b.depth &&
    a.aim === b.aim &&
    a.beat === b.beat &&
    a.counts.words === b.counts.words &&
    a.material === b.material &&
    a.note === b.note &&
    a.isSettled === b.isSettled &&
    a.measured?.has === b.measured?.has &&
    a.measured?.most === b.measured?.most
  );
});

/** Whether a row is in sight or nearly so. One with the cursor in it stays as it is. */
function useNear(isMany: boolean) {
  const [isNear, setNear] = useState(!isMany);
  const row = useRef<HTMLLIElement>(null);
  useEffect(() => {
    const own = row.current;
    if (!isMany || !own) return;
    const watch = new IntersectionObserver(
      ([entry]) => {
        if (entry && (entry.isIntersecting || !own.contains(document.activeElement))) setNear(entry.isIntersecting);
      },
      { rootMargin: '400px 0px' },
    );
    watch.observe(own);
    return () => watch.disconnect();
  }, [isMany]);
  return [row, isNear || !isMany] as const;
}

function Row(props: RowProps) {
  const { at, section, number, isCurrent, isCarried, isChosen, line, isMany, acts } = props;
  // Among hundreds only those in sight have fields and menus; the others are words until one comes near.
  const [row, isNear] = useNear(isMany);
  return (
    <li
      ref={row}
      data-section={at}
      className={`relative ${isChosen ? 'bg-wash' : isCurrent ? 'bg-sheet' : ''} ${isCarried ? 'opacity-50' : ''}`}
      aria-current={isCurrent ? 'true' : undefined}
      aria-label={`Section ${number}, ${section.title}${isChosen ? ', chosen' : ''}`}
      onKeyDown={(event) => {
        const way = steps.find(([act]) => isKey(event, act))?.[1];
        if (!way) return;
        // Never the browser's own: Alt+← would leave the page.
        event.preventDefault();
        acts.step(at, way);
      }}
    >
      {line && <Landing carried={line} />}
      {isCurrent && <span aria-hidden className="absolute inset-y-0 left-0 w-[3px] bg-blue" />}
      {isNear ? (
        <Full {...props} />
      ) : (
        <div className="flex min-h-14 py-[4px] pr-2 pl-4">
          <SectionNumber {...props} />
          <span className="written truncate text-[15.5px] leading-6 font-semibold">{section.title}</span>
        </div>
      )}
    </li>
  );
}

/** The number of a section, by which it is gone to, lifted, chosen and folded. */
function SectionNumber({
  at,
  section,
  inside,
  isFolded,
  number,
  acts,
}: Pick<RowProps, 'at' | 'section' | 'inside' | 'isFolded' | 'number' | 'acts'>) {
  return (
    <div className="flex shrink-0 items-start" style={{ paddingLeft: (section.depth - 1) * 18 }}>
      {inside > 0 ? (
        <button
          type="button"
          aria-label={`${isFolded ? 'Unfold' : 'Fold'} section ${number}`}
          aria-expanded={!isFolded}
          onClick={() => acts.fold(section.number)}
          className="h-6 w-6 shrink-0 text-[10px] text-second hover:text-blue"
        >
          {isFolded ? '▸' : '▾'}
        </button>
      ) : (
        <span className="w-2 shrink-0" />
      )}
      <button
        type="button"
        data-handle
        aria-label={`Go to section ${number} in the draft; Space lifts it, dragging moves it`}
        title="Click to go there, drag to move; Ctrl or Shift chooses several"
        onClick={(event) => acts.go(at, event)}
        onPointerDown={(event) => acts.lift(event, at)}
        onKeyDown={(event) => acts.key(event, at)}
        onBlur={acts.blur}
        className="written min-h-6 min-w-6 shrink-0 cursor-grab touch-none pr-2 text-left text-[15px] leading-6 text-faint hover:text-blue"
      >
        {number}
      </button>
    </div>
  );
}

function Full({ at, section, inside, isFolded, links, number, most, beats, acts }: RowProps) {
  const [noting, setNoting] = useState(false);
  const { setNodeRef: setDropRef, isOver, active } = useDroppable({ id: `into-${section.number}` });
  const over = section.aim !== null && section.aim > 0 && section.counts.words > section.aim * 1.1;
  const width = (words: number) => `${(100 * words) / most}%`;
  return (
    <div
      ref={setDropRef}
      className={`flex py-[4px] pr-2 pl-4 ${isOver && active?.id.toString().startsWith('material') ? 'bg-wash' : ''}`}
    >
      <SectionNumber at={at} section={section} inside={inside} isFolded={isFolded} number={number} acts={acts} />
      <div className="min-w-0 flex-1">
        <div className="flex items-start">
          <div className="min-w-0 flex-1">
            <TextField
              label={`Title of section ${number}`}
              place={`section.${section.number}.title`}
              shown={false}
              value={section.title}
              onSave={(title) => acts.edit(section.number, { title })}
              onEnter={() => acts.enter(at)}
              className="written max-h-[44px] min-h-6 text-[15.5px] leading-6 font-semibold focus:max-h-none"
            />
          </div>
          <AimField section={section} number={number} onSave={(aim) => acts.edit(section.number, { aim })} />
          <ActionMenu
            label={`Section ${number}`}
            className="min-h-6 min-w-6 px-1 text-second hover:text-blue"
            actions={[
              {
                key: 'after',
                label: 'Add a section after it',
                onChoose: () => void acts.add('New section', section.number, section.depth).catch(() => undefined),
              },
              {
                key: 'inside',
                label: 'Add one inside it',
                onChoose: () => void acts.add('New section', section.number, section.depth + 1).catch(() => undefined),
              },
              { key: 'up', label: 'Move up', note: 'Alt ↑', onChoose: () => acts.step(at, 'up') },
              { key: 'down', label: 'Move down', note: 'Alt ↓', onChoose: () => acts.step(at, 'down') },
              { key: 'in', label: 'Nest deeper', note: 'Alt →', onChoose: () => acts.step(at, 'in') },
              { key: 'out', label: 'Nest less', note: 'Alt ←', onChoose: () => acts.step(at, 'out') },
              {
                key: 'settled',
                label: section.isSettled ? 'Open it again' : 'Mark as settled',
                onChoose: () => void acts.edit(section.number, { settled: !section.isSettled }).catch(() => undefined),
              },
              { key: 'note', label: 'A note on it', onChoose: () => setNoting(true) },
              {
                key: 'join',
                label: 'Join to the one before',
                disabled: at === 0,
                onChoose: () => void acts.join(section).catch(() => undefined),
              },
              { key: 'links', label: 'Links to it…', onChoose: () => acts.links(section.title) },
              {
                key: 'remove',
                label:
                  inside === 0
                    ? 'Delete with its text'
                    : inside === 1
                      ? 'Delete with its text and the section inside it'
                      : `Delete with its text and the ${inside} sections inside it`,
                onChoose: () => void acts.remove(section, inside).catch(() => undefined),
              },
            ]}
          >
            ⋯
          </ActionMenu>
        </div>
        {(section.note || noting) && (
          <TextField
            label={`Note on section ${number}`}
            place={`section.${section.number}.note`}
            shown={false}
            lines
            value={section.note}
            placeholder="a note; it never goes out"
            onSave={(note) => acts.edit(section.number, { note })}
            className="text-[12.5px] leading-snug text-second italic"
          />
        )}
        <div className="flex min-h-6 items-center gap-2 pr-1 text-[12px]">
          {section.isSettled && (
            <span role="img" aria-label="settled" title="settled" className="shrink-0 font-bold text-done">
              ✓
            </span>
          )}
          <span className="relative h-[7px] w-[34%] shrink-0" aria-hidden>
            {section.aim !== null && (
              <span
                className="absolute inset-y-0 left-0 border border-second/70"
                style={{ width: width(section.aim) }}
              />
            )}
            <span
              className={`absolute inset-y-0 left-0 ${over ? 'bg-red' : 'bg-second'}`}
              style={{ width: width(section.counts.words) }}
            />
          </span>
          <select
            aria-label={`Beat of section ${number}`}
            value={section.beat}
            onChange={(event) => void acts.edit(section.number, { beat: event.target.value }).catch(() => undefined)}
            className="field-sizing-content min-h-6 max-w-24 shrink-0 appearance-none bg-transparent text-second hover:text-blue"
          >
            <option value="">no beat</option>
            {[...new Set([...beats, section.beat])].filter(Boolean).map((beat) => (
              <option key={beat} value={beat}>
                {beat}
              </option>
            ))}
          </select>
          {links > 0 && (
            <button
              type="button"
              aria-label={`${links} ${links === 1 ? 'link' : 'links'} here: what leads to section ${number}`}
              onClick={() => acts.links(section.title)}
              className="min-h-6 shrink-0 whitespace-nowrap text-second hover:text-blue"
            >
              {links} {links === 1 ? 'link' : 'links'} here
            </button>
          )}
          <span className="min-w-0 truncate">
            {section.measured && section.measured.has > section.measured.most ? (
              <span className="text-red">
                {section.measured.has - section.measured.most} {section.measured.in} over its limit
              </span>
            ) : over ? (
              <span className="text-red">
                {Math.round((100 * section.counts.words) / section.aim! - 100)}% over its aim
              </span>
            ) : isFolded ? (
              <span className="text-second">{inside} inside</span>
            ) : (
              section.material === 0 && section.counts.words === 0 && <span className="text-red">no material yet</span>
            )}
          </span>
          <span
            className="ml-auto flex max-w-[48px] flex-wrap justify-end gap-[3px]"
            title={`${section.material} placed here`}
            aria-label={`${section.material} placed`}
            role="img"
          >
            {Array.from({ length: Math.min(8, section.material) }, (_, i) => (
              <span key={i} className="h-[4px] w-[4px] bg-blue" />
            ))}
          </span>
        </div>
      </div>
    </div>
  );
}

/** Words written of the words it should have; a click sets those. */
function AimField({
  section,
  number,
  onSave,
}: {
  section: Section;
  number: string;
  onSave: (aim: number | null) => Promise<unknown>;
}) {
  const field = useField(`section.${section.number}.aim`, section.aim === null ? '' : String(section.aim), (typed) =>
    onSave(typed === '' ? null : Number(typed)),
  );
  const [isOpen, setOpen] = useState(field.isChanged);
  if (!isOpen && !field.error)
    return (
      <button
        type="button"
        aria-label={`${section.counts.words}/${section.aim ?? '–'}: words of section ${number}; set its aim`}
        onClick={() => {
          field.enter();
          setOpen(true);
        }}
        className="figures narrow min-h-6 shrink-0 pl-2 text-right text-[12.5px] whitespace-nowrap text-second hover:text-blue"
      >
        {section.counts.words}/{section.aim ?? '–'}
      </button>
    );
  return (
    <span className="shrink-0 pl-2">
      <input
        autoFocus
        type="number"
        min={0}
        aria-label={`Aim of section ${number}, in words`}
        aria-invalid={field.error !== ''}
        value={field.text}
        onChange={(event) => field.change(event.target.value)}
        onBlur={() => void field.flush().then(() => setOpen(false))}
        onKeyDown={(event) => {
          if (event.key === 'Escape') {
            event.stopPropagation();
            field.putBack();
          }
          if (event.key === 'Enter' || event.key === 'Escape') event.currentTarget.blur();
        }}
        className="min-h-6 w-16 border-b border-ink bg-transparent text-right text-[12px] outline-none"
      />
      {field.error && (
        <span role="alert" className="block max-w-28 text-[12px] text-red">
          {field.error}
        </span>
      )}
    </span>
  );
}
