import type { Range } from '@codemirror/state';
import { Decoration, EditorView, type DecorationSet } from '@codemirror/view';
import { cameOrLeft, inSight, touches, Word } from './inSight';

/** A remark to oneself, as it stands in the text. */
export type Remark = { from: number; to: number; text: string };

/** The remarks of a text. The server reads them alike (Text/Remarks.cs). */
export function remarksIn(text: string): Remark[] {
  const found: Remark[] = [];
  for (let at = 0; (at = text.indexOf('<!--', at)) >= 0;) {
    if (at > 0 && text[at - 1] === '\\') {
      at += 4;
      continue;
    }
    const end = text.indexOf('-->', at + 4);
    if (end < 0) break;
    found.push({ from: at, to: end + 3, text: text.slice(at + 4, end).trim() });
    at = end + 3;
  }
  return found;
}

/** What goes with a remark when it is done: its line when it stands alone, else the space before it. */
export function aroundRemark(text: string, { from, to }: Remark): { from: number; to: number } {
  let [start, end] = [from, to];
  while (start > 0 && /[ \t]/.test(text[start - 1]!)) start--;
  if (start > 0 && text[start - 1] !== '\n') return { from: start, to: end };
  while (end < text.length && /[ \t]/.test(text[end]!)) end++;
  if (end < text.length && text[end] !== '\n') return { from: start, to: end };
  for (let lines = 0; lines < 2 && text[end] === '\n'; lines++) end++;
  return { from: start, to: end };
}

/** The next number for a note. */
export const nextNote = (text: string): number =>
  Math.max(0, ...[...text.matchAll(/\[\^(\d{1,6})\]/g)].map((found) => Number(found[1]))) + 1;

const remark = Decoration.mark({ class: 'cm-remark' });
const note = Decoration.mark({ class: 'cm-footnote' });
const noteLine = Decoration.line({ class: 'cm-footnote-line' });

/** Only what is in sight is read; a remark that begins above it is found by going back a little. */
const reach = 4_000;

function decorate(view: EditorView): DecorationSet {
  const { state } = view;
  const found: Range<Decoration>[] = [];
  for (const { from, to } of view.visibleRanges) {
    const start = Math.max(0, from - reach);
    const text = state.sliceDoc(start, Math.min(state.doc.length, to + reach));
    const remarks = remarksIn(text).map((one) => ({ ...one, from: one.from + start, to: one.to + start }));
    for (const one of remarks) {
      found.push(remark.range(one.from, one.to));
      if (!touches(state, one.from, one.to)) {
        const opened = /^<!--\s*/.exec(state.sliceDoc(one.from, one.to))![0].length;
        const closed = /\s*-->$/.exec(state.sliceDoc(one.from, one.to))![0].length;
        if (opened + closed < one.to - one.from)
          found.push(
            Decoration.replace({ widget: new Word('✎ ', 'cm-remark-sign') }).range(one.from, one.from + opened),
            Decoration.replace({}).range(one.to - closed, one.to),
          );
      }
    }
    for (const mark of text.matchAll(/\[\^([^\]\s^]{1,60})\](:?)/g)) {
      const at = mark.index + start;
      const isLine = mark[2] === ':' && state.doc.lineAt(at).from === at;
      const end = at + mark[0].length - (isLine ? 0 : mark[2]!.length);
      if (isLine) found.push(noteLine.range(at));
      if (touches(state, at, end)) found.push(note.range(at, end));
      else
        found.push(
          Decoration.replace({
            widget: new Word(isLine ? `${mark[1]}. ` : `(${mark[1]})`, 'cm-footnote-number'),
          }).range(at, end),
        );
    }
  }
  return Decoration.set(found, true);
}

const shown = inSight(decorate, cameOrLeft);

const look = EditorView.theme({
  '.cm-remark': {
    fontFamily: 'var(--font-sans)',
    fontSize: '0.78em',
    color: 'var(--second)',
    backgroundColor: 'var(--manila)',
    padding: '1px 3px',
  },
  '.cm-remark-sign': { color: 'var(--blue)' },
  '.cm-footnote-number': {
    fontFamily: 'var(--font-sans)',
    fontSize: '0.68em',
    verticalAlign: 'super',
    lineHeight: '0',
    color: 'var(--ink)',
    fontWeight: '600',
  },
  '.cm-line.cm-footnote-line': { fontSize: '0.86em', color: 'var(--second)', paddingLeft: '34px', textIndent: '-14px' },
  '.cm-footnote-line .cm-footnote-number': { verticalAlign: 'baseline', fontSize: '0.9em' },
});

/** Notes stand at their place by their number, remarks to oneself as slips of paper in the text. */
export const notesShown = [shown, look];
