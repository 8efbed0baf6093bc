import { useDroppable } from '@dnd-kit/core';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { useState } from 'react';
import type { Section } from '../api/client';
import type { components } from '../api/schema';
import { ActionMenu } from '../ui/ActionMenu';
import { TextField } from '../ui/TextField';
import { SectionLinks } from './SectionLinks';
import { linksTo, usePieceLinks } from './pieceLinks';
import { numbered } from './editorLook';

export type OutlineActs = {
  add: (title: string, after: number | null, depth: number) => Promise<unknown>;
  edit: (section: number, change: components['schemas']['SectionChange']) => Promise<unknown>;
  move: (section: number, before: number | null, depth: number) => Promise<unknown>;
  remove: (section: Section) => Promise<unknown>;
  goTo: (at: number) => void;
};

/** Where the family of a section ends. */
export const endOf = (sections: readonly Section[], at: number) => {
  let end = at + 1;
  while (end < sections.length && sections[end]!.depth > sections[at]!.depth) end++;
  return end;
};

/** Step of a section by key: up, down, deeper or shallower, its children with it. */
function step(
  sections: readonly Section[],
  at: number,
  key: string,
): { before: number | null; depth: number } | undefined {
  const own = sections[at]!;
  const end = endOf(sections, at);
  const after = sections[end]?.number ?? null;
  if (key === 'ArrowUp' && at > 0) {
    // Before the nearest section above that is not deeper, so that no family is broken up.
    let to = at - 1;
    while (to > 0 && sections[to]!.depth > own.depth) to--;
    return { before: sections[to]!.number, depth: own.depth };
  }
  if (key === 'ArrowDown' && end < sections.length)
    return { before: sections[endOf(sections, end)]?.number ?? null, depth: own.depth };
  if (key === 'ArrowRight' && at > 0 && own.depth <= sections[at - 1]!.depth)
    return { before: after, depth: own.depth + 1 };
  if (key === 'ArrowLeft' && own.depth > 1) return { before: after, depth: own.depth - 1 };
  return undefined;
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
  const [title, setTitle] = useState('');
  const [error, setError] = useState('');
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
  return (
    <section
      aria-label="Outline"
      className="flex w-[372px] shrink-0 flex-col overflow-y-auto bg-quiet max-xl:w-[320px] max-lg:w-[280px] max-md:w-auto"
    >
      <header className="flex items-baseline justify-between px-5 pt-4 pb-1">
        <h2 className="label">Outline</h2>
        <span className="text-[12px] text-second">
          written <span className="inline-block h-[7px] w-[12px] bg-second" /> of aim{' '}
          <span className="inline-block h-[7px] w-[12px] border border-second" /> · material{' '}
          <span className="inline-block h-[4px] w-[4px] bg-blue align-middle" />
        </span>
      </header>
      <SortableContext
        items={sections.map((section) => `section-${section.number}`)}
        strategy={verticalListSortingStrategy}
      >
        <ol>
          {sections.map((section, at) => (
            <SectionRow
              key={section.number}
              section={section}
              links={linksTo(links, section.title).length}
              number={numbers[at]!}
              isCurrent={at === current}
              most={most}
              beats={beats}
              acts={acts}
              onGo={() => acts.goTo(at)}
              onLinks={() => setLinksOf(section.title)}
              onStep={(key) => {
                const to = step(sections, at, key);
                if (to) void acts.move(section.number, to.before, to.depth).catch(() => undefined);
                return to !== undefined;
              }}
            />
          ))}
        </ol>
      </SortableContext>
      {linksOf !== null && <SectionLinks piece={piece} section={linksOf} onClose={() => setLinksOf(null)} />}
      <div className="px-5 pt-2 pb-6">
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

function SectionRow({
  section,
  links,
  number,
  isCurrent,
  most,
  beats,
  acts,
  onGo,
  onLinks,
  onStep,
}: {
  section: Section;
  /** How many links lead to it. */
  links: number;
  number: string;
  isCurrent: boolean;
  most: number;
  beats: readonly string[];
  acts: OutlineActs;
  onGo: () => void;
  onLinks: () => void;
  onStep: (key: string) => boolean;
}) {
  const { setNodeRef, transform, transition, isDragging, attributes, listeners } = useSortable({
    id: `section-${section.number}`,
  });
  const { setNodeRef: setDropRef, isOver, active } = useDroppable({ id: `into-${section.number}` });
  const over = section.aim !== null && section.aim > 0 && section.counts.words > section.aim * 1.1;
  const [aiming, setAiming] = useState(false);
  const width = (words: number) => `${(100 * words) / most}%`;
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition: transition }}
      className={`relative ${isCurrent ? 'bg-sheet' : ''} ${isDragging ? 'z-10 opacity-70 shadow-lg' : ''}`}
      aria-current={isCurrent ? 'true' : undefined}
      aria-label={`Section ${number}, ${section.title}`}
      onKeyDown={(event) => {
        if (event.altKey && onStep(event.key)) event.preventDefault();
      }}
    >
      {isCurrent && <span aria-hidden className="absolute inset-y-0 left-0 w-[3px] bg-blue" />}
      <div
        ref={setDropRef}
        className={`flex py-[9px] pr-4 pl-5 ${isOver && active?.id.toString().startsWith('material') ? 'bg-wash' : ''}`}
      >
        <button
          type="button"
          aria-label={`Go to section ${number} in the draft; drag to move it`}
          title="Click to go there, drag to move"
          onClick={onGo}
          {...attributes}
          {...listeners}
          className="written shrink-0 cursor-grab self-start touch-none pr-2 text-left text-[16px] leading-[22px] text-faint hover:text-blue"
          style={{ width: 34 + (section.depth - 1) * 18, paddingLeft: (section.depth - 1) * 18 }}
        >
          {number}
        </button>
        <div className="min-w-0 flex-1">
          <div className="flex items-start">
            <div className="min-w-0 flex-1">
              <TextField
                label={`Title of section ${number}`}
                shown={false}
                value={section.title}
                onSave={(title) => acts.edit(section.number, { title })}
                className="written max-h-[66px] text-[16px] leading-[22px] font-semibold focus:max-h-none"
              />
            </div>
            <ActionMenu
              label={`Section ${number}`}
              className="px-1.5 text-second hover:text-blue"
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
                { key: 'up', label: 'Move up', note: 'Alt ↑', onChoose: () => void onStep('ArrowUp') },
                { key: 'down', label: 'Move down', note: 'Alt ↓', onChoose: () => void onStep('ArrowDown') },
                { key: 'in', label: 'Nest deeper', note: 'Alt →', onChoose: () => void onStep('ArrowRight') },
                { key: 'out', label: 'Nest less', note: 'Alt ←', onChoose: () => void onStep('ArrowLeft') },
                { key: 'links', label: 'Links to it…', onChoose: onLinks },
                {
                  key: 'remove',
                  label: 'Delete with its text',
                  onChoose: () => void acts.remove(section).catch(() => undefined),
                },
              ]}
            >
              ⋯
            </ActionMenu>
          </div>
          <div className="mt-1 flex items-center gap-2">
            <div className="relative h-[9px] flex-1" aria-hidden>
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
            </div>
            {aiming ? (
              <input
                autoFocus
                type="number"
                min={0}
                aria-label={`Aim of section ${number}, in words`}
                defaultValue={section.aim ?? ''}
                onBlur={(event) => {
                  setAiming(false);
                  const aim = event.target.value === '' ? null : Number(event.target.value);
                  if (aim !== section.aim) void acts.edit(section.number, { aim }).catch(() => undefined);
                }}
                onKeyDown={(event) => {
                  if (event.key === 'Enter' || event.key === 'Escape') event.currentTarget.blur();
                }}
                className="w-16 border-b border-ink bg-transparent text-right text-[12px] outline-none"
              />
            ) : (
              <button
                type="button"
                aria-label={`Section ${number}: ${section.counts.words} words written of ${section.aim ?? 'no aim'}; set the aim`}
                onClick={() => setAiming(true)}
                className="figures narrow w-[58px] text-right text-[12.5px] whitespace-nowrap text-second hover:text-blue"
              >
                {section.counts.words}/{section.aim ?? '–'}
              </button>
            )}
            <span
              className="flex w-[34px] flex-wrap justify-end gap-[3px]"
              title={`${section.material} placed here`}
              aria-label={`${section.material} placed`}
              role="img"
            >
              {Array.from({ length: Math.min(8, section.material) }, (_, i) => (
                <span key={i} className="h-[4px] w-[4px] bg-blue" />
              ))}
            </span>
          </div>
          <div className="mt-0.5 flex items-baseline gap-2 text-[12px]">
            <select
              aria-label={`Beat of section ${number}`}
              value={section.beat}
              onChange={(event) => void acts.edit(section.number, { beat: event.target.value }).catch(() => undefined)}
              className="field-sizing-content appearance-none bg-transparent text-second hover:text-blue"
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
                aria-label={`${links} ${links === 1 ? 'link leads' : 'links lead'} to section ${number}`}
                onClick={onLinks}
                className="text-second hover:text-blue"
              >
                {links} {links === 1 ? 'link' : 'links'} here
              </button>
            )}
            {over ? (
              <span className="text-red">
                {Math.round((100 * section.counts.words) / section.aim! - 100)}% over its aim
              </span>
            ) : (
              section.material === 0 && section.counts.words === 0 && <span className="text-red">no material yet</span>
            )}
          </div>
        </div>
      </div>
    </li>
  );
}
