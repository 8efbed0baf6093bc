import { syntaxTree } from '@codemirror/language';
import { StateEffect, StateField, type Range } from '@codemirror/state';
import { Decoration, EditorView, ViewPlugin, type DecorationSet, type ViewUpdate } from '@codemirror/view';
import type { Asked, Told } from './speller.worker';

/** Words that are spelt wrong, asked of the speller off the main thread. */
export class Speller {
  private worker: Worker | undefined;
  private readonly known = new Map<string, boolean>();
  private readonly waiting = new Map<number, (told: Told) => void>();
  private next = 1;
  private own = new Set<string>();
  private watchers = new Set<() => void>();
  language = '';

  /** Reads the words of a language; nothing is marked while there are none. */
  use(language: string, own: readonly string[]) {
    this.own = new Set(own);
    if (language !== this.language) {
      this.known.clear();
      this.language = language;
      this.worker?.terminate();
      this.worker = language
        ? new Worker(new URL('./speller.worker.ts', import.meta.url), { type: 'module' })
        : undefined;
      this.worker?.addEventListener('message', ({ data }: MessageEvent<Told>) => {
        this.waiting.get(data.id)?.(data);
        this.waiting.delete(data.id);
      });
    }
    this.watchers.forEach((watch) => watch());
  }

  watch(told: () => void) {
    this.watchers.add(told);
    return () => void this.watchers.delete(told);
  }

  private ask(asked: Omit<Asked, 'id' | 'language'>): Promise<Told> {
    const id = this.next++;
    return new Promise((resolve) => {
      this.waiting.set(id, resolve);
      this.worker?.postMessage({ id, language: this.language, ...asked } satisfies Asked);
    });
  }

  /** Whether a word is wrong; undefined while it is not known. */
  isWrong(word: string): boolean | undefined {
    return this.own.has(word) || this.own.has(word.toLowerCase()) ? false : this.known.get(word);
  }

  /** Looks words up that are not known yet; true when something new is known. */
  async look(words: string[]): Promise<boolean> {
    const unknown = words.filter((word) => !this.known.has(word));
    if (!this.worker || unknown.length === 0) return false;
    const { language } = this;
    const told = await this.ask({ words: unknown });
    if (language !== this.language) return false;
    for (const word of unknown) this.known.set(word, told.wrong.includes(word));
    return true;
  }

  /** What a word may be meant to be. */
  async suggest(word: string): Promise<string[]> {
    return this.worker ? (await this.ask({ suggest: word })).suggestions : [];
  }
}

export const speller = new Speller();

/** Whether wrong words are marked. */
export const setSpelling = StateEffect.define<boolean>();
const spelling = StateField.define<boolean>({
  create: () => false,
  update: (value, change) =>
    change.effects.reduce((now, effect) => (effect.is(setSpelling) ? effect.value : now), value),
});
const again = StateEffect.define<null>();

const aWord = /\p{L}(?:[\p{L}\p{M}’'-]*\p{L})?/gu;

/** The words in sight with their places, without what is no text. */
function wordsIn(view: EditorView): { word: string; from: number; to: number }[] {
  const found: { word: string; from: number; to: number }[] = [];
  const tree = syntaxTree(view.state);
  for (const { from, to } of view.visibleRanges) {
    const text = view.state
      .sliceDoc(from, to)
      .replace(/<!--[\s\S]*?-->|\[\[[^\]\n]*\]\]|\[\^[^\]\s]*\]|https?:\/\/\S+|#\p{L}[\p{L}\p{N}-]*/gu, (gone) =>
        ' '.repeat(gone.length),
      );
    for (const match of text.matchAll(aWord)) {
      const at = from + match.index;
      if (match[0].length < 2 || /Code|URL|HTML/.test(tree.resolveInner(at, 1).name)) continue;
      found.push({ word: match[0].replaceAll('’', "'"), from: at, to: at + match[0].length });
    }
  }
  return found;
}

const wrong = Decoration.mark({ class: 'cm-misspelt' });

const marked = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet = Decoration.none;
    timer = 0;
    stop: () => void;
    constructor(readonly view: EditorView) {
      this.stop = speller.watch(() => this.later(0));
      this.later(0);
    }
    later(wait: number) {
      clearTimeout(this.timer);
      this.timer = window.setTimeout(() => {
        if (!this.view.state.field(spelling)) return;
        const words = [...new Set(wordsIn(this.view).map((one) => one.word))];
        void speller.look(words).then(() => this.view.dispatch({ effects: again.of(null) }));
      }, wait);
    }
    update(update: ViewUpdate) {
      const isTold = update.transactions.some((one) =>
        one.effects.some((effect) => effect.is(again) || effect.is(setSpelling)),
      );
      if (isTold) this.decorations = this.decorate();
      else if (update.docChanged) this.decorations = this.decorations.map(update.changes);
      // Behind the hand, never under it.
      if (update.docChanged || update.viewportChanged) this.later(400);
      if (update.transactions.some((one) => one.effects.some((effect) => effect.is(setSpelling)))) this.later(0);
    }
    decorate(): DecorationSet {
      if (!this.view.state.field(spelling)) return Decoration.none;
      const { head } = this.view.state.selection.main;
      const found: Range<Decoration>[] = [];
      for (const { word, from, to } of wordsIn(this.view))
        // The word that is being written is not finished.
        if (speller.isWrong(word) && !(head === to && this.view.hasFocus)) found.push(wrong.range(from, to));
      return Decoration.set(found, true);
    }
    destroy() {
      clearTimeout(this.timer);
      this.stop();
    }
  },
  { decorations: (plugin) => plugin.decorations },
);

/** Where our own marks are not on, the browser may have some. */
const ownOrBrowsers = EditorView.contentAttributes.compute([spelling], (state) => ({
  spellcheck: state.field(spelling) ? 'false' : 'true',
}));

const look = EditorView.theme({
  '.cm-misspelt': {
    textDecoration: 'underline dotted var(--red)',
    textUnderlineOffset: '4px',
    textDecorationThickness: '1.5px',
  },
});

/** The word at a place of a text. */
export function wordAt(text: string, at: number): { from: number; to: number; word: string } | undefined {
  for (const match of text.matchAll(aWord))
    if (match.index <= at && match.index + match[0].length >= at)
      return { from: match.index, to: match.index + match[0].length, word: match[0] };
  return undefined;
}

/** Words that are spelt wrong have a dotted line under them. */
export const spellingMarks = [spelling, marked, ownOrBrowsers, look];
