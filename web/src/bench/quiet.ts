import { EditorState, StateEffect, StateField, type Range } from '@codemirror/state';
import { Decoration, EditorView, type DecorationSet } from '@codemirror/view';
import { headings } from './headings';
import { inSight } from './inSight';

/** What of the text is attended to; the rest recedes. */
export const attentions = ['text', 'section', 'paragraph', 'sentence'] as const;
export type Attention = (typeof attentions)[number];

/** How quiet it is around the words. */
export type Quiet = {
  attention: Attention;
  /** Whether the line one writes in stays at one height. */
  isHeld: boolean;
  /** Whether there is nothing but the sheet. */
  isAlone: boolean;
};

export const setQuiet = StateEffect.define<Quiet>();

const quiet = StateField.define<Quiet>({
  create: () => ({ attention: 'text', isHeld: false, isAlone: false }),
  update: (value, change) => change.effects.reduce((now, effect) => (effect.is(setQuiet) ? effect.value : now), value),
});

type Stretch = { from: number; to: number };

function sectionAt(state: EditorState, at: number): Stretch {
  const all = state.field(headings);
  const next = all.findIndex((heading) => heading.from > at);
  const last = next < 0 ? all.length - 1 : next - 1;
  return { from: all[last]?.from ?? 0, to: next < 0 ? state.doc.length : all[next]!.from - 1 };
}

function paragraphAt(state: EditorState, at: number): Stretch {
  let [first, last] = [state.doc.lineAt(at), state.doc.lineAt(at)];
  if (first.text.trim() === '') return first;
  while (first.number > 1 && state.doc.line(first.number - 1).text.trim() !== '')
    first = state.doc.line(first.number - 1);
  while (last.number < state.doc.lines && state.doc.line(last.number + 1).text.trim() !== '')
    last = state.doc.line(last.number + 1);
  return { from: first.from, to: last.to };
}

const sentences = new Intl.Segmenter(undefined, { granularity: 'sentence' });

function sentenceAt(state: EditorState, at: number): Stretch {
  const { from, to } = paragraphAt(state, at);
  for (const { index, segment } of sentences.segment(state.sliceDoc(from, to)))
    if (at <= from + index + segment.length) return { from: from + index, to: from + index + segment.length };
  return { from, to };
}

const stretchAt = { text: () => null, section: sectionAt, paragraph: paragraphAt, sentence: sentenceAt };

const away = Decoration.line({ class: 'cm-away' });
const awayWords = Decoration.mark({ class: 'cm-away' });

function receded(view: EditorView): DecorationSet {
  const { state } = view;
  const stretch = stretchAt[state.field(quiet).attention](state, state.selection.main.head);
  if (!stretch) return Decoration.none;
  const found: Range<Decoration>[] = [];
  for (const { from, to } of view.visibleRanges)
    for (let at = from; at <= to;) {
      const line = state.doc.lineAt(at);
      if (line.to < stretch.from || line.from > stretch.to) found.push(away.range(line.from));
      else {
        if (line.from < stretch.from) found.push(awayWords.range(line.from, stretch.from));
        if (line.to > stretch.to) found.push(awayWords.range(stretch.to, line.to));
      }
      at = line.to + 1;
    }
  return Decoration.set(found, true);
}

const receding = inSight(receded, (update) => update.state.field(quiet) !== update.startState.field(quiet));

/** The line stays where it is while one writes; a press of the mouse may go anywhere. */
const holding = EditorState.transactionExtender.of((change) =>
  change.startState.field(quiet).isHeld &&
  (change.docChanged || change.selection) &&
  !change.isUserEvent('select.pointer') &&
  !change.isUserEvent('shown')
    ? { effects: EditorView.scrollIntoView(change.newSelection.main.head, { y: 'center' }) }
    : null,
);

const classes = EditorView.editorAttributes.compute([quiet], (state) => ({
  class: [state.field(quiet).isHeld ? 'cm-held' : '', state.field(quiet).isAlone ? 'cm-alone' : ''].join(' '),
}));

const look = EditorView.theme({
  '.cm-away, .cm-away *': { color: 'color-mix(in srgb, var(--ink) 62%, var(--sheet)) !important' },
  '&.cm-held .cm-content': { paddingTop: '42vh', paddingBottom: '50vh' },
  '&.cm-alone .cm-content': { marginInline: 'auto' },
  '&.cm-alone .cm-activeLine': { backgroundColor: 'transparent' },
});

/** Attention to a part of the text, the line held at one height, and the sheet alone. */
export const quietness = [quiet, receding, holding, classes, look];
