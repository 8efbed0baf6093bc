import { HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { RangeSetBuilder, StateEffect, StateField, type EditorState } from '@codemirror/state';
import { Decoration, EditorView, WidgetType, type DecorationSet } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import type { Section } from '../api/client';
import { following, setSections } from './anchors';
import { headings, numbered } from './headings';

const sections = StateField.define<readonly Section[]>({
  create: () => [],
  update: (value, change) =>
    change.effects.reduce((now, effect) => (effect.is(setSections) ? effect.value : now), value),
});

/** Whether the cursor is in the text: marks show where it stands, and only while it does. */
const setHere = StateEffect.define<boolean>();
export const here = StateField.define<boolean>({
  create: () => false,
  update: (value, change) => change.effects.reduce((now, effect) => (effect.is(setHere) ? effect.value : now), value),
});
const watchHere = EditorView.focusChangeEffect.of((_, focusing) => setHere.of(focusing));

/** A word that stands in the text without being of it. */
export class Word extends WidgetType {
  constructor(
    readonly text: string,
    readonly name: string,
  ) {
    super();
  }
  override eq(other: Word) {
    return other.text === this.text && other.name === this.name;
  }
  toDOM() {
    const span = document.createElement('span');
    span.className = this.name;
    span.textContent = this.text;
    return span;
  }
  override ignoreEvent() {
    return false;
  }
}

const reference = / ?(?<!\\)\[\[(?:(slip|source|piece|p|topic)\s*)?([^[\]\n]{1,300})\]\]/gi;

const headLine = [1, 2, 3, 4, 5].map((depth) => Decoration.line({ class: `cm-head cm-head-${depth}` }));

function decorate(state: EditorState): DecorationSet {
  const all = new RangeSetBuilder<Decoration>();
  const { head, anchor } = state.selection.main;
  const [first, last] = [Math.min(head, anchor), Math.max(head, anchor)];
  const isHere = state.field(here);
  const touches = (from: number, to: number) => isHere && first <= to && last >= from;
  const own = state.field(headings);
  const numbers = numbered(own.map((h) => h.depth));
  const known = state.field(sections);
  const marks: { from: number; to: number; what: Decoration }[] = [];
  own.forEach((heading, at) => {
    marks.push({ from: heading.from, to: heading.from, what: headLine[heading.depth - 1]! });
    if (!touches(heading.from, heading.to))
      marks.push({
        from: heading.from,
        to: heading.from + heading.marks,
        what: Decoration.replace({ widget: new Word(`${numbers[at]} — `, 'cm-number') }),
      });
    else
      marks.push({ from: heading.from, to: heading.from + heading.marks, what: Decoration.mark({ class: 'cm-dim' }) });
    const end = own[at + 1]?.from ?? state.doc.length;
    const section = known[at];
    if (section && state.sliceDoc(heading.to, end).trim() === '' && heading.to < state.doc.length) {
      const line = state.doc.lineAt(heading.to + 1);
      const material =
        section.material === 0
          ? 'Nothing placed here'
          : section.material === 1
            ? 'One slip placed here'
            : `${section.material} slips placed here`;
      const hint = `${section.aim ? `Aim: ${section.aim} words. ` : ''}${material}, nothing written.`;
      if (!touches(line.from, line.to))
        marks.push({
          from: line.from,
          to: line.from,
          what: Decoration.widget({ widget: new Word(hint, 'cm-hint'), side: 1 }),
        });
    }
  });
  // Only lines with brackets are read; there are few.
  let lineAt = 0;
  const found: RegExpExecArray[] = [];
  for (const line of state.doc.iterLines()) {
    if (line.includes('[['))
      for (const match of line.matchAll(reference)) {
        match.index += lineAt;
        found.push(match);
      }
    lineAt += line.length + 1;
  }
  for (const match of found) {
    // A numbered reference hangs on the word before it.
    const from = match[1] || !match[0].startsWith(' ') ? match.index : match.index + 1;
    const to = match.index + match[0].length;
    if (touches(from, to)) marks.push({ from, to, what: Decoration.mark({ class: 'cm-reference' }) });
    else
      marks.push({
        from,
        to,
        what: Decoration.replace({
          widget: new Word(match[1] ? match[2]!.trim() : match[2]!, match[1] ? 'cm-note-number' : 'cm-reference'),
        }),
      });
  }
  marks.sort((a, b) => a.from - b.from || a.what.startSide - b.what.startSide);
  for (const { from, to, what } of marks) all.add(from, to, what);
  return all.finish();
}

const decorations = StateField.define<DecorationSet>({
  create: decorate,
  update: (value, change) =>
    change.docChanged ||
    change.selection ||
    change.effects.some((effect) => effect.is(setSections) || effect.is(setHere))
      ? decorate(change.state)
      : value,
  provide: (field) => EditorView.decorations.from(field),
});

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
  '.cm-cursor': { borderLeftColor: 'var(--blue)', borderLeftWidth: '2px' },
  '.cm-activeLine': { backgroundColor: 'color-mix(in srgb, var(--wash) 60%, transparent)' },
  '.cm-selectionBackground, &.cm-focused > .cm-scroller > .cm-selectionLayer .cm-selectionBackground': {
    backgroundColor: 'color-mix(in srgb, var(--blue) 22%, transparent)',
  },
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
export const editorLook = [
  headings,
  following,
  sections,
  here,
  watchHere,
  decorations,
  syntaxHighlighting(style),
  theme,
];
