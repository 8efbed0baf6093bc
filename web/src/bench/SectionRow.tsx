import { isKey, type ActName } from '../papers/ownKeys';
import { useDroppable } from '@dnd-kit/core';
import { useState } from 'react';
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

/** The ways a section goes by key. */
const steps: [ActName, string][] = [
  ['bench.up', 'ArrowUp'],
  ['bench.down', 'ArrowDown'],
  ['bench.shallower', 'ArrowLeft'],
  ['bench.deeper', 'ArrowRight'],
];

/** A section of the outline: its title, what is written of its aim, its beat, and the material placed in it. */
export function SectionRow({
  at,
  section,
  inside,
  isFolded,
  onFold,
  links,
  number,
  isCurrent,
  isCarried,
  line,
  most,
  beats,
  acts,
  onGo,
  onLinks,
  onLift,
  onHandleKey,
  onHandleBlur,
  onStep,
}: {
  at: number;
  section: Section;
  /** How many sections are inside it. */
  inside: number;
  isFolded: boolean;
  onFold: () => void;
  /** How many links lead to it. */
  links: number;
  number: string;
  isCurrent: boolean;
  isCarried: boolean;
  /** What would land before it. */
  line: Carried | null;
  most: number;
  beats: readonly string[];
  acts: OutlineActs;
  onGo: () => void;
  onLinks: () => void;
  onLift: (event: React.PointerEvent) => void;
  onHandleKey: (event: React.KeyboardEvent) => void;
  onHandleBlur: () => void;
  onStep: (key: string) => void;
}) {
  const { setNodeRef: setDropRef, isOver, active } = useDroppable({ id: `into-${section.number}` });
  const over = section.aim !== null && section.aim > 0 && section.counts.words > section.aim * 1.1;
  const width = (words: number) => `${(100 * words) / most}%`;
  return (
    <li
      data-section={at}
      className={`relative ${isCurrent ? 'bg-sheet' : ''} ${isCarried ? 'opacity-50' : ''}`}
      aria-current={isCurrent ? 'true' : undefined}
      aria-label={`Section ${number}, ${section.title}`}
      onKeyDown={(event) => {
        const way = steps.find(([act]) => isKey(event, act))?.[1];
        if (!way) return;
        // Never the browser's own: Alt+← would leave the page.
        event.preventDefault();
        onStep(way);
      }}
    >
      {line && <Landing carried={line} />}
      {isCurrent && <span aria-hidden className="absolute inset-y-0 left-0 w-[3px] bg-blue" />}
      <div
        ref={setDropRef}
        className={`flex py-[4px] pr-2 pl-4 ${isOver && active?.id.toString().startsWith('material') ? 'bg-wash' : ''}`}
      >
        <div className="flex shrink-0 items-start" style={{ paddingLeft: (section.depth - 1) * 18 }}>
          {inside > 0 ? (
            <button
              type="button"
              aria-label={`${isFolded ? 'Unfold' : 'Fold'} section ${number}`}
              aria-expanded={!isFolded}
              onClick={onFold}
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
            title="Click to go there, drag to move"
            onClick={onGo}
            onPointerDown={onLift}
            onKeyDown={onHandleKey}
            onBlur={onHandleBlur}
            className="written min-h-6 min-w-6 shrink-0 cursor-grab touch-none pr-2 text-left text-[15px] leading-6 text-faint hover:text-blue"
          >
            {number}
          </button>
        </div>
        <div className="min-w-0 flex-1">
          <div className="flex items-start">
            <div className="min-w-0 flex-1">
              <TextField
                label={`Title of section ${number}`}
                place={`section.${section.number}.title`}
                shown={false}
                value={section.title}
                onSave={(title) => acts.edit(section.number, { title })}
                onEnter={() => acts.goTo(at)}
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
                  onChoose: () =>
                    void acts.add('New section', section.number, section.depth + 1).catch(() => undefined),
                },
                { key: 'up', label: 'Move up', note: 'Alt ↑', onChoose: () => onStep('ArrowUp') },
                { key: 'down', label: 'Move down', note: 'Alt ↓', onChoose: () => onStep('ArrowDown') },
                { key: 'in', label: 'Nest deeper', note: 'Alt →', onChoose: () => onStep('ArrowRight') },
                { key: 'out', label: 'Nest less', note: 'Alt ←', onChoose: () => onStep('ArrowLeft') },
                { key: 'links', label: 'Links to it…', onChoose: onLinks },
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
          <div className="flex min-h-6 items-center gap-2 pr-1 text-[12px]">
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
                onClick={onLinks}
                className="min-h-6 shrink-0 whitespace-nowrap text-second hover:text-blue"
              >
                {links} {links === 1 ? 'link' : 'links'} here
              </button>
            )}
            <span className="min-w-0 truncate">
              {over ? (
                <span className="text-red">
                  {Math.round((100 * section.counts.words) / section.aim! - 100)}% over its aim
                </span>
              ) : isFolded ? (
                <span className="text-second">{inside} inside</span>
              ) : (
                section.material === 0 &&
                section.counts.words === 0 && <span className="text-red">no material yet</span>
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
    </li>
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
