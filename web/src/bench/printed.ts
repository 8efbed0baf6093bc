import { syntaxTree } from '@codemirror/language';
import { StateField, type EditorState, type Range } from '@codemirror/state';
import { Decoration, EditorView, WidgetType, type DecorationSet } from '@codemirror/view';
import type { SyntaxNodeRef } from '@lezer/common';
import { cameOrLeft, inSight, touches, Word } from './inSight';
import { pictureAt } from './PictureDialog';
import { changedNear } from './lines';
import { cellsOf, tableLines, tables } from './tableLines';

class Picture extends WidgetType {
  constructor(
    readonly address: string,
    readonly caption: string,
  ) {
    super();
  }
  override eq(other: Picture) {
    return other.address === this.address && other.caption === this.caption;
  }
  toDOM(view: EditorView) {
    const figure = document.createElement('span');
    figure.className = 'cm-picture';
    // Only what lies with the papers is shown: a picture elsewhere is fetched by nobody here.
    if (this.address.startsWith('/')) {
      const picture = figure.appendChild(document.createElement('img'));
      picture.src = this.address;
      picture.alt = this.caption;
      picture.onload = () => view.requestMeasure();
      picture.onerror = () => {
        picture.remove();
        said.textContent = [this.caption, 'This picture can’t be shown.'].filter(Boolean).join(' · ');
        view.requestMeasure();
      };
    }
    const said = figure.appendChild(document.createElement('span'));
    said.textContent = this.caption || (this.address.startsWith('/') ? '' : this.address);
    return figure;
  }
  override ignoreEvent() {
    return false;
  }
}

class TableShown extends WidgetType {
  constructor(readonly text: string) {
    super();
  }
  override eq(other: TableShown) {
    return other.text === this.text;
  }
  toDOM() {
    const box = document.createElement('div');
    box.className = 'cm-table';
    const table = box.appendChild(document.createElement('table'));
    this.text.split('\n').forEach((line, at) => {
      if (at === 1) return;
      const row = table.insertRow();
      for (const cell of cellsOf(line))
        row.appendChild(document.createElement(at === 0 ? 'th' : 'td')).textContent = cell.replaceAll('\\|', '|');
    });
    return box;
  }
  override ignoreEvent() {
    return false;
  }
}

/** Tables are shown as tables while the cursor is elsewhere. */
const asTables = StateField.define<{ open: string; shown: DecorationSet }>({
  create: (state) => tablesShown(state),
  update: (value, change) => {
    const isRead = change.docChanged && changedNear(change, /\|/);
    if (isRead || openTables(change.state) !== value.open) return tablesShown(change.state);
    return change.docChanged ? { ...value, shown: value.shown.map(change.changes) } : value;
  },
  provide: (field) => EditorView.decorations.from(field, (value) => value.shown),
});

/** Which tables the cursor or the selection is in: a selection may reach over several. */
const openTables = (state: EditorState) =>
  state
    .field(tables)
    .flatMap(({ from, to }, at) => (touches(state, from, to) ? [at] : []))
    .join();

function tablesShown(state: EditorState): { open: string; shown: DecorationSet } {
  const shown = Decoration.set(
    state
      .field(tables)
      .filter(({ from, to }) => !touches(state, from, to))
      .map(({ from, to }) =>
        Decoration.replace({ widget: new TableShown(state.sliceDoc(from, to)), block: true }).range(from, to),
      ),
  );
  return { open: openTables(state), shown };
}

const hidden = Decoration.replace({});
const quotation = Decoration.line({ class: 'cm-quotation' });
const item = Decoration.line({ class: 'cm-item' });
const bullet = Decoration.replace({ widget: new Word('•', 'cm-bullet') });
const rule = Decoration.replace({ widget: new Word('', 'cm-rule') });

/** Marks of which both ends belong to the stretch they are around. */
const around = new Set(['EmphasisMark', 'CodeMark', 'StrikethroughMark']);

function decorate(view: EditorView): DecorationSet {
  const { state } = view;
  const found: Range<Decoration>[] = [];
  const lineOf = (node: SyntaxNodeRef) => state.doc.lineAt(node.from);
  const isOnLine = (node: SyntaxNodeRef) => {
    const line = lineOf(node);
    return touches(state, line.from, line.to);
  };
  /** With the space behind it. */
  const withSpace = (node: SyntaxNodeRef) => node.to + (state.sliceDoc(node.to, node.to + 1) === ' ' ? 1 : 0);
  const link = (node: SyntaxNodeRef) => {
    const address = node.node.getChild('URL');
    const [open, close] = node.node.getChildren('LinkMark');
    if (!address || !open || !close || open.to >= close.from) return;
    found.push(
      Decoration.mark({ class: 'cm-link', attributes: { title: state.sliceDoc(address.from, address.to) } }).range(
        open.to,
        close.from,
      ),
    );
    if (!touches(state, node.from, node.to))
      found.push(hidden.range(open.from, open.to), hidden.range(close.from, node.to));
  };
  const picture = (node: SyntaxNodeRef) => {
    const address = node.node.getChild('URL');
    if (!address || touches(state, node.from, node.to)) return;
    const written = pictureAt(state.sliceDoc(node.from, node.to), 0);
    const caption = written?.caption || written?.shows || '';
    found.push(
      Decoration.replace({ widget: new Picture(state.sliceDoc(address.from, address.to), caption) }).range(
        node.from,
        node.to,
      ),
    );
  };
  for (const { from, to } of view.visibleRanges)
    syntaxTree(state).iterate({
      from,
      to,
      enter: (node) => {
        if (around.has(node.name)) {
          const whole = node.node.parent;
          if (whole && whole.name !== 'FencedCode' && !touches(state, whole.from, whole.to))
            found.push(hidden.range(node.from, node.to));
        } else if (node.name === 'Link') link(node);
        else if (node.name === 'Image') picture(node);
        else if (node.name === 'QuoteMark') {
          const line = lineOf(node);
          found.push(quotation.range(line.from));
          if (!isOnLine(node)) found.push(hidden.range(node.from, withSpace(node)));
        } else if (node.name === 'ListMark') {
          found.push(item.range(lineOf(node).from));
          if (/[-*+]/.test(state.sliceDoc(node.from, node.to)) && !isOnLine(node))
            found.push(bullet.range(node.from, node.to));
        } else if (node.name === 'HorizontalRule' && !isOnLine(node)) found.push(rule.range(node.from, node.to));
      },
    });
  return Decoration.set(found, true);
}

const marks = inSight(
  decorate,
  (update) => cameOrLeft(update) || syntaxTree(update.startState) !== syntaxTree(update.state),
);

const look = EditorView.theme({
  '.cm-line.cm-quotation': { paddingLeft: '34px', paddingRight: '34px', fontStyle: 'italic', fontSize: '0.95em' },
  '.cm-line.cm-item': { paddingLeft: '30px', textIndent: '-18px' },
  '.cm-bullet': { display: 'inline-block', width: '18px', textIndent: '0', color: 'var(--second)' },
  '.cm-rule': {
    display: 'inline-block',
    width: '30%',
    margin: '0 35%',
    borderTop: '1px solid var(--hair)',
    verticalAlign: 'middle',
  },
  '.cm-link': { color: 'var(--blue)', textDecoration: 'underline', textUnderlineOffset: '3px' },
  '.cm-picture': { display: 'inline-block', maxWidth: '100%' },
  '.cm-picture img': { display: 'block', maxWidth: '100%', maxHeight: '22rem' },
  '.cm-picture span': { display: 'block', fontFamily: 'var(--font-sans)', fontSize: '12.5px', color: 'var(--second)' },
  '.cm-table': { padding: '6px 10px 10px', overflowX: 'auto', fontSize: '0.86em' },
  '.cm-table th, .cm-table td': {
    borderBottom: '1px solid var(--rule)',
    padding: '3px 18px 3px 0',
    textAlign: 'left',
    verticalAlign: 'top',
  },
  '.cm-table th': { fontFamily: 'var(--font-sans)', fontSize: '0.82em', borderBottomColor: 'var(--ink)' },
});

/** What the cursor is not in looks as it will be read: marks, addresses and bars of tables are away, and come back under the cursor. */
export const printed = [tableLines, asTables, marks, look];
