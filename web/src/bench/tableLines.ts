import { RangeSetBuilder } from '@codemirror/state';
import { Decoration, ViewPlugin, type DecorationSet, type EditorView, type ViewUpdate } from '@codemirror/view';

const row = Decoration.line({ class: 'cm-table-row' });

/** Rows of tables are set in letters of one width, so that their columns stand under each other. */
export const tableLines = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet;
    constructor(view: EditorView) {
      this.decorations = rowsIn(view);
    }
    update(update: ViewUpdate) {
      if (update.docChanged || update.viewportChanged) this.decorations = rowsIn(update.view);
    }
  },
  { decorations: (plugin) => plugin.decorations },
);

function rowsIn(view: EditorView): DecorationSet {
  const rows = new RangeSetBuilder<Decoration>();
  for (const { from, to } of view.visibleRanges)
    for (let at = from; at <= to;) {
      const line = view.state.doc.lineAt(at);
      if (/^\s*\|/.test(line.text)) rows.add(line.from, line.from, row);
      at = line.to + 1;
    }
  return rows.finish();
}
