import { StateEffect, StateField } from '@codemirror/state';
import { Decoration, EditorView, type DecorationSet } from '@codemirror/view';
import { following } from './anchors';
import { Word } from './inSight';

/** Where the server has marks, in the text that was last sent. */
export const setMarks = StateEffect.define<readonly number[]>();

const sign = Decoration.widget({ widget: new Word('◆', 'cm-place'), side: 1 });

/** A small sign at each place that was marked to come back to. */
export const placeMarks = StateField.define<DecorationSet>({
  create: () => Decoration.none,
  update(shown, change) {
    let next = shown.map(change.changes);
    for (const effect of change.effects)
      if (effect.is(setMarks)) {
        const { since } = change.state.field(following);
        const places = effect.value.map((at) => since.mapPos(Math.min(at, since.length)));
        next = Decoration.set(
          places.map((at) => sign.range(at)),
          true,
        );
      }
    return next;
  },
  provide: (field) => EditorView.decorations.from(field),
});
