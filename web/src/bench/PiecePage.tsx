import { isKey, pressed } from '../papers/ownKeys';
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
import { useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useLocation, useNavigate, useParams } from 'react-router';
import { api, ask, done } from '../api/client';
import { keys, queryClient, useFormats } from '../api/queries';
import { carryOut, say } from '../papers/notices';
import { TableDialog } from '../text/TableDialog';
import { Later } from '../ui/Later';
import { Failed, Loading } from '../ui/States';
import { TwoTexts } from '../ui/TwoTexts';
import { BeforeOut } from './BeforeOut';
import { DraftEditor, type DraftAct, type DraftCalls } from './DraftEditor';
import { DraftFoot } from './DraftFoot';
import { JumpTo, useMarks } from './JumpTo';
import { KeptWithIt } from './KeptWithIt';
import { MaterialColumn } from './MaterialColumn';
import { materialActsOf, named } from './materialActs';
import { OutlineColumn, outlineToCome } from './OutlineColumn';
import { outlineActsOf } from './outlineActs';
import { PieceHead } from './PieceHead';
import { PieceParts, pieceParts, type PiecePart } from './PieceParts';
import { BeforeWriting } from './before/BeforeWriting';
import { BesidePart } from './BesidePart';
import { BesideColumn } from './beside/BesideColumn';
import { CheckView } from './beside/CheckView';
import { FindView, HeapView, PieceView, SourceView, StepsView } from './beside/OtherViews';
import { RemarksView } from './beside/RemarksView';
import { ReplaceView } from './beside/ReplaceView';
import { SittingView, useAimReached, useSitting } from './beside/SittingView';
import { WordsView, type WordAt } from './beside/WordsView';
import { PictureDialog, pictureAt, type PictureAt } from './PictureDialog';
import { PutInDialog } from './short/PutInDialog';
import { ThreadPart } from './short/ThreadPart';
import { useBeside } from './useBeside';
import { useWriting } from './useWriting';
import { RoutePart } from './route/RoutePart';
import { StepsPart } from './StepsPart';
import { VersionsPart } from './versions/VersionsPart';
import { useDraft } from './useDraft';
import type { Quiet } from './quiet';
import { useQuiet } from './useQuiet';
import { useSteady } from '../ui/useSteady';
import { refreshPiece } from './refreshPiece';

/** So far below the top of a section a slip is carried by key, in pixels: a column that scrolls keeps what lies above its own top. */
const inset = 44;

const none: never[] = [];

// A slip goes to the section under the pointer; by key, to the one it was carried to.
const collide: CollisionDetection = (args) => {
  const under = pointerWithin(args);
  if (under.length > 0) return under;
  if (args.pointerCoordinates) return rectIntersection(args);
  const { top, left } = args.collisionRect;
  return args.droppableContainers
    .flatMap((container) => {
      const rect = args.droppableRects.get(container.id);
      const off = rect ? Math.abs(rect.top + inset - top) : Infinity;
      return rect && off < inset / 2 && left >= rect.left && left <= rect.right ? [{ id: container.id, off }] : [];
    })
    .sort((a, b) => a.off - b.off);
};

// By key a slip goes from section to section.
const stepByKey: KeyboardCoordinateGetter = (event, args) => {
  const { over, droppableRects } = args.context;
  const step = { ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 }[event.code];
  if (!step) return undefined;
  event.preventDefault();
  const sections = [...droppableRects].filter(([id]) => id.toString().startsWith('into-'));
  sections.sort(([, a], [, b]) => a.top - b.top);
  const at = sections.findIndex(([id]) => id === over?.id);
  const to = sections[at < 0 ? 0 : Math.min(sections.length - 1, Math.max(0, at + step))]?.[1];
  return to && { x: to.left + 24, y: to.top + inset };
};

// The same at every render: with new ones every row and slip on the page would be drawn again.
const byPointer = { activationConstraint: { distance: 5 } };
const byKey = { coordinateGetter: stepByKey };

/** A piece: its material, its outline and its draft side by side, and what is kept with it. */
export default function PiecePage() {
  const number = Number(useParams().number);
  return <Opened key={number} number={number} />;
}

function Opened({ number }: { number: number }) {
  const path = useMemo(() => ({ number: String(number) }), [number]);
  const asked = useParams().part ?? '';
  const part: PiecePart = pieceParts.find((one) => one === asked) ?? '';
  const piece = useQuery({
    queryKey: keys.piece(number),
    queryFn: () => ask(api.GET('/api/pieces/{number}', { params: { path } })),
  });
  const material = useQuery({
    queryKey: keys.material(number),
    queryFn: () => ask(api.GET('/api/pieces/{number}/material', { params: { path } })),
  });
  const series = useQuery({
    queryKey: keys.inSeries(number),
    queryFn: () => ask(api.GET('/api/pieces/{number}/series', { params: { path } })),
  });
  const format = useFormats().data?.find((f) => f.key === piece.data?.format);
  const { draft, error, clash, settle, write, pasted, outline, onNewest, step, attach, flush, editor } =
    useDraft(number);
  const navigate = useNavigate();
  const [current, setCurrent] = useState(-1);
  const [selected, setSelected] = useState('');
  const [jumping, setJumping] = useState(false);
  const [table, setTable] = useState<{ from: number; to: number; text: string }>();
  const [leaving, setLeaving] = useState<(() => void) | null>(null);
  const lifted = useRef('');
  const goal = useRef<number | null>(null);
  const show = useCallback(
    (at: number) => (at < 0 ? editor.current?.goToSection(-1 - at) : editor.current?.goTo(at)),
    [editor],
  );
  useEffect(() => {
    if (part !== '' || goal.current === null) return;
    const at = goal.current;
    goal.current = null;
    requestAnimationFrame(() => show(at));
  }, [part, show]);
  const sensors = useSensors(useSensor(PointerSensor, byPointer), useSensor(KeyboardSensor, byKey));

  // A link may lead to one section of it.
  const { search, key: visit } = useLocation();
  const isOpen = piece.data !== undefined && draft !== undefined;
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
  }, [search, visit, isOpen, number, editor]);

  // Back and forward are the same everywhere on the page; only a field that is being typed into has its own.
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.defaultPrevented) return;
      if (isKey(event, 'bench.jump') && !(event.target as HTMLElement).closest('[role=dialog]')) {
        event.preventDefault();
        setJumping(true);
        return;
      }
      const way = isKey(event, 'bench.back')
        ? 'back'
        : isKey(event, 'bench.forward') || pressed(event) === 'Ctrl+y'
          ? 'forward'
          : undefined;
      const target = event.target as HTMLElement;
      if (!way || target.closest('input, textarea, [contenteditable=true], [role=dialog]')) return;
      event.preventDefault();
      void step(way);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [step]);

  const { quiet, change: changeQuiet, narrow } = useQuiet(isOpen && part === '');
  useEffect(() => {
    if (isOpen && part === '') editor.current?.quiet(quiet);
  }, [quiet, isOpen, part, editor]);

  const marks = useMarks(number);
  useEffect(() => {
    if (isOpen && part === '') editor.current?.marks(marks.map((mark) => mark.at));
  }, [marks, isOpen, part, editor]);

  /** Ideas and moves that were marked in the text become slips and moves when the writer leaves it. */
  const lift = async (idea?: string) => {
    await flush();
    await carryOut(
      done(
        api.POST('/api/pieces/{number}/lift', {
          params: { path },
          body: idea === undefined ? { left: true, idea: null } : { left: false, idea },
        }),
      ),
      (made) => {
        const said = [
          made.slips.length > 0 &&
            `Slip ${made.slips.join(', ')} ${made.slips.length === 1 ? 'waits' : 'wait'} in Sift.`,
          made.moves.length === 1 && 'A move was written down.',
          made.moves.length > 1 && `${made.moves.length} moves were written down.`,
        ].filter(Boolean);
        return said.join(' ');
      },
    ).catch(() => undefined);
  };
  /** Splits the section at the cursor; what is behind it gets a heading, whose words are to be chosen next. */
  const splitHere = async () => {
    const at = editor.current?.cursor();
    if (at === null || at === undefined) return say('Put the cursor where the section is to be split.');
    const made = await carryOut(
      outline((version) =>
        done(api.POST('/api/pieces/{number}/outline/split', { params: { path }, body: { version, at } })),
      ),
      'Split; the rest is a section of its own.',
    ).catch(() => undefined);
    const nth = made?.sections.findIndex((section) => section.start >= at - 2) ?? -1;
    if (nth >= 0)
      setTimeout(() => document.querySelector<HTMLElement>(`[data-section="${nth}"] textarea`)?.focus(), 60);
  };
  const markHere = async () => {
    const at = editor.current?.cursor();
    if (at === null || at === undefined) return say('Put the cursor at the place that is to be marked.');
    await flush();
    const draft = await ask(api.GET('/api/pieces/{number}/draft', { params: { path } }));
    await carryOut(
      done(api.POST('/api/pieces/{number}/marks', { params: { path }, body: { version: draft.version, at } })),
      'Marked; it stands in the list of sections and marks.',
    ).catch(() => undefined);
    await queryClient.invalidateQueries({ queryKey: keys.marks(number) });
  };
  const besideText = useBeside(quiet.isAlone);
  const { show: showBeside } = besideText;
  const [word, setWord] = useState<WordAt>();
  const [sought, setSought] = useState('');
  const [picturing, setPicturing] = useState<{ file?: File; at?: PictureAt }>();
  const [puttingIn, setPuttingIn] = useState(false);
  const writing = useWriting(piece.data?.language, editor, isOpen && part === '');
  const sitting = useSitting(number, draft?.changedAt).data;
  useAimReached(sitting);
  const lookUp = () => {
    setWord(editor.current?.word());
    showBeside('words');
    // The list is there a moment later; its first word is where the keys go.
    setTimeout(() => document.querySelector<HTMLElement>('[data-beside] button[data-word]')?.focus(), 350);
  };
  const replaceIn = () => {
    setSought(editor.current?.chosen() ?? '');
    showBeside('replace');
  };
  const picture = () => setPicturing({ at: pictureAt(editor.current?.text() ?? '', editor.current?.cursor() ?? -1) });
  /** What a key or a press in the foot does in the draft. */
  const acts: Partial<Record<DraftAct, () => void>> = {
    'bench.outline': () => document.querySelector<HTMLElement>('[aria-label="New section"]')?.focus(),
    'bench.lift': () => {
      const idea = editor.current?.paragraph();
      if (idea) void lift(idea);
    },
    'bench.split': () => void splitHere(),
    'bench.jump': () => setJumping(true),
    'bench.mark': () => void markHere(),
    'bench.attention': narrow,
    'bench.hold': () => changeQuiet({ isHeld: !quiet.isHeld }),
    'bench.find': replaceIn,
    'bench.lastEdit': () => {
      if (!editor.current?.lastEdit()) say('Nothing was changed since it was opened.');
    },
    'bench.words': lookUp,
    'bench.note': () => editor.current?.note(),
    'bench.remark': () => editor.current?.remark(),
    'bench.pattern': () => setPuttingIn(true),
    'bench.picture': picture,
    'bench.beside': besideText.choose,
  };
  const act = (name: DraftAct) => acts[name]?.();
  const calls: DraftCalls = {
    onWrite: write,
    onTurn: () => void flush(),
    onPlace: setCurrent,
    onSelect: setSelected,
    onStep: (way) => void step(way),
    onAct: (name) => {
      if (!acts[name]) return false;
      acts[name]();
      return true;
    },
    onPictures: (files) => setPicturing({ file: files[0] }),
    onPasted: pasted,
    onMove: () => {
      if (besideText.view === 'words') setWord(editor.current?.word());
    },
    onBlur: () => {
      const text = editor.current?.send().text() ?? '';
      const marked = (text.match(/^.*(?:(?:^|\s)#\p{L}|[-*+] \[[ xX]\] ).*$/gmu) ?? []).join('\n');
      if (marked && marked !== lifted.current) void lift();
      lifted.current = marked;
    },
  };

  const sections = draft?.sections ?? none;
  const outlineActs = useSteady(outlineActsOf(number, outline, (at) => editor.current?.goToSection(at)));
  const materialActs = useSteady(
    materialActsOf({ number, sections, current, editor: () => editor.current, flush, onNewest }),
  );
  /** Whatever takes the piece out says first what would go missing. */
  const beforeOut = async (go: () => void, isForGood = false) => {
    await flush();
    const notes = await ask(api.GET('/api/pieces/{number}/before-out', { params: { path } })).catch(() => []);
    // What is only looked at or shown around may have sections that nobody has written yet.
    if (notes.every((note) => !isForGood && note.kind === 'unwritten')) go();
    else setLeaving(() => go);
  };
  /** What the head, the parts and the foot of the page may ask; they are drawn again only when what they show changed. */
  const pageActs = useSteady({
    beforeOut,
    onGoing: flush,
    onStep: (way: 'back' | 'forward') => void step(way),
    onSitting: () => showBeside('sitting'),
    onAct: act,
    onQuiet: (next: Partial<Quiet>) => {
      changeQuiet(next);
      // Behind the menu, which gives the focus back to its button.
      setTimeout(() => editor.current?.focus(), 120);
    },
    onTable: () => setTable(editor.current?.table()),
  });

  if (piece.error) return <Failed error={piece.error} onRetry={() => void piece.refetch()} />;
  if (!piece.data || !draft) return error ? <Failed error={error} /> : <Loading what="Opening the piece" />;
  const ofOutline = (change: Parameters<typeof outline>[0], said?: string) => carryOut(outline(change), said);
  /** Shows a place of the draft from another part of the page; what is below nothing is a section, counted from −1 down. */
  const showAt = (at: number) => {
    if (part === '') return show(at);
    // The editor has no size while it is out of sight.
    goal.current = at;
    void navigate(`/bench/${number}`);
  };

  /** How a dragged or dropped-on thing is said: its kind and number, or the section's title. */
  const spoken = (id: UniqueIdentifier) => {
    const [what, ...rest] = id.toString().split('-');
    if (what === 'material') return named({ [rest[0]!]: Number(rest[1]) });
    return `“${sections.find((section) => section.number === Number(rest[0]))?.title ?? ''}”`;
  };
  const dropped = ({ active, over }: DragEndEvent) => {
    if (!over) return;
    const [, kind, id] = active.id.toString().split('-');
    const target = Number(over.id.toString().split('-')[1]);
    void materialActs.place({ [kind!]: Number(id) }, target).catch(() => undefined);
  };
  return (
    <div className="flex h-full flex-col max-md:overflow-y-auto">
      <PieceHead
        piece={piece.data}
        words={draft.counts.words}
        aim={piece.data.wordAim ?? sections.reduce((sum, section) => sum + (section.aim ?? 0), 0)}
        beforeOut={pageActs.beforeOut}
        onGoing={pageActs.onGoing}
      />
      <PieceParts
        number={number}
        part={part}
        isThread={format?.limits.part != null}
        gone={draft.gone.length}
        onStep={pageActs.onStep}
      />
      {part === 'before' && (
        <BeforeWriting
          piece={piece.data}
          sections={sections}
          onDraft={(run) => onNewest(run, (answer) => answer.draft)}
        />
      )}
      {part === 'route' && (
        <RoutePart
          piece={number}
          onEnter={flush}
          acts={{
            goTo: showAt,
            move: outlineActs.move,
            onDraft: (run) => onNewest(run, (answer) => answer),
          }}
        />
      )}
      {part === 'thread' && (
        <ThreadPart piece={number} onEnter={flush} onGo={showAt} onDraft={(run) => onNewest(run, (answer) => answer)} />
      )}
      {part === 'steps' && <StepsPart piece={piece.data} />}
      {part === 'beside' && <BesidePart piece={piece.data} />}
      {part === 'versions' && (
        <VersionsPart piece={number} onEnter={flush} onDraft={(run) => onNewest(run, (answer) => answer)} />
      )}
      {part === 'kept' && (
        <KeptWithIt
          number={number}
          gone={draft.gone}
          onBringBack={(section) =>
            ofOutline(
              (version) =>
                done(
                  api.POST('/api/pieces/{number}/outline/{section}/back', {
                    params: { path: { number: String(number), section: String(section) } },
                    body: { version },
                  }),
                ),
              'The section stands at the end again.',
            )
          }
          onBackTo={(command) =>
            onNewest(
              () => done(api.POST('/api/pieces/{number}/back/to', { params: { path }, body: { command } })),
              (stepped) => stepped.draft,
            ).then(({ answer }) => {
              say(`${answer.what.charAt(0).toUpperCase()}${answer.what.slice(1)}.`, () => void step('forward'));
            })
          }
        />
      )}
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
        <div className={`flex min-h-0 flex-1 max-md:flex-col ${part ? 'hidden' : ''}`}>
          <BesideColumn
            view={besideText.view}
            asked={besideText.asked}
            onView={(view) => {
              if (view === 'words') setWord(editor.current?.word());
              if (view === 'replace') setSought(editor.current?.chosen() ?? '');
              showBeside(view);
            }}
            onLeave={() => {
              besideText.leave();
              editor.current?.focus();
            }}
          >
            <Later>
              {besideText.view === 'material' && (
                <MaterialColumn piece={number} onHand={material.data} sections={sections} acts={materialActs} />
              )}
              {besideText.view === 'words' && (
                <WordsView
                  at={word}
                  language={writing.language}
                  spelling={writing.spelling}
                  typesets={writing.typesets}
                  onSpelling={writing.markSpelling}
                  onTypesets={writing.typeset}
                  languages={writing.languages}
                  onLanguage={(language) =>
                    void carryOut(
                      done(
                        api.PATCH('/api/pieces/{number}', {
                          params: { path },
                          body: { language, version: piece.data.version },
                        }),
                      ),
                      'The language of the piece is changed.',
                    ).then(refreshPiece, () => undefined)
                  }
                  onPut={(put) => {
                    if (word) editor.current?.put(word.from, word.to, put);
                    setWord(undefined);
                  }}
                />
              )}
              {besideText.view === 'replace' && (
                <ReplaceView
                  key={sought}
                  piece={number}
                  version={draft.version}
                  section={sections[current]}
                  inSeries={Boolean(series.data)}
                  first={sought}
                  onGo={(from, to) => editor.current?.goTo(from, to)}
                  flush={flush}
                />
              )}
              {besideText.view === 'check' && (
                <CheckView piece={number} onGo={(from, to) => editor.current?.goTo(from, to)} flush={flush} />
              )}
              {besideText.view === 'remarks' && (
                <RemarksView
                  text={editor.current?.text() ?? draft.text}
                  onGo={(from, to) => editor.current?.goTo(from, to)}
                  onDone={(from, to) => {
                    editor.current?.put(from, to, '');
                    say('Done; the remark is gone from the text. Ctrl+Z brings it back.');
                  }}
                  onNew={() => editor.current?.remark()}
                />
              )}
              {besideText.view === 'find' && <FindView onPut={materialActs.cite} />}
              {besideText.view === 'source' && <SourceView onPut={materialActs.cite} />}
              {besideText.view === 'piece' && <PieceView besides={number} onPut={materialActs.cite} />}
              {besideText.view === 'steps' && <StepsView piece={piece.data} />}
              {besideText.view === 'heap' && (
                <HeapView
                  piece={number}
                  sections={sections}
                  onDraft={(run) => onNewest(run, (answer) => answer.draft)}
                />
              )}
              {besideText.view === 'sitting' && (
                <SittingView piece={piece.data} words={draft.counts.words} changedAt={draft.changedAt} flush={flush} />
              )}
            </Later>
          </BesideColumn>
          <Later instead={outlineToCome}>
            <OutlineColumn
              piece={number}
              sections={sections}
              current={current}
              beats={format?.beats ?? none}
              later={format?.later ?? none}
              acts={outlineActs}
            />
          </Later>
          <section
            aria-label="Draft"
            data-sheet
            className="flex min-w-0 flex-1 flex-col border-l border-hair max-md:order-first max-md:h-[78vh] max-md:flex-none max-md:border-l-0 max-md:border-b"
          >
            <div className="min-h-0 flex-1">
              <DraftEditor initial={draft} calls={calls} handle={attach} />
            </div>
            <DraftFoot
              draft={draft.counts}
              measured={draft.measured}
              section={sections[current]}
              selected={selected}
              sitting={sitting}
              quiet={quiet}
              onSitting={pageActs.onSitting}
              onAct={pageActs.onAct}
              onQuiet={pageActs.onQuiet}
              onTable={pageActs.onTable}
            />
          </section>
        </div>
      </DndContext>
      {picturing && (
        <PictureDialog
          piece={number}
          file={picturing.file}
          at={picturing.at}
          onPut={(picture) => {
            if (picturing.at) editor.current?.put(picturing.at.from, picturing.at.to, picture);
            else editor.current?.insert(picture, true);
            setPicturing(undefined);
            // Behind the dialog, which gives the focus back.
            setTimeout(() => editor.current?.focus(), 120);
          }}
          onClose={() => setPicturing(undefined)}
        />
      )}
      {puttingIn && (
        <PutInDialog
          piece={number}
          onLay={(laid) => {
            setPuttingIn(false);
            setTimeout(() => editor.current?.lay(laid.text, laid.places), 120);
          }}
          onStand={(reference) => {
            setPuttingIn(false);
            editor.current?.insert(reference);
            setTimeout(() => editor.current?.focus(), 120);
          }}
          onClose={() => setPuttingIn(false)}
        />
      )}
      <TableDialog
        text={table?.text}
        onClose={() => setTable(undefined)}
        onWrite={(written) => editor.current?.writeTable(table!.from, table!.to, written)}
      />
      <JumpTo
        piece={number}
        sections={sections}
        open={jumping}
        onClose={() => setJumping(false)}
        onGo={(to) => showAt('section' in to ? -1 - to.section : to.place)}
      />
      {leaving && (
        <BeforeOut
          number={number}
          onGo={() => {
            leaving();
            setLeaving(null);
          }}
          onShow={(note) => {
            setLeaving(null);
            if (note.at < 0) void navigate(`/bench/${number}/${note.part}`);
            else showAt(note.at);
          }}
          onClose={() => setLeaving(null)}
        />
      )}
      {clash && (
        <TwoTexts
          mine={clash.merged.parts.map((part) => part.mine).join('')}
          theirs={clash.theirs.text}
          merged={clash.merged}
          onChoose={settle}
        />
      )}
    </div>
  );
}
