import { StateField, type EditorState } from '@codemirror/state';
import { Decoration, EditorView, type DecorationSet } from '@codemirror/view';
import { isHere } from './inSight';

const chosen = Decoration.mark({ class: 'cm-chosen' });

function shownIn(state: EditorState): DecorationSet {
  const { from, to, empty } = state.selection.main;
  return empty || isHere(state) ? Decoration.none : Decoration.set(chosen.range(from, to));
}

/**
 * What is chosen stays to be seen while the hand is elsewhere. In the text it is the browser that shows cursor and selection: drawn by
 * the editor, they cost as much as all the rest of a key (docs/performance.md).
 */
export const chosenShown = StateField.define<DecorationSet>({
  create: shownIn,
  update: (_, change) => shownIn(change.state),
  provide: (field) => EditorView.decorations.from(field),
});
