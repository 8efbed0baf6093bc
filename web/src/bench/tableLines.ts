import { RangeSetBuilder, StateField, type Text } from '@codemirror/state';
import { Decoration, ViewPlugin, type DecorationSet, type EditorView, type ViewUpdate } from '@codemirror/view';
import { changedNear } from './lines';

/** Where a table stands in a text. */
export type TableLines = { from: number; to: number };

const isRow = (line: string) => /^\s*\|/.test(line);
const isRule = (line: string) => /^\s*\|[\s:|-]*-[\s:|-]*$/.test(line);

/** The cells of a row; a bar behind a backslash is a letter. */
export const cellsOf = (line: string) =>
  line
    .trim()
    .replace(/^\|/, '')
    .replace(/(?<!\\)\|$/, '')
    .split(/(?<!\\)\|/)
    .map((cell) => cell.trim());

/** The tables of a text: rows under each other, of which the second is a rule. */
function tablesIn(doc: Text): TableLines[] {
  const found: TableLines[] = [];
  let open: (TableLines & { rows: number; isTable: boolean }) | undefined;
  let from = 0;
  const close = () => {
    if (open?.isTable) found.push({ from: open.from, to: open.to });
    open = undefined;
  };
  for (const text of doc.iterLines()) {
    const to = from + text.length;
    if (!isRow(text)) close();
    else if (open) {
      if (open.rows === 1) open.isTable = isRule(text);
      open.rows++;
      open.to = to;
    } else open = { from, to, rows: 1, isTable: false };
    from = to + 1;
  }
  close();
  return found;
}

/** The tables of a draft, read anew only where one may have come or gone. */
export const tables = StateField.define<readonly TableLines[]>({
  create: (state) => tablesIn(state.doc),
  update: (value, change) => {
    if (!change.docChanged) return value;
    if (changedNear(change, /\|/)) return tablesIn(change.newDoc);
    return value.map(({ from, to }) => ({ from: change.changes.mapPos(from), to: change.changes.mapPos(to) }));
  },
});

const row = Decoration.line({ class: 'cm-table-row' });

const rowsInSight = ViewPlugin.fromClass(
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
      if (isRow(line.text)) rows.add(line.from, line.from, row);
      at = line.to + 1;
    }
  return rows.finish();
}

/** Rows of tables are set in letters of one width, so that their columns stand under each other. */
export const tableLines = [tables, rowsInSight];
