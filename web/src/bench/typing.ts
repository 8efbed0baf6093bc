import { syntaxTree } from '@codemirror/language';
import { StateEffect, StateField, type EditorState } from '@codemirror/state';
import { EditorView, keymap } from '@codemirror/view';
import type { components } from '../api/schema';

export type Language = components['schemas']['Language'];

/** The language that what is typed is set in; nothing while signs are left as they are typed. */
export const setTyping = StateEffect.define<Language | null>();
const typing = StateField.define<Language | null>({
  create: () => null,
  update: (value, change) => change.effects.reduce((now, effect) => (effect.is(setTyping) ? effect.value : now), value),
});

/** A sign that was just set, and what was typed for it. */
type Set_ = { at: number; shown: string; typed: string };
const justSet = StateEffect.define<Set_>();
const lastSet = StateField.define<Set_ | null>({
  create: () => null,
  update(value, change) {
    for (const effect of change.effects) if (effect.is(justSet)) return effect.value;
    return change.docChanged || change.selection ? null : value;
  },
});

/** Where signs are what they are: code, addresses, remarks, references, and lines that are rules. */
function isPlain(state: EditorState, at: number): boolean {
  for (let node = syntaxTree(state).resolveInner(at, -1); node.parent; node = node.parent)
    if (/Code|URL|HTML|Comment|Table/.test(node.name)) return true;
  const line = state.doc.lineAt(at);
  const before = line.text.slice(0, at - line.from);
  if (/^\s*[-*_.\s]*$/.test(before) && /[-_*]/.test(before)) return true;
  const opened = before.lastIndexOf('[[');
  return (opened >= 0 && !before.slice(opened).includes(']]')) || /<!-?-?$/.test(before) || /^\s*\|/.test(line.text);
}

/** What stands for what was typed, and how much before the cursor goes for it. */
function setAs(language: Language, text: string, before: string): { shown: string; back: number } | null {
  const [open, close, openInside, closeInside] = language.quotes as [string, string, string, string];
  const isOpening = before === '' || /[\s([{«„“‘‚›"—–-]$/.test(before);
  if (text === '"') return { shown: isOpening ? open : close, back: 0 };
  if (text === "'") {
    if (/[\p{L}\p{N}]$/u.test(before)) return { shown: '’', back: 0 };
    return { shown: isOpening ? openInside : closeInside, back: 0 };
  }
  if (text === '-' && before.endsWith('-') && !before.endsWith('--')) return { shown: language.dash, back: 1 };
  if (text === '-' && before.endsWith('–') && language.dash === '–') return { shown: '—', back: 1 };
  if (text === '.' && before.endsWith('..') && !before.endsWith('...')) return { shown: '…', back: 2 };
  return null;
}

const input = EditorView.inputHandler.of((view, from, to, text) => {
  const language = view.state.field(typing);
  if (!language || view.composing || text.length !== 1 || !/["'.-]/.test(text)) return false;
  if (isPlain(view.state, from)) return false;
  const line = view.state.doc.lineAt(from);
  const before = view.state.sliceDoc(Math.max(line.from, from - 3), from);
  const made = setAs(language, text, before);
  if (!made) return false;
  const start = from - made.back;
  const typed = view.state.sliceDoc(start, from) + text;
  view.dispatch({
    changes: { from: start, to, insert: made.shown },
    selection: { anchor: start + made.shown.length },
    effects: justSet.of({ at: start, shown: made.shown, typed }),
    userEvent: 'input.type',
    scrollIntoView: true,
  });
  return true;
});

/** One Backspace behind a sign that was just set gives what was typed. */
const unset = keymap.of([
  {
    key: 'Backspace',
    run: (view) => {
      const last = view.state.field(lastSet);
      const { head, empty } = view.state.selection.main;
      if (!last || !empty || head !== last.at + last.shown.length) return false;
      view.dispatch({
        changes: { from: last.at, to: head, insert: last.typed },
        selection: { anchor: last.at + last.typed.length },
        userEvent: 'input.type',
      });
      return true;
    },
  },
]);

/** Quotation marks, dashes and ellipses as the piece's language sets them. */
export const typesetting = [typing, lastSet, input, unset];
