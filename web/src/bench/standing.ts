import { StateEffect, StateField, type Range } from '@codemirror/state';
import { Decoration, EditorView, type DecorationSet } from '@codemirror/view';
import { cameOrLeft, inSight, touches, Word } from './inSight';

/** The standing texts as they are now, by their numbers. */
export const setStanding = StateEffect.define<ReadonlyMap<number, string>>();
const known = StateField.define<ReadonlyMap<number, string>>({
  create: () => new Map(),
  update: (value, change) =>
    change.effects.reduce((now, effect) => (effect.is(setStanding) ? effect.value : now), value),
});

function decorate(view: EditorView): DecorationSet {
  const { state } = view;
  const found: Range<Decoration>[] = [];
  for (const { from, to } of view.visibleRanges)
    for (const named of state.sliceDoc(from, to).matchAll(/\[\[\s*standing text\s+([1-9]\d{0,8})\s*\]\]/gi)) {
      const at = from + named.index;
      const text = state.field(known).get(Number(named[1]));
      if (text !== undefined && !touches(state, at, at + named[0].length))
        found.push(
          Decoration.replace({ widget: new Word(text.trim() || '(empty)', 'cm-standing') }).range(
            at,
            at + named[0].length,
          ),
        );
    }
  return Decoration.set(found, true);
}

const shown = inSight(
  decorate,
  (update) => cameOrLeft(update) || update.state.field(known) !== update.startState.field(known),
);

const look = EditorView.theme({
  '.cm-standing': {
    display: 'inline-block',
    whiteSpace: 'pre-wrap',
    borderLeft: '2px solid var(--blue)',
    paddingLeft: '8px',
    color: 'var(--second)',
  },
});

/** Standing texts are shown where they are named; the name comes back under the cursor. */
export const standingTexts = [known, shown, look];
