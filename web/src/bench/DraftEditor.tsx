import { autocompletion, completionKeymap, type CompletionContext } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { markdown, markdownKeymap, markdownLanguage } from '@codemirror/lang-markdown';
import { EditorState } from '@codemirror/state';
import { EditorView, drawSelection, dropCursor, highlightActiveLine, keymap, placeholder } from '@codemirror/view';
import { useEffect, useRef } from 'react';
import { api, ask, type Section } from '../api/client';
import { named } from '../sources/Connections';
import { includedSlips } from './included';
import { editorLook, headingsIn, setSections } from './editorLook';

/** What the columns beside the draft may ask of it. */
export type DraftHandle = {
  goToSection: (at: number) => void;
  insert: (text: string) => void;
  focus: () => void;
};

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
  shown,
  sections,
  onWrite,
  onPlace,
  onSelect,
  onLeave,
  handle,
}: {
  shown: { text: string; change: number };
  sections: readonly Section[];
  onWrite: (text: string) => void;
  /** The section the cursor is in, counted from 0; −1 before the first heading. */
  onPlace: (section: number) => void;
  onSelect: (text: string) => void;
  onLeave: () => void;
  handle: (handle: DraftHandle) => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(undefined);
  const calls = useRef({ onWrite, onPlace, onSelect, onLeave, handle });
  useEffect(() => {
    calls.current = { onWrite, onPlace, onSelect, onLeave, handle };
  });

  useEffect(() => {
    const nonce = document.querySelector<HTMLMetaElement>('meta[property=csp-nonce]')?.nonce ?? '';
    const editor = new EditorView({
      parent: box.current!,
      state: EditorState.create({
        extensions: [
          EditorView.cspNonce.of(nonce),
          history(),
          drawSelection(),
          dropCursor(),
          highlightActiveLine(),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({ 'aria-label': 'Draft', spellcheck: 'true', autocapitalize: 'sentences' }),
          placeholder('Begin anywhere. A line that starts with ## is a section.'),
          markdown({ base: markdownLanguage }),
          autocompletion({ override: [linkOffers], icons: false }),
          keymap.of([
            {
              key: 'Mod-Enter',
              run: () => {
                calls.current.onLeave();
                return true;
              },
            },
            ...completionKeymap,
            ...markdownKeymap,
            ...historyKeymap,
            ...defaultKeymap,
          ]),
          editorLook,
          includedSlips,
          EditorView.updateListener.of((update) => {
            if (update.docChanged && !update.transactions.some((t) => t.isUserEvent('shown')))
              calls.current.onWrite(update.state.doc.toString());
            if (update.docChanged || update.selectionSet) {
              const { from, to, head } = update.state.selection.main;
              calls.current.onPlace(headingsIn(update.state.doc).findLastIndex((heading) => heading.from <= head));
              calls.current.onSelect(from === to ? '' : update.state.sliceDoc(from, to));
            }
          }),
        ],
      }),
    });
    view.current = editor;
    calls.current.handle({
      goToSection: (at) => {
        const heading = headingsIn(editor.state.doc)[at];
        if (!heading) return;
        const body = Math.min(editor.state.doc.length, heading.to + 1);
        editor.dispatch({
          selection: { anchor: body },
          effects: EditorView.scrollIntoView(heading.from, { y: 'start', yMargin: 24 }),
        });
        editor.focus();
      },
      insert: (text) => {
        const { from, to } = editor.state.selection.main;
        const before = editor.state.sliceDoc(Math.max(0, from - 2), from);
        const block = text.startsWith('>');
        const lead = !block || before === '\n\n' || from === 0 ? '' : before.endsWith('\n') ? '\n' : '\n\n';
        const tail = block ? '\n\n' : '';
        editor.dispatch({
          changes: { from, to, insert: lead + text + tail },
          selection: { anchor: from + lead.length + text.length + tail.length },
          scrollIntoView: true,
        });
        editor.focus();
      },
      focus: () => editor.focus(),
    });
    return () => editor.destroy();
  }, []);

  // Only what differs is replaced, so that cursor and scroll stay where they are.
  useEffect(() => {
    const editor = view.current;
    if (!editor) return;
    const old = editor.state.doc.toString();
    const next = shown.text;
    if (old === next) return;
    let from = 0;
    while (from < old.length && from < next.length && old[from] === next[from]) from++;
    let [endOld, endNext] = [old.length, next.length];
    while (endOld > from && endNext > from && old[endOld - 1] === next[endNext - 1]) {
      endOld--;
      endNext--;
    }
    editor.dispatch({ changes: { from, to: endOld, insert: next.slice(from, endNext) }, userEvent: 'shown' });
  }, [shown]);

  useEffect(() => {
    view.current?.dispatch({ effects: setSections.of(sections) });
  }, [sections]);

  return <div ref={box} className="h-full min-h-0" />;
}
