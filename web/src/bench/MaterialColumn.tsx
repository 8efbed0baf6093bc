import { useDraggable } from '@dnd-kit/core';
import { useQuery } from '@tanstack/react-query';
import { memo, useState } from 'react';
import { Link } from 'react-router';
import { api, ask, type Alike, type Material, type Section, type Slip } from '../api/client';
import type { components } from '../api/schema';
import { keys } from '../api/queries';
import { QueryField } from '../text/QueryField';
import { useSettled } from '../text/understood';
import { ActionMenu } from '../ui/ActionMenu';
import { Dialog } from '../ui/Dialog';
import { Mark } from '../ui/Mark';
import { numbered } from './headings';

export type Thing = { slip?: number; source?: number };

export type MaterialActs = {
  place: (thing: Thing, section: number | null) => Promise<unknown>;
  untie: (thing: Thing) => Promise<unknown>;
  insert: (slip: number, as: 'quotation' | 'text') => Promise<unknown>;
  /** Puts a passage below the paragraph as a note. */
  note: (slip: Slip) => void;
  /** Puts a reference at the cursor; how it goes out is a matter of the piece. */
  cite: (reference: string) => void;
};

const thingOf = (item: Material): Thing => (item.slip ? { slip: item.slip.number } : { source: item.source!.number });

/** What the piece has to draw on, loose and placed, and what else would fit. */
export const MaterialColumn = memo(function MaterialColumn({
  piece,
  onHand,
  sections,
  acts,
}: {
  piece: number;
  onHand: components['schemas']['MaterialOnHand'] | undefined;
  sections: readonly Section[];
  acts: MaterialActs;
}) {
  const [view, setView] = useState<'loose' | 'placed'>('loose');
  const [finding, setFinding] = useState(false);
  const items = onHand?.items ?? [];
  const loose = items.filter((item) => item.section === null);
  const placed = items.filter((item) => item.section !== null);
  const unused = placed.filter((item) => !item.referred).length;
  const shown = view === 'loose' ? loose : [...placed].sort((a, b) => order(a) - order(b));
  const numbers = numbered(sections.map((section) => section.depth));
  function order(item: Material) {
    return sections.findIndex((section) => section.number === item.section);
  }
  const tab = (name: 'loose' | 'placed', count: number) => (
    <button
      type="button"
      aria-pressed={view === name}
      onClick={() => setView(name)}
      className={`min-h-6 px-0.5 text-[12.5px] whitespace-nowrap ${view === name ? 'border-b-2 border-blue text-ink' : 'text-second hover:text-ink'}`}
    >
      <b className="figures">{count}</b> {name}
    </button>
  );
  return (
    <section aria-label="Material" className="px-3.5 pt-3 pb-6">
      <header className="mb-2 flex flex-wrap items-baseline gap-x-4">
        <h2 className="sr-only">Material</h2>
        {tab('loose', loose.length)}
        {tab('placed', placed.length)}
        {unused > 0 && (
          <span className="text-[12px] text-second">
            <b className="figures">{unused}</b> of them not used yet
          </span>
        )}
        <span className="flex basis-full gap-4 pt-1">
          <Link
            to={`/sift?piece=${piece}`}
            className="link min-h-6 text-[12.5px]"
            title="Slips that could belong to it, one after the other"
          >
            sift for it
          </Link>
          <button type="button" className="link min-h-6 text-[12.5px]" onClick={() => setFinding(true)}>
            find more
          </button>
        </span>
      </header>
      {shown.length === 0 && onHand && (
        <p className="border border-dashed border-second/50 px-3 py-3 text-second">
          {view === 'placed'
            ? 'Nothing is placed yet. Drag a slip onto a section, or use its menu.'
            : placed.length
              ? 'All of it is placed.'
              : 'No material yet. Find some, or put slips in from Sift.'}
        </p>
      )}
      {shown.map((item) => (
        <Card
          key={item.slip ? `slip${item.slip.number}` : `source${item.source!.number}`}
          item={item}
          sections={sections}
          numbers={numbers}
          acts={acts}
        />
      ))}
      {onHand && onHand.wouldFit.length > 0 && (
        <div className="mt-4">
          <h3 className="label mb-1.5 text-second">Would fit</h3>
          {onHand.wouldFit.map((alike) => (
            <Fitting
              key={`${alike.thing.kind}${alike.thing.number}`}
              alike={alike}
              onTake={() => void acts.place({ [alike.thing.kind]: alike.thing.number }, null).catch(() => undefined)}
            />
          ))}
        </div>
      )}
      <FindMore
        open={finding}
        onClose={() => setFinding(false)}
        has={items}
        onTake={(thing) => void acts.place(thing, null).catch(() => undefined)}
      />
    </section>
  );
});

function Card({
  item,
  sections,
  numbers,
  acts,
}: {
  item: Material;
  sections: readonly Section[];
  numbers: string[];
  acts: MaterialActs;
}) {
  const thing = thingOf(item);
  const id = thing.slip ? `material-slip-${thing.slip}` : `material-source-${thing.source}`;
  const { setNodeRef, transform, isDragging, attributes, listeners } = useDraggable({ id });
  const at = sections.findIndex((section) => section.number === item.section);
  const title = item.slip ? item.slip.title || item.slip.text : item.source!.title;
  return (
    <article
      ref={setNodeRef}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
      className={`mb-2.5 flex border border-hair bg-sheet ${isDragging ? 'relative z-20 shadow-xl' : ''}`}
      aria-label={item.slip ? `Slip ${thing.slip}` : `Source ${thing.source}`}
    >
      <button
        type="button"
        {...attributes}
        {...listeners}
        aria-label={`Drag ${item.slip ? `slip ${thing.slip}` : `source ${thing.source}`} onto a section`}
        className="flex w-[44px] shrink-0 cursor-grab touch-none flex-col items-center border-r border-line pt-2 text-second"
      >
        <Mark kind={item.slip?.kind ?? 'source'} size={14} />
        <span className="narrow figures text-[11px]">{thing.slip ?? thing.source}</span>
      </button>
      <div className="min-w-0 flex-1 px-3 py-2">
        <Link
          to={thing.slip ? `/library/slip/${thing.slip}` : `/library/source/${thing.source}`}
          className="written line-clamp-3 text-[14px] leading-[1.35] hover:text-blue"
        >
          {title}
        </Link>
        <div className="mt-0.5 flex items-baseline justify-between gap-2 text-[12px] text-second">
          <span className="truncate">
            {at >= 0 ? (
              <span className="text-blue">
                in {numbers[at]} · {sections[at]!.title}
              </span>
            ) : (
              item.slip?.locator || item.slip?.kind || item.source?.type
            )}
            {item.referred ? <b className="font-semibold text-done"> · used</b> : at >= 0 && ' · not used yet'}
          </span>
          <ActionMenu
            label={`What to do with ${item.slip ? `slip ${thing.slip}` : `source ${thing.source}`}`}
            className="px-1 hover:text-blue"
            actions={[
              ...(item.slip
                ? [
                    {
                      key: 'quote',
                      label: 'Insert as quotation',
                      onChoose: () => void acts.insert(item.slip!.number, 'quotation').catch(() => undefined),
                    },
                    {
                      key: 'note',
                      label: 'Insert as a note',
                      onChoose: () => acts.note(item.slip!),
                    },
                    {
                      key: 'cite',
                      label: 'Cite it at the cursor',
                      onChoose: () => acts.cite(`[[slip ${item.slip!.number}]]`),
                    },
                    {
                      key: 'text',
                      label: 'Insert as text',
                      onChoose: () => void acts.insert(item.slip!.number, 'text').catch(() => undefined),
                    },
                  ]
                : [
                    {
                      key: 'cite',
                      label: 'Cite it at the cursor',
                      onChoose: () => acts.cite(`[[source ${item.source!.number}]]`),
                    },
                  ]),
              ...sections.map((section, i) => ({
                key: `to${section.number}`,
                label: `Place in ${numbers[i]} · ${section.title}`,
                disabled: i === at,
                onChoose: () => void acts.place(thing, section.number).catch(() => undefined),
              })),
              ...(at >= 0
                ? [
                    {
                      key: 'loose',
                      label: 'Make it loose again',
                      onChoose: () => void acts.place(thing, null).catch(() => undefined),
                    },
                  ]
                : []),
              {
                key: 'untie',
                label: 'Take it away from this piece',
                onChoose: () => void acts.untie(thing).catch(() => undefined),
              },
            ]}
          >
            ⋯
          </ActionMenu>
        </div>
      </div>
    </article>
  );
}

function Fitting({ alike, onTake }: { alike: Alike; onTake: () => void }) {
  return (
    <button
      type="button"
      onClick={onTake}
      title={`shares ${alike.words.join(', ')}`}
      className="mb-2 flex w-full items-baseline gap-2.5 border border-dashed border-second/50 px-3 py-2 text-left hover:border-blue hover:bg-sheet"
    >
      <span className="sr-only">
        Add {alike.thing.kind} {alike.thing.number}:
      </span>
      <span className="narrow figures w-7 shrink-0 text-[12px] font-semibold text-second">
        {Math.round(alike.likeness * 100)}%
      </span>
      <span className="min-w-0">
        <span className="written line-clamp-2 text-[13.5px] leading-[1.35]">{alike.title}</span>
        <span className="text-[11.5px] text-second">
          {alike.thing.kind} {alike.thing.number} · {alike.words.slice(0, 3).join(', ')}
        </span>
      </span>
    </button>
  );
}

function FindMore({
  open,
  onClose,
  has,
  onTake,
}: {
  open: boolean;
  onClose: () => void;
  has: readonly Material[];
  onTake: (thing: Thing) => void;
}) {
  const [typed, setTyped] = useState('');
  const query = useSettled(typed.trim());
  const found = useQuery({
    queryKey: keys.library({ find: query }),
    queryFn: () => ask(api.GET('/api/library', { params: { query: { query: query || undefined, state: 'all' } } })),
    enabled: open,
    retry: false,
    placeholderData: (previous) => previous,
  });
  const tied = (thing: Thing) =>
    has.some((item) => (thing.slip ? item.slip?.number === thing.slip : item.source?.number === thing.source));
  return (
    <Dialog title="Find more material" open={open} onClose={onClose}>
      <QueryField
        autoFocus
        label="Words"
        placeholder="words that stand in it, or topic: kind: pull>=4 …"
        value={typed}
        onChange={setTyped}
      />
      <div className="mt-2 h-[46vh] overflow-y-auto">
        {(found.data?.items ?? []).map((entry) => {
          const thing = entry.slip ? { slip: entry.slip.number } : { source: entry.source!.number };
          const already = tied(thing);
          return (
            <button
              key={entry.slip ? `s${entry.slip.number}` : `o${entry.source!.number}`}
              type="button"
              disabled={already}
              onClick={() => onTake(thing)}
              className="flex w-full items-baseline gap-3 border-b border-rule py-2 text-left enabled:hover:bg-wash disabled:text-faint"
            >
              <Mark kind={entry.slip?.kind ?? 'source'} size={13} />
              <span className="written line-clamp-2 flex-1 text-[14.5px]">
                {entry.slip?.title ?? entry.source?.title}
              </span>
              <span className="text-[12px]">
                {already ? 'added' : entry.slip ? `slip ${entry.slip.number}` : `source ${entry.source!.number}`}
              </span>
            </button>
          );
        })}
        {found.data?.items.length === 0 && <p className="py-3 text-second">Nothing has these words.</p>}
      </div>
    </Dialog>
  );
}
