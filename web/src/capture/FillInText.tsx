import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { EditorState, StateField } from '@codemirror/state';
import { Decoration, EditorView, keymap, placeholder as empty, WidgetType, type DecorationSet } from '@codemirror/view';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { api, ask } from '../api/client';
import { keys } from '../api/queries';
import { ActionMenu } from '../ui/ActionMenu';
import { Button } from '../ui/Button';
import { GrowingText } from './GrowingText';
import { partBegins, partEnds, placesIn, withoutPart, words, written, type FillInPlace, type Offer } from './fillIns';

/** A text of the plan: its fill-ins stand in it as their words, and open to what they say. */
export function FillInText({
  label,
  value,
  placeholder,
  onChange,
  offers: own,
}: {
  label: string;
  value: string;
  placeholder: string;
  onChange: (text: string) => void;
  /** What can be put in; what a day's sheet fills in when left out. */
  offers?: readonly Offer[];
}) {
  const ofDay = useQuery({
    queryKey: keys.fillIns,
    queryFn: () => ask(api.GET('/api/desk/fill-ins')),
    staleTime: 60_000,
    enabled: own === undefined,
  }).data;
  const offers = own ?? ofDay;
  const [raw, setRaw] = useState(false);
  const toggle = (
    <button
      type="button"
      aria-pressed={raw}
      className="link min-h-[28px] text-[12px]"
      onClick={() => setRaw(!raw)}
      title="For filters and conditions of your own"
    >
      {raw ? 'as words' : 'as it is written'}
    </button>
  );
  return raw || !offers ? (
    <div>
      <GrowingText label={label} value={value} least={26} placeholder={placeholder} onChange={onChange} />
      {toggle}
    </div>
  ) : (
    <Worded label={label} value={value} placeholder={placeholder} offers={offers} onChange={onChange} foot={toggle} />
  );
}

function Worded({
  label,
  value,
  placeholder,
  offers,
  onChange,
  foot,
}: {
  label: string;
  value: string;
  placeholder: string;
  offers: readonly Offer[];
  onChange: (text: string) => void;
  /** What else can be done with the text. */
  foot: ReactNode;
}) {
  const box = useRef<HTMLDivElement>(null);
  const editor = useRef<EditorView>(undefined);
  const [opened, setOpened] = useState<number>();
  const calls = useRef({ onChange });
  const begun = useRef({ value, label, placeholder, offers });
  useEffect(() => {
    calls.current = { onChange };
  });
  useEffect(() => {
    const { value: first, ...with_ } = begun.current;
    const nonce = document.querySelector<HTMLMetaElement>('meta[property=csp-nonce]')?.nonce ?? '';
    const view = new EditorView({
      parent: box.current!,
      state: EditorState.create({
        // The text stands there before there is a history, so that no step leads back to nothing.
        doc: first,
        extensions: [
          EditorView.cspNonce.of(nonce),
          history(),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({ 'aria-label': with_.label, tabindex: '0', spellcheck: 'true' }),
          empty(with_.placeholder),
          keymap.of([...historyKeymap, ...defaultKeymap]),
          shownAsWords(with_.offers, setOpened),
          look,
          EditorView.updateListener.of((update) => {
            if (update.docChanged && !update.transactions.some((t) => t.isUserEvent('shown')))
              calls.current.onChange(update.state.doc.toString());
          }),
        ],
      }),
    });
    editor.current = view;
    return () => view.destroy();
  }, []);
  // What comes from elsewhere, another tab or a step back on the page, is shown too.
  useEffect(() => {
    const view = editor.current;
    if (!view || view.state.doc.toString() === value) return;
    view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: value }, userEvent: 'shown' });
  }, [value]);

  const put = (text: string, cursor = text.length) => {
    const view = editor.current;
    if (!view) return;
    const { from, to } = view.state.selection.main;
    view.dispatch({ changes: { from, to, insert: text }, selection: { anchor: from + cursor }, userEvent: 'input' });
    view.focus();
  };
  const places = placesIn(value, offers);
  const place = opened === undefined ? undefined : places[opened];
  const change = (...changes: { from: number; to: number; insert?: string }[]) => {
    editor.current?.dispatch({ changes, userEvent: 'input' });
    setOpened(undefined);
    editor.current?.focus();
  };
  return (
    <div>
      <div ref={box} />
      {place && (
        <Settings
          key={`${opened}${place.from}`}
          place={place}
          raw={value.slice(place.from, place.to)}
          offers={offers}
          onSet={(text) => change({ from: place.from, to: place.to, insert: text })}
          onAway={() =>
            change(
              ...(place.kind === 'begin' ? withoutPart(value, places, opened!) : [{ from: place.from, to: place.to }]),
            )
          }
          onClose={() => {
            setOpened(undefined);
            editor.current?.focus();
          }}
        />
      )}
      <span className="mt-1 flex min-h-[30px] flex-wrap items-center gap-x-5">
        <ActionMenu
          label={`Put in: ${label}`}
          className="link min-h-[28px] text-[12px]"
          actions={[
            ...offers.map((offer) => ({
              key: offer.name,
              label: offer.words,
              note: offer.now || 'nothing now',
              onChoose: () => put(written(offer.name)),
            })),
            ...offers
              .filter((offer) => offer.if !== null)
              .map((offer) => ({
                key: `if ${offer.name}`,
                label: `words only if ${offer.if}`,
                onChoose: () => put(`${partBegins(offer.name)} ${partEnds}`, partBegins(offer.name).length + 1),
              })),
          ]}
        >
          put in… ▾
        </ActionMenu>
        {foot}
      </span>
    </div>
  );
}

/** What one fill-in says, and what stands there when there is nothing to say. */
function Settings({
  place,
  raw,
  offers,
  onSet,
  onAway,
  onClose,
}: {
  place: FillInPlace;
  raw: string;
  offers: readonly Offer[];
  onSet: (text: string) => void;
  onAway: () => void;
  onClose: () => void;
}) {
  const [name, setName] = useState(place.kind === 'fact' || place.kind === 'begin' ? place.name : '');
  const [otherwise, setOtherwise] = useState(place.kind === 'fact' ? place.otherwise : '');
  const [own, setOwn] = useState(raw);
  const offer = offers.find((one) => one.name === name);
  const first = useRef<HTMLSelectElement & HTMLInputElement>(null);
  useEffect(() => first.current?.focus(), []);
  return (
    <form
      aria-label="What is filled in"
      className="my-2 flex flex-wrap items-baseline gap-x-3 gap-y-2 border-l-2 border-blue bg-quiet px-3 py-2 text-[13px]"
      onKeyDown={(event) => event.key === 'Escape' && onClose()}
      onSubmit={(event) => {
        event.preventDefault();
        onSet(place.kind === 'fact' ? written(name, otherwise) : place.kind === 'begin' ? partBegins(name) : own);
      }}
    >
      {place.kind === 'own' ? (
        <input
          ref={first}
          aria-label="As it is written"
          value={own}
          onChange={(event) => setOwn(event.target.value)}
          className="min-w-0 flex-1 border-b border-hair bg-transparent font-mono text-[12.5px] outline-none"
        />
      ) : place.kind === 'end' ? (
        <span className="flex-1 text-second">Here the words end that stand only sometimes.</span>
      ) : (
        <>
          {place.kind === 'begin' && 'these words stand only if'}
          <select
            ref={first}
            aria-label="What it says"
            value={name}
            onChange={(event) => setName(event.target.value)}
            className="bg-transparent font-semibold"
          >
            {offers
              .filter((one) => place.kind === 'fact' || one.if !== null)
              .map((one) => (
                <option key={one.name} value={one.name}>
                  {place.kind === 'begin' ? one.if : one.words}
                </option>
              ))}
          </select>
          {place.kind === 'fact' && offer && offer.if !== null && (
            <label>
              else{' '}
              <input
                value={otherwise}
                placeholder="nothing"
                onChange={(event) => setOtherwise(event.target.value)}
                className="w-36 border-b border-hair bg-transparent outline-none focus:border-blue"
              />
            </label>
          )}
          <span className="text-second">now: {offer?.now || otherwise || 'nothing'}</span>
        </>
      )}
      <span className="ml-auto flex gap-2">
        {place.kind !== 'end' && (
          <Button type="submit" look="main">
            Set
          </Button>
        )}
        {place.kind !== 'end' && (
          <Button look="quiet" onClick={onAway}>
            Take it out
          </Button>
        )}
        <Button look="quiet" onClick={onClose}>
          Close
        </Button>
      </span>
    </form>
  );
}

class Words extends WidgetType {
  constructor(
    readonly text: string,
    readonly kind: FillInPlace['kind'],
    readonly at: number,
    readonly onOpen: (at: number) => void,
  ) {
    super();
  }
  override eq(other: Words) {
    return other.text === this.text && other.kind === this.kind && other.at === this.at;
  }
  toDOM() {
    const button = document.createElement('button');
    button.type = 'button';
    button.className = `cm-fill-in cm-fill-in-${this.kind}`;
    button.textContent = this.text;
    button.ariaLabel = this.kind === 'end' ? 'end of the words that stand only sometimes' : `Fill-in: ${this.text}`;
    button.onmousedown = (event) => event.preventDefault();
    button.onclick = () => this.onOpen(this.at);
    return button;
  }
  override ignoreEvent() {
    return true;
  }
}

/** Fill-ins as their words; the cursor goes over each as over one letter. */
function shownAsWords(offers: readonly Offer[], onOpen: (at: number) => void) {
  const made = (state: EditorState): DecorationSet =>
    Decoration.set(
      placesIn(state.doc.toString(), offers).map((place, at) =>
        Decoration.replace({ widget: new Words(words(place, offers), place.kind, at, onOpen) }).range(
          place.from,
          place.to,
        ),
      ),
    );
  const field = StateField.define<DecorationSet>({
    create: made,
    update: (now, change) => (change.docChanged ? made(change.state) : now),
    provide: (own) => [
      EditorView.decorations.from(own),
      EditorView.atomicRanges.of((view) => view.state.field(own, false) ?? Decoration.none),
    ],
  });
  return field;
}

const look = EditorView.theme({
  '&': { fontSize: '16.5px' },
  '&.cm-focused': { outline: 'none' },
  '.cm-scroller': { fontFamily: 'var(--font-serif)', lineHeight: '1.6' },
  '.cm-content': { padding: '0', caretColor: 'var(--ink)' },
  '.cm-line': { padding: '0' },
  '.cm-placeholder': { color: 'var(--second)', fontStyle: 'italic' },
  '.cm-fill-in': {
    font: 'inherit',
    color: 'var(--blue)',
    background: 'none',
    border: 'none',
    borderBottom: '1.5px solid var(--blue)',
    padding: '0',
    minWidth: '24px',
    cursor: 'pointer',
  },
  '.cm-fill-in-begin': { marginRight: '4px' },
  '.cm-fill-in-begin, .cm-fill-in-end': {
    color: 'var(--second)',
    borderBottom: '1.5px dotted var(--second)',
    fontSize: '14px',
  },
});
