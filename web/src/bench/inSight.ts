import { StateEffect, StateField, type EditorState } from '@codemirror/state';
import { EditorView, ViewPlugin, WidgetType, type DecorationSet, type ViewUpdate } from '@codemirror/view';

/** Whether the cursor is in the text: marks show where it stands, and only while it does. */
const setHere = StateEffect.define<boolean>();
const here = StateField.define<boolean>({
  create: () => false,
  update: (value, change) => change.effects.reduce((now, effect) => (effect.is(setHere) ? effect.value : now), value),
});
export const hereOrAway = [here, EditorView.focusChangeEffect.of((_, focusing) => setHere.of(focusing))];

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

/** Whether the writer is in the text. */
export const isHere = (state: EditorState): boolean => state.field(here);

/** Whether the cursor stands in a stretch, so that its marks are to be seen. */
export function touches(state: EditorState, from: number, to: number): boolean {
  const { from: first, to: last } = state.selection.main;
  return isHere(state) && first <= to && last >= from;
}

/** Decorations of what is in sight, made anew when the text, the cursor, what is in sight, or what else counts changes. */
export const inSight = (decorate: (view: EditorView) => DecorationSet, also: (update: ViewUpdate) => boolean) =>
  ViewPlugin.fromClass(
    class {
      decorations: DecorationSet;
      constructor(view: EditorView) {
        this.decorations = decorate(view);
      }
      update(update: ViewUpdate) {
        if (update.docChanged || update.viewportChanged || update.selectionSet || also(update))
          this.decorations = decorate(update.view);
      }
    },
    { decorations: (plugin) => plugin.decorations },
  );

/** The cursor came into the text, or left it. */
export const cameOrLeft = (update: ViewUpdate) => update.state.field(here) !== update.startState.field(here);
