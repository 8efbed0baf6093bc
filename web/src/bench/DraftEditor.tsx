import { actNames, isKey, pressed, type ActName } from '../papers/ownKeys';
import { autocompletion, completionKeymap, snippet, type CompletionContext } from '@codemirror/autocomplete';
import { defaultKeymap, history, redo, undo } from '@codemirror/commands';
import { markdownKeymap, markdownLanguage, pasteURLAsLink } from '@codemirror/lang-markdown';
import { Compartment, EditorState, type TransactionSpec } from '@codemirror/state';
import { EditorView, dropCursor, highlightActiveLine, keymap, placeholder } from '@codemirror/view';
import { useEffect, useRef } from 'react';
import { api, ask, type Anchor, type Draft } from '../api/client';
import { named } from '../sources/Connections';
import { difference } from '../text/difference';
import { asParagraph, tableAt } from '../text/tableAt';
import { printed } from './printed';
import { quietness, setQuiet, type Quiet } from './quiet';
import { setStanding, standingTexts } from './standing';
import { chosenShown } from './chosenShown';
import { placeMarks, setMarks } from './placeMarks';
import { anchorsIn, sending, setSections } from './anchors';
import { headings } from './headings';
import { includedSlips } from './included';
import { editorLook } from './editorLook';
import { nextNote, notesShown } from './notes';
import { markdownOf } from './pasting';
import { setSpelling, spellingMarks, wordAt } from './spelling';
import { setTyping, typesetting, type Language } from './typing';

/** The draft at one moment, read only when it is wanted: reading a long text is too much work for a key. */
export type Snapshot = {
  text: () => string;
  anchors: () => Anchor[];
  same: (other: Snapshot | undefined) => boolean;
  state: EditorState;
};

/** What the page may ask of the editor. */
export type DraftHandle = {
  /** Puts the cursor into a section's text. */
  goToSection: (at: number) => void;
  goTo: (place: number, end?: number) => void;
  /** Shows what the server has. Only what differs is replaced, so that cursor and scroll stay; what was typed here is no step of it. */
  show: (draft: Draft, toChange?: boolean) => void;
  /** Shows a text that the writer or a merge decided on. */
  replace: (text: string) => void;
  /** Takes in what the server counted of the text that was sent. */
  counted: (draft: Draft) => void;
  quiet: (quiet: Quiet) => void;
  /** Shows where the server has marks. */
  marks: (places: readonly number[]) => void;
  /** The text as it is now, to be sent. */
  send: () => Snapshot;
  /** Steps through what was typed here since the server was last heard of. */
  local: (way: 'back' | 'forward') => void;
  /** Where the cursor stands; null when it was never in the draft. */
  cursor: () => number | null;
  paragraph: () => string;
  /** The table at the cursor; an empty stretch where there is none. */
  table: () => { from: number; to: number; text: string };
  /** Writes a table in place of a stretch. */
  writeTable: (from: number, to: number, table: string) => void;
  /** Puts a text at the cursor, in place of what is chosen; as a paragraph of its own where that is wanted. */
  insert: (text: string, alone?: boolean) => void;
  /** Puts a text with places at the cursor; Tab goes from place to place. */
  lay: (text: string, places: readonly { from: number; to: number; name: string }[]) => void;
  /** Puts a text in place of a stretch. */
  put: (from: number, to: number, text: string) => void;
  /** A note below the paragraph, with the cursor in it or with its text. */
  note: (text?: string) => void;
  remark: () => void;
  /** The word at the cursor, or the one that is chosen. */
  word: () => { from: number; to: number; word: string } | undefined;
  /** What is chosen, on one line; nothing otherwise. */
  chosen: () => string;
  /** Goes to where something was changed last; pressed again, to where it was before that. */
  lastEdit: () => boolean;
  text: () => string;
  typing: (language: Language | null) => void;
  spelling: (isOn: boolean) => void;
  /** Shows standing texts where they are named. */
  standing: (texts: ReadonlyMap<number, string>) => void;
  focus: () => void;
};

/** Acts of a key in the draft that the page does. */
export type DraftAct = Extract<ActName, `bench.${string}`>;

export type DraftCalls = {
  onWrite: (snapshot: Snapshot) => void;
  /** The kind of typing changes: what was typed until now is one step. */
  onTurn: () => void;
  /** The section the cursor is in, counted from 0; −1 before the first heading. */
  onPlace: (section: number) => void;
  onSelect: (text: string) => void;
  onStep: (way: 'back' | 'forward') => void;
  onBlur: () => void;
  /** A key of the bench was pressed in the draft; true when it does something there. */
  onAct: (act: DraftAct) => boolean;
  /** Pictures were pasted or dropped. */
  onPictures: (files: File[]) => void;
  /** Words came by pasting or dropping. */
  onPasted: (text: string) => void;
  /** The cursor came to rest somewhere else. */
  onMove: () => void;
};

const benchActs = actNames.filter((name): name is DraftAct => name.startsWith('bench.'));
/** Places that were changed, as many as one would go back to. */
const mostEdits = 20;

const snapshotOf = (state: EditorState): Snapshot => ({
  state,
  text: () => state.doc.toString(),
  anchors: () => anchorsIn(state),
  same: (other) => other?.state.doc.eq(state.doc) ?? false,
});

const picturesIn = (data: DataTransfer | null) =>
  [...(data?.files ?? [])].filter((file) => file.type.startsWith('image/'));

/** After “[[” the titles, numbers and topics that could stand there. */
async function linkOffers(context: CompletionContext) {
  const begun = context.matchBefore(/\[\[[^[\]\n]{0,80}/);
  if (!begun) return null;
  const offers = await ask(api.GET('/api/links/offers', { params: { query: { begun: begun.text.slice(2) } } })).catch(
    () => [],
  );
  const closed = context.state.sliceDoc(context.pos, context.pos + 2) === ']]' ? 2 : 0;
  return {
    from: begun.from + 2,
    filter: false,
    options: offers.map((offer) => ({
      label: offer.write,
      displayLabel: offer.title,
      detail: offer.part
        ? `section in ${named(offer.thing)}`
        : offer.thing.kind === 'topic'
          ? 'topic'
          : named(offer.thing),
      apply: (view: EditorView, _: unknown, from: number, to: number) =>
        view.dispatch({
          changes: { from, to: to + closed, insert: `${offer.write}]]` },
          selection: { anchor: from + offer.write.length + 2 },
        }),
    })),
  };
}

/** The draft as one continuous text. */
export function DraftEditor({
  initial,
  calls,
  handle,
}: {
  initial: Draft;
  calls: DraftCalls;
  handle: (handle: DraftHandle | undefined) => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const first = useRef(initial);
  const now = useRef({ calls, handle });
  useEffect(() => {
    now.current = { calls, handle };
  });

  useEffect(() => {
    const nonce = document.querySelector<HTMLMetaElement>('meta[property=csp-nonce]')?.nonce ?? '';
    const kept = new Compartment();
    let entered = false;
    let place = -2;
    let turn = '';
    let edits: number[] = [];
    let wentBack = 0;
    const step = (way: 'back' | 'forward') => () => {
      now.current.calls.onStep(way);
      return true;
    };
    const editor = new EditorView({
      parent: box.current!,
      state: EditorState.create({
        // The text is there before there is a history, so that no step leads back to nothing.
        doc: first.current.text,
        extensions: [
          EditorView.cspNonce.of(nonce),
          kept.of(history()),
          chosenShown,
          dropCursor(),
          highlightActiveLine(),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({
            'aria-label': 'Draft',
            tabindex: '0',
            autocapitalize: 'sentences',
          }),
          placeholder('Begin anywhere. A line that starts with ## is a section.'),
          // Without `markdown()`, which brings the languages of web pages and scripts with it.
          markdownLanguage,
          pasteURLAsLink,
          autocompletion({ override: [linkOffers], icons: false }),
          typesetting,
          spellingMarks,
          notesShown,
          standingTexts,
          keymap.of([
            {
              // The keys may be the writer's own, so they are asked at each press.
              any: (_, event) => {
                if (isKey(event, 'bench.back')) step('back')();
                else if (isKey(event, 'bench.forward') || pressed(event) === 'Ctrl+y') step('forward')();
                else {
                  const act = benchActs.find((name) => isKey(event, name));
                  if (!act || !now.current.calls.onAct(act)) return false;
                }
                event.preventDefault();
                return true;
              },
            },
            // What CodeMirror would do by itself is the walk's.
            { key: 'Mod-z', run: () => true, shift: () => true, preventDefault: true },
            ...completionKeymap,
            ...markdownKeymap,
            ...defaultKeymap,
          ]),
          editorLook,
          includedSlips,
          placeMarks,
          printed,
          quietness,
          EditorView.domEventHandlers({
            'come-back': (event, view) => {
              event.preventDefault();
              view.focus();
              return true;
            },
            // A card that was drawn: a remark, so that it never goes out.
            'put-in': (event, view) => {
              event.preventDefault();
              // Behind what is chosen, which stays.
              const from = view.state.selection.main.to;
              const text = `<!-- ${(event as CustomEvent<string>).detail.replaceAll('--', '–')} -->`;
              const insert = asParagraph(view.state.doc.toString(), from, from, text);
              view.dispatch({
                changes: { from, insert },
                selection: { anchor: from + insert.length },
                userEvent: 'input',
              });
              view.focus();
              return true;
            },
            focus: () => {
              entered = true;
            },
            blur: () => now.current.calls.onBlur(),
            drop: (event) => {
              const pictures = picturesIn(event.dataTransfer);
              if (pictures.length === 0) return false;
              event.preventDefault();
              now.current.calls.onPictures(pictures);
              return true;
            },
            paste: (event, view) => {
              const pictures = picturesIn(event.clipboardData);
              // Office programs lay a picture of the words beside the words.
              if (pictures.length > 0 && !event.clipboardData?.getData('text/plain')) {
                event.preventDefault();
                now.current.calls.onPictures(pictures);
                return true;
              }
              const html = event.clipboardData?.getData('text/html');
              const text = html ? markdownOf(html) : null;
              if (text === null) return false;
              event.preventDefault();
              const { from, to } = view.state.selection.main;
              // Headings, lists and paragraphs begin on a line of their own.
              const insert = /^#|\n/.test(text.trim())
                ? asParagraph(view.state.doc.toString(), from, to, text.trim())
                : text;
              view.dispatch({
                changes: { from, to, insert },
                selection: { anchor: from + insert.length },
                userEvent: 'input.paste',
                scrollIntoView: true,
              });
              return true;
            },
            // The browser's own undo, as its menu offers it, is this one.
            beforeinput: (event) => {
              if (event.inputType !== 'historyUndo' && event.inputType !== 'historyRedo') return false;
              event.preventDefault();
              now.current.calls.onStep(event.inputType === 'historyUndo' ? 'back' : 'forward');
              return true;
            },
          }),
          EditorView.updateListener.of((update) => {
            const { calls } = now.current;
            const own = update.transactions.filter((t) => t.docChanged && !t.isUserEvent('shown'));
            if (own.length > 0) {
              for (const one of own)
                if (one.isUserEvent('input.paste') || one.isUserEvent('input.drop'))
                  one.changes.iterChanges((_, __, ___, ____, inserted) => calls.onPasted(inserted.toString()));
              const last = own.at(-1)!;
              edits = edits.map((at) => update.changes.mapPos(at, 1));
              last.changes.iterChanges((_, __, ___, to) => {
                const at = Math.min(to, update.state.doc.length);
                const line = update.state.doc.lineAt(at);
                edits = [at, ...edits.filter((old) => old < line.from || old > line.to)].slice(0, mostEdits);
                wentBack = 0;
              });
              const kind = own.some((t) => t.isUserEvent('input.type') || t.isUserEvent('input.complete'))
                ? 'type'
                : own.some((t) => t.isUserEvent('delete') && !t.isUserEvent('delete.cut'))
                  ? 'delete'
                  : 'once';
              if (turn !== '' && (kind === 'once' || kind !== turn)) calls.onTurn();
              turn = kind;
              calls.onWrite(snapshotOf(update.state));
            }
            if (update.docChanged || update.selectionSet) {
              const { from, to, head } = update.state.selection.main;
              const at = update.state.field(headings).findLastIndex((heading) => heading.from <= head);
              if (at !== place) calls.onPlace((place = at));
              calls.onSelect(from === to ? '' : update.state.sliceDoc(from, to));
              calls.onMove();
            }
          }),
        ],
      }),
    });
    editor.dispatch({ effects: [sending.of(null), setSections.of(first.current.sections)] });
    const goTo = (at: number, end = at) => {
      const length = editor.state.doc.length;
      editor.dispatch({
        selection: { anchor: Math.min(at, length), head: Math.min(end, length) },
        effects: EditorView.scrollIntoView(Math.min(at, length), { y: 'center' }),
      });
      editor.focus();
    };
    /** A new branch: what was typed before is a matter of the server's walk now. */
    const forget = () => {
      editor.dispatch({ effects: kept.reconfigure([]) });
      editor.dispatch({ effects: kept.reconfigure(history()) });
    };
    const own: DraftHandle = {
      goToSection: (at) => {
        const heading = editor.state.field(headings)[at];
        if (!heading) return;
        const next = editor.state.field(headings)[at + 1]?.from ?? editor.state.doc.length;
        // Into the text; where there is none, a line of its own is made between this heading and the next.
        const body = editor.state.sliceDoc(heading.to, next);
        const spec: TransactionSpec = { effects: EditorView.scrollIntoView(heading.from, { y: 'start', yMargin: 24 }) };
        if (body.trim() !== '') spec.selection = { anchor: heading.to + (body.length - body.trimStart().length) };
        else {
          const isLast = next === editor.state.doc.length && at === editor.state.field(headings).length - 1;
          const room = isLast ? '\n\n' : '\n\n\n\n';
          if (body !== room) {
            spec.changes = { from: heading.to, to: next, insert: room };
            spec.userEvent = 'shown';
          }
          spec.selection = { anchor: heading.to + 2 };
        }
        editor.dispatch(spec);
        editor.focus();
      },
      goTo,
      show: (draft, toChange) => {
        const change = difference(editor.state.doc.toString(), draft.text);
        const end = change && change.from + change.insert.length;
        editor.dispatch({
          changes: change,
          selection: change && toChange ? { anchor: end! } : undefined,
          scrollIntoView: change !== undefined && toChange,
          effects: [sending.of(null), setSections.of(draft.sections)],
          userEvent: 'shown',
        });
        turn = '';
        if (change) forget();
      },
      replace: (text) => {
        const change = difference(editor.state.doc.toString(), text);
        if (change) editor.dispatch({ changes: change, userEvent: 'shown' });
        forget();
      },
      counted: (draft) => editor.dispatch({ effects: setSections.of(draft.sections) }),
      quiet: (next) => editor.dispatch({ effects: setQuiet.of(next) }),
      marks: (places) => editor.dispatch({ effects: setMarks.of(places) }),
      send: () => {
        editor.dispatch({ effects: sending.of(null) });
        return snapshotOf(editor.state);
      },
      local: (way) => void (way === 'back' ? undo(editor) : redo(editor)),
      cursor: () => (entered ? editor.state.selection.main.head : null),
      paragraph: () => {
        const { from, to } = editor.state.selection.main;
        if (from !== to) return editor.state.sliceDoc(from, to).trim();
        let [first, last] = [editor.state.doc.lineAt(from), editor.state.doc.lineAt(from)];
        while (first.number > 1 && editor.state.doc.line(first.number - 1).text.trim() !== '')
          first = editor.state.doc.line(first.number - 1);
        while (last.number < editor.state.doc.lines && editor.state.doc.line(last.number + 1).text.trim() !== '')
          last = editor.state.doc.line(last.number + 1);
        return editor.state.sliceDoc(first.from, last.to).trim();
      },
      table: () => {
        const text = editor.state.doc.toString();
        const at = editor.state.selection.main.head;
        const found = tableAt(text, at);
        return found ? { ...found, text: text.slice(found.from, found.to) } : { from: at, to: at, text: '' };
      },
      writeTable: (from, to, table) => {
        const insert = from === to ? asParagraph(editor.state.doc.toString(), from, to, table) : table;
        editor.dispatch({
          changes: { from, to, insert },
          selection: { anchor: from + insert.length },
          scrollIntoView: true,
          userEvent: 'input.paste',
        });
        // Behind the dialog, which gives the focus back to where it was opened.
        setTimeout(() => editor.focus(), 120);
      },
      insert: (text, alone = false) => {
        const { from, to } = editor.state.selection.main;
        const insert = alone ? asParagraph(editor.state.doc.toString(), from, to, text) : text;
        own.put(from, to, insert);
      },
      put: (from, to, text) => {
        editor.dispatch({
          changes: { from, to, insert: text },
          selection: { anchor: from + text.length },
          scrollIntoView: true,
          userEvent: 'input',
        });
        editor.focus();
      },
      lay: (text, places) => {
        const escaped = (part: string) => part.replace(/[\\#$]\{|[{}\\]/g, (sign) => `\\${sign}`);
        let [template, at] = ['', 0];
        for (const place of places) {
          template += `${escaped(text.slice(at, place.from))}\${${text.slice(place.from, place.to).replace(/[{}:]/g, '')}}`;
          at = place.to;
        }
        template += escaped(text.slice(at));
        const { from, to } = editor.state.selection.main;
        editor.focus();
        snippet(template)(editor, null, from, to);
      },
      note: (text = '') => {
        const doc = editor.state.doc.toString();
        const at = editor.state.selection.main.to;
        const key = nextNote(doc);
        let line = editor.state.doc.lineAt(at);
        while (line.number < editor.state.doc.lines && editor.state.doc.line(line.number + 1).text.trim() !== '')
          line = editor.state.doc.line(line.number + 1);
        const below = `\n\n[^${key}]: ${text}`;
        const mark = `[^${key}]`;
        editor.dispatch({
          changes: [
            { from: at, insert: mark },
            { from: line.to, insert: below },
          ],
          // With its text the writer goes on where they were; without, they write it.
          selection: { anchor: text ? at + mark.length : line.to + mark.length + below.length },
          scrollIntoView: true,
          userEvent: 'input',
        });
        editor.focus();
      },
      remark: () => {
        const { from, to } = editor.state.selection.main;
        const inside = editor.state.sliceDoc(from, to);
        const space = /\S/.test(editor.state.sliceDoc(from - 1, from)) ? ' ' : '';
        editor.dispatch({
          changes: { from, to, insert: `${space}<!-- ${inside} -->` },
          selection: { anchor: from + space.length + 5 + inside.length },
          scrollIntoView: true,
          userEvent: 'input',
        });
        editor.focus();
      },
      word: () => {
        const { from, to } = editor.state.selection.main;
        if (from !== to) return { from, to, word: editor.state.sliceDoc(from, to) };
        const line = editor.state.doc.lineAt(from);
        const found = wordAt(line.text, from - line.from);
        return found && { from: found.from + line.from, to: found.to + line.from, word: found.word };
      },
      chosen: () => {
        const { from, to } = editor.state.selection.main;
        const text = editor.state.sliceDoc(from, to);
        return text.includes('\n') ? '' : text;
      },
      lastEdit: () => {
        const at = edits[wentBack % Math.max(1, edits.length)];
        if (at === undefined) return false;
        wentBack++;
        goTo(at);
        return true;
      },
      text: () => editor.state.doc.toString(),
      typing: (language) => editor.dispatch({ effects: setTyping.of(language) }),
      standing: (texts) => editor.dispatch({ effects: setStanding.of(texts) }),
      spelling: (isOn) => editor.dispatch({ effects: setSpelling.of(isOn) }),
      focus: () => editor.focus(),
    };
    now.current.handle(own);
    return () => {
      now.current.handle(undefined);
      editor.destroy();
    };
  }, []);

  return <div ref={box} className="h-full min-h-0" />;
}
