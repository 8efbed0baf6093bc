import { HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { StateField, type Range } from '@codemirror/state';
import { Decoration, EditorView, type DecorationSet } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import type { Section } from '../api/client';
import { following, setSections } from './anchors';
import { headings, numbered } from './headings';
import { cameOrLeft, hereOrAway, inSight, touches, Word } from './inSight';

const sections = StateField.define<readonly Section[]>({
  create: () => [],
  update: (value, change) =>
    change.effects.reduce((now, effect) => (effect.is(setSections) ? effect.value : now), value),
});

const reference = / ?(?<!\\)\[\[(?:(slip|source|piece|p|topic)\s*)?([^[\]\n]{1,300})\]\]/gi;

const dim = Decoration.mark({ class: 'cm-dim' });
const referenceOpen = Decoration.mark({ class: 'cm-reference' });
const headLine = [1, 2, 3, 4, 5].map((depth) => Decoration.line({ class: `cm-head cm-head-${depth}` }));

/** What is placed in a section that has no text yet, and its aim. */
function hintOf({ aim, material }: Section): string {
  const placed = material === 0 ? 'Nothing' : material === 1 ? 'One slip' : `${material} slips`;
  return `${aim ? `Aim: ${aim} words. ` : ''}${placed} placed here, nothing written.`;
}

function headingsShown(view: EditorView): DecorationSet {
  const { state } = view;
  const all = state.field(headings);
  const numbers = numbered(all.map((heading) => heading.depth));
  const known = state.field(sections);
  const found: Range<Decoration>[] = [];
  all.forEach((heading, at) => {
    if (!view.visibleRanges.some(({ from, to }) => heading.from <= to && heading.to >= from)) return;
    const end = heading.from + heading.marks;
    found.push(headLine[heading.depth - 1]!.range(heading.from));
    found.push(
      touches(state, heading.from, heading.to)
        ? dim.range(heading.from, end)
        : Decoration.replace({ widget: new Word(`${numbers[at]} — `, 'cm-number') }).range(heading.from, end),
    );
    const next = all[at + 1]?.from ?? state.doc.length;
    const section = known[at];
    if (!section || heading.to === state.doc.length || state.sliceDoc(heading.to, next).trim() !== '') return;
    const line = state.doc.lineAt(heading.to + 1);
    if (!touches(state, line.from, line.to))
      found.push(Decoration.widget({ widget: new Word(hintOf(section), 'cm-hint'), side: 1 }).range(line.from));
  });
  return Decoration.set(found, true);
}

function referencesShown(view: EditorView): DecorationSet {
  const { state } = view;
  const found: Range<Decoration>[] = [];
  for (const sight of view.visibleRanges)
    for (const match of state.sliceDoc(sight.from, sight.to).matchAll(reference)) {
      const [whole, kind, name] = match as unknown as [string, string | undefined, string];
      // A numbered reference hangs on the word before it.
      const from = sight.from + match.index + (kind || !whole.startsWith(' ') ? 0 : 1);
      const to = sight.from + match.index + whole.length;
      found.push(
        touches(state, from, to)
          ? referenceOpen.range(from, to)
          : Decoration.replace({
              widget: new Word(kind ? name.trim() : name, kind ? 'cm-note-number' : 'cm-reference'),
            }).range(from, to),
      );
    }
  return Decoration.set(found, true);
}

const decorations = [
  inSight(
    headingsShown,
    (update) => cameOrLeft(update) || update.state.field(sections) !== update.startState.field(sections),
  ),
  inSight(referencesShown, cameOrLeft),
];

const style = HighlightStyle.define([
  { tag: tags.strong, fontWeight: '700' },
  { tag: tags.emphasis, fontStyle: 'italic' },
  { tag: tags.strikethrough, textDecoration: 'line-through' },
  { tag: tags.link, color: 'var(--blue)' },
  { tag: tags.url, color: 'var(--faint)' },
  { tag: tags.monospace, fontSize: '0.9em' },
  { tag: tags.quote, color: 'var(--second)' },
  {
    tag: [tags.processingInstruction, tags.contentSeparator],
    color: 'color-mix(in srgb, var(--faint) 65%, transparent)',
  },
]);

const theme = EditorView.theme({
  '&': { height: '100%', fontSize: '18px', backgroundColor: 'var(--sheet)' },
  '&.cm-focused': { outline: 'none' },
  '.cm-scroller': { fontFamily: 'var(--font-serif)', lineHeight: '1.5', overflow: 'auto' },
  '.cm-content': {
    padding: '22px 36px 40vh',
    minWidth: 0,
    maxWidth: '40rem',
    caretColor: 'var(--blue)',
    overflowWrap: 'anywhere',
  },
  '.cm-line': { padding: '0 10px' },
  '.cm-table-row': { fontFamily: 'ui-monospace, monospace', fontSize: '13.5px', lineHeight: '1.7', whiteSpace: 'pre' },
  '.cm-included': {
    margin: '2px 10px 8px',
    padding: '6px 14px',
    borderLeft: '2px solid var(--blue)',
    whiteSpace: 'pre-wrap',
    background: 'var(--quiet)',
  },
  '.cm-included a': {
    display: 'block',
    marginTop: '4px',
    fontFamily: 'var(--font-sans)',
    fontSize: '12px',
    color: 'var(--second)',
  },
  '.cm-activeLine': { backgroundColor: 'color-mix(in srgb, var(--wash) 60%, transparent)' },
  '.cm-content ::selection, .cm-chosen': { backgroundColor: 'color-mix(in srgb, var(--blue) 22%, transparent)' },
  '.cm-head': { fontWeight: '600', fontSize: '1.28em', lineHeight: '1.3', paddingTop: '0.55em !important' },
  '.cm-head-2': { fontSize: '1.12em' },
  '.cm-head-3, .cm-head-4, .cm-head-5': { fontSize: '1em' },
  '.cm-number': {
    fontFamily: 'var(--font-sans)',
    fontSize: '0.66em',
    fontWeight: '600',
    color: 'var(--faint)',
    fontVariantNumeric: 'tabular-nums',
  },
  '.cm-dim': { color: 'var(--faint)', fontWeight: '400' },
  '.cm-hint': { color: 'var(--faint)', fontStyle: 'italic' },
  '.cm-reference': { color: 'var(--blue)' },
  '.cm-note-number': {
    color: 'var(--blue)',
    fontFamily: 'var(--font-sans)',
    fontSize: '0.6em',
    verticalAlign: 'super',
    lineHeight: '0',
    fontWeight: '600',
    padding: '0 1px',
  },
  '.cm-place': { color: 'var(--blue)', fontSize: '0.5em', verticalAlign: 'super', lineHeight: '0', padding: '0 1px' },
  '.cm-placeholder': { color: 'var(--faint)', fontStyle: 'italic' },
});

/** How a draft looks while it is written: headings large, emphasis styled, marks dimmed, references as small numbers. */
export const editorLook = [headings, following, sections, hereOrAway, decorations, syntaxHighlighting(style), theme];
