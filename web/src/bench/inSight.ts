import { EditorView, ViewPlugin, type DecorationSet, type ViewUpdate } from '@codemirror/view';
import type { EditorState } from '@codemirror/state';
import { here } from './editorLook';

/** Whether the cursor stands in a stretch, so that its marks are to be seen. */
export function touches(state: EditorState, from: number, to: number): boolean {
  const { from: first, to: last } = state.selection.main;
  return state.field(here) && first <= to && last >= from;
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
