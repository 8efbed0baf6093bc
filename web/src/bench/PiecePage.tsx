import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  pointerWithin,
  rectIntersection,
  useSensor,
  useSensors,
  type CollisionDetection,
  type DragEndEvent,
  type KeyboardCoordinateGetter,
  type UniqueIdentifier,
} from '@dnd-kit/core';
import { sortableKeyboardCoordinates } from '@dnd-kit/sortable';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { useLocation, useParams } from 'react-router';
import { api, ask, done } from '../api/client';
import { keys, queryClient, useFormats } from '../api/queries';
import { AddMove, MoveLine } from '../capture/Moves';
import { Attachments } from '../papers/Attachments';
import { carryOut, say } from '../papers/notices';
import { History, LeadsTo, LinkedFrom } from '../sources/Connections';
import { Unlinked } from '../sources/Unlinked';
import { Failed, Loading } from '../ui/States';
import { TwoTexts } from '../ui/TwoTexts';
import { DraftEditor, type DraftHandle } from './DraftEditor';
import { DraftFoot } from './DraftFoot';
import { MaterialColumn, type MaterialActs, type Thing } from './MaterialColumn';
import { OutlineColumn, endOf, type OutlineActs } from './OutlineColumn';
import { PieceHead } from './PieceHead';
import { usePieceLinks } from './pieceLinks';
import { useDraft } from './useDraft';

// A section is dragged by where it overlaps; a slip goes to the section under the pointer.
const collide: CollisionDetection = (args) => {
  const wanted = args.active.id.toString().startsWith('material') ? 'into-' : 'section-';
  const own = {
    ...args,
    droppableContainers: args.droppableContainers.filter((box) => box.id.toString().startsWith(wanted)),
  };
  const under = pointerWithin(own);
  return under.length > 0 ? under : rectIntersection(own);
};

// By key a slip goes from section to section; a section goes as in any sorted list.
const stepByKey: KeyboardCoordinateGetter = (event, args) => {
  const { active, over, droppableRects } = args.context;
  if (!active?.id.toString().startsWith('material')) return sortableKeyboardCoordinates(event, args);
  const step = { ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 }[event.code];
  if (!step) return undefined;
  event.preventDefault();
  const sections = [...droppableRects].filter(([id]) => id.toString().startsWith('into-'));
  sections.sort(([, a], [, b]) => a.top - b.top);
  const at = sections.findIndex(([id]) => id === over?.id);
  const to = sections[at < 0 ? 0 : Math.min(sections.length - 1, Math.max(0, at + step))]?.[1];
  return to && { x: to.left + indent, y: to.top };
};

const indent = 24;

/** A piece: its material, its outline and its draft side by side. */
export default function PiecePage() {
  const number = Number(useParams().number);
  return <Opened key={number} number={number} />;
}

function Opened({ number }: { number: number }) {
  const path = { number: String(number) };
  const piece = useQuery({
    queryKey: keys.piece(number),
    queryFn: () => ask(api.GET('/api/pieces/{number}', { params: { path } })),
  });
  const material = useQuery({
    queryKey: keys.material(number),
    queryFn: () => ask(api.GET('/api/pieces/{number}/material', { params: { path } })),
  });
  const format = useFormats().data?.find((f) => f.key === piece.data?.format);
  const { draft, state, error, shown, clash, settle, write, outline, mine, flush } = useDraft(number);
  const [current, setCurrent] = useState(-1);
  const [selected, setSelected] = useState('');
  const editor = useRef<DraftHandle>(undefined);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: stepByKey }),
  );

  // A link may lead to one section of it.
  const { search, key: visit } = useLocation();
  const isOpen = piece.data !== undefined && draft !== undefined && shown !== undefined;
  const headings = useRef<string[]>([]);
  useEffect(() => {
    headings.current = draft?.sections.map((section) => section.title.toLowerCase()) ?? [];
  }, [draft]);
  useEffect(() => {
    const wanted = new URLSearchParams(search).get('section');
    if (!wanted || !isOpen) return;
    const at = headings.current.indexOf(wanted.toLowerCase());
    if (at >= 0) editor.current?.goToSection(at);
    else say(`P ${number} has no section “${wanted}” any more.`);
  }, [search, visit, isOpen, number]);

  if (piece.error) return <Failed error={piece.error} onRetry={() => void piece.refetch()} />;
  if (!piece.data || !draft || !shown) return error ? <Failed error={error} /> : <Loading what="Opening the piece" />;
  const sections = draft.sections;
  const refresh = () => queryClient.invalidateQueries({ predicate: (query) => query.queryKey[0] !== 'draft' });
  const ofOutline = (change: Parameters<typeof outline>[0], said?: string) => carryOut(outline(change), said);
  const outlinePath = (section: number) => ({ path: { number: String(number), section: String(section) } });

  const outlineActs: OutlineActs = {
    add: (title, after, depth) =>
      ofOutline(
        (version) =>
          done(
            api.POST('/api/pieces/{number}/outline', {
              params: { path },
              body: { title, after: after ?? undefined, depth, version },
            }),
          ),
        'Section added.',
      ),
    edit: (section, change) =>
      ofOutline(
        (version) =>
          done(
            api.PATCH('/api/pieces/{number}/outline/{section}', {
              params: outlinePath(section),
              body: { ...change, version },
            }),
          ),
        'Section changed.',
      ),
    move: (section, before, depth) =>
      ofOutline(
        (version) =>
          done(
            api.POST('/api/pieces/{number}/outline/{section}/move', {
              params: outlinePath(section),
              body: { version, before, depth },
            }),
          ),
        'Section moved.',
      ),
    remove: (section) =>
      ofOutline(
        (version) =>
          done(
            api.DELETE('/api/pieces/{number}/outline/{section}', {
              params: { ...outlinePath(section.number), query: { version } },
            }),
          ),
        `Deleted “${section.title}” with its text.`,
      ),
    goTo: (at) => editor.current?.goToSection(at),
  };
  const named = (thing: Thing) => (thing.slip ? `Slip ${thing.slip}` : `Source ${thing.source}`);
  const materialActs: MaterialActs = {
    place: async (thing, section) => {
      const to = sections.find((s) => s.number === section);
      await carryOut(
        done(
          api.PUT('/api/pieces/{number}/material', {
            params: { path },
            body: { ...thing, section: section ?? undefined },
          }),
        ),
        to ? `${named(thing)} placed in “${to.title}”.` : `${named(thing)} lies loose beside the piece.`,
      );
      await refresh();
    },
    untie: async (thing) => {
      await carryOut(
        done(
          api.DELETE('/api/pieces/{number}/material/{kind}/{thing}', {
            params: {
              path: {
                number: String(number),
                kind: thing.slip ? 'slip' : 'source',
                thing: thing.slip ?? thing.source!,
              },
            },
          }),
        ),
        `${named(thing)} taken away; it stays in the library.`,
      );
      await refresh();
    },
    insert: async (slip, as) => {
      const { text } = await carryOut(
        done(
          api.POST('/api/pieces/{number}/insertion', {
            params: { path },
            body: { slip, as, section: sections[current]?.number },
          }),
        ),
      );
      editor.current?.insert(text);
      say(`Slip ${slip} inserted${sections[current] ? ` and placed in “${sections[current].title}”` : ''}.`);
      await refresh();
    },
  };

  /** How a dragged or dropped-on thing is said: its kind and number, or the section's title. */
  const spoken = (id: UniqueIdentifier) => {
    const [what, ...rest] = id.toString().split('-');
    if (what === 'material') return named({ [rest[0]!]: Number(rest[1]) });
    return `“${sections.find((section) => section.number === Number(rest[0]))?.title ?? ''}”`;
  };
  const dropped = ({ active, over, delta }: DragEndEvent) => {
    if (!over) return;
    const [what, kind, id] = active.id.toString().split('-');
    const target = Number(over.id.toString().split('-')[1]);
    if (what === 'material') return void materialActs.place({ [kind!]: Number(id) }, target).catch(() => undefined);
    const from = sections.findIndex((section) => section.number === Number(kind));
    const to = sections.findIndex((section) => section.number === target);
    const own = sections[from];
    if (!own) return;
    const end = endOf(sections, from);
    const depth = Math.max(1, own.depth + Math.round(delta.x / indent));
    // Downwards it comes to stand behind the one it was dropped on, upwards before it.
    const before =
      to >= from && to < end
        ? (sections[end]?.number ?? null)
        : to > from
          ? (sections[to + 1]?.number ?? null)
          : target;
    if (to >= from && to < end && depth === own.depth) return;
    void outlineActs.move(own.number, before, depth).catch(() => undefined);
  };

  return (
    <div className="flex h-full flex-col max-md:overflow-y-auto">
      <PieceHead
        piece={piece.data}
        words={draft.counts.words}
        aim={sections.reduce((sum, section) => sum + (section.aim ?? 0), 0)}
        beforeOut={flush}
      />
      <DndContext
        sensors={sensors}
        collisionDetection={collide}
        onDragEnd={dropped}
        accessibility={{
          screenReaderInstructions: {
            draggable: 'Space lifts it, the arrow keys carry it, Space sets it down again and Escape takes it back.',
          },
          announcements: {
            onDragStart: ({ active }) => `${spoken(active.id)} lifted.`,
            onDragOver: ({ active, over }) =>
              over ? `${spoken(active.id)} is over ${spoken(over.id)}.` : `${spoken(active.id)} is over no section.`,
            onDragEnd: ({ active, over }) =>
              over
                ? `${spoken(active.id)} set down on ${spoken(over.id)}.`
                : `${spoken(active.id)} set down where it was.`,
            onDragCancel: ({ active }) => `${spoken(active.id)} is back where it was.`,
          },
        }}
      >
        <div className="flex min-h-0 flex-1 max-md:flex-col">
          <MaterialColumn piece={Number(number)} onHand={material.data} sections={sections} acts={materialActs} />
          <OutlineColumn
            piece={number}
            sections={sections}
            current={current}
            beats={format?.beats ?? []}
            acts={outlineActs}
          />
          <section
            aria-label="Draft"
            className="flex min-w-0 flex-1 flex-col border-l border-hair max-md:h-[80vh] max-md:border-l-0"
          >
            <div className="min-h-0 flex-1">
              <DraftEditor
                shown={shown}
                sections={sections}
                onWrite={write}
                onPlace={setCurrent}
                onSelect={setSelected}
                onLeave={() => document.querySelector<HTMLElement>('[aria-label="New section"]')?.focus()}
                handle={(handle) => (editor.current = handle)}
              />
            </div>
            <DraftFoot
              draft={draft.counts}
              section={sections[current]}
              selected={selected}
              state={state}
              savedAt={draft.changedAt}
              error={error}
            />
          </section>
        </div>
      </DndContext>
      <PieceFoot number={number} />
      {clash && <TwoTexts mine={mine()} theirs={clash.text} onChoose={settle} />}
    </div>
  );
}

/** The next move on this piece; unfolded, all of them, what links to the piece, and what was done to it. */
function PieceFoot({ number }: { number: number }) {
  const [open, setOpen] = useState(false);
  const path = { number: String(number) };
  const links = usePieceLinks(number, open);
  const done = useQuery({
    queryKey: keys.history(number),
    queryFn: () => ask(api.GET('/api/pieces/{number}/history', { params: { path } })),
    enabled: open,
  }).data;
  const moves = useQuery({ queryKey: keys.moves, queryFn: () => ask(api.GET('/api/moves')) }).data ?? [];
  const own = moves.filter((move) => move.piece === number);
  return (
    <details
      className="max-h-[50%] shrink-0 overflow-y-auto border-t border-hair bg-quiet px-6 max-md:max-h-none"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="cursor-pointer py-1.5 text-[12.5px]">
        <span className="label mr-3">Next move</span>
        <span className="written text-[14.5px]">
          {own[0]?.text ?? (
            <span className="font-sans text-[12.5px] text-second">none yet; what is the next thing to do on it?</span>
          )}
        </span>
      </summary>
      <div className="grid gap-x-10 pb-4 md:grid-cols-2">
        <div>
          {own.map((move) => (
            <MoveLine key={move.number} move={move} />
          ))}
          <AddMove piece={number} />
        </div>
        <div className="[&>*]:mt-1.5">
          <Attachments kind="piece" number={number} />
          {open && <LeadsTo kind="piece" number={number} />}
          <LinkedFrom lines={links} />
          {open && <Unlinked kind="piece" number={number} />}
          <History lines={done ?? []} />
        </div>
      </div>
    </details>
  );
}
