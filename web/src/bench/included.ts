import { StateEffect, StateField, type EditorState } from '@codemirror/state';
import { Decoration, EditorView, ViewPlugin, WidgetType, type DecorationSet } from '@codemirror/view';
import { api, ask } from '../api/client';
import { changedNear } from './lines';

/** Texts of slips that stand in the draft, as they are now. */
const texts = StateEffect.define<ReadonlyMap<number, string>>();
const known = StateField.define<ReadonlyMap<number, string>>({
  create: () => new Map(),
  update: (value, change) =>
    change.effects.reduce<ReadonlyMap<number, string>>(
      (now, effect) => (effect.is(texts) ? new Map([...now, ...effect.value]) : now),
      value,
    ),
});

/** Lines that are nothing but a reference to a slip, between empty lines. */
function includedIn(state: EditorState): { at: number; slip: number }[] {
  const found: { at: number; slip: number }[] = [];
  let before = '';
  let open: { at: number; slip: number } | undefined;
  let from = 0;
  for (const text of state.doc.iterLines()) {
    const isEmpty = text.trim() === '';
    if (open && isEmpty) found.push(open);
    const slip = before === '' && text.includes('[[') && /^\s*\[\[\s*slip\s+([1-9]\d{0,8})\s*\]\]\s*$/i.exec(text)?.[1];
    open = slip ? { at: from + text.length, slip: Number(slip) } : undefined;
    before = text.trim();
    from += text.length + 1;
  }
  if (open) found.push(open);
  return found;
}

class Included extends WidgetType {
  constructor(
    readonly slip: number,
    readonly text: string,
  ) {
    super();
  }
  override eq(other: Included) {
    return other.slip === this.slip && other.text === this.text;
  }
  toDOM() {
    const box = document.createElement('div');
    box.className = 'cm-included';
    box.textContent = this.text;
    const from = box.appendChild(document.createElement('a'));
    from.href = `/library/slip/${this.slip}`;
    from.textContent = `slip ${this.slip}: edit it there, it changes everywhere`;
    return box;
  }
  override ignoreEvent() {
    return true;
  }
}

const shown = StateField.define<DecorationSet>({
  create: (state) => decorate(state),
  update: (value, change) =>
    change.effects.some((effect) => effect.is(texts)) || (change.docChanged && changedNear(change, /\[\[/))
      ? decorate(change.state)
      : value.map(change.changes),
  provide: (field) => EditorView.decorations.from(field),
});

function decorate(state: EditorState): DecorationSet {
  const now = state.field(known, false);
  return Decoration.set(
    includedIn(state).flatMap(({ at, slip }) => {
      const text = now?.get(slip);
      return text === undefined
        ? []
        : [Decoration.widget({ widget: new Included(slip, text), block: true, side: 1 }).range(at)];
    }),
  );
}

/** Asks for the texts that are shown and not known, and for all again when the writer comes back to the window. */
const asking = ViewPlugin.define((view) => {
  const asked = new Set<number>();
  const look = (again = false) => {
    const wanted = includedIn(view.state)
      .map((place) => place.slip)
      .filter((slip) => again || !asked.has(slip));
    for (const slip of wanted) {
      asked.add(slip);
      void ask(api.GET('/api/slips/{number}', { params: { path: { number: String(slip) } } })).then(
        (found) => view.dispatch({ effects: texts.of(new Map([[slip, found.text]])) }),
        () => view.dispatch({ effects: texts.of(new Map([[slip, 'There is no such slip.']])) }),
      );
    }
  };
  const back = () => look(true);
  window.addEventListener('focus', back);
  setTimeout(look, 0);
  return {
    update: (update) => {
      if (update.transactions.some((one) => one.docChanged && changedNear(one, /\[\[/))) setTimeout(look, 0);
    },
    destroy: () => window.removeEventListener('focus', back),
  };
});

/** Slips that stand in a draft are shown under their reference. */
export const includedSlips = [known, shown, asking];
