import { useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { api, ask } from '../api/client';
import { keys } from '../api/queries';
import { Mark } from '../ui/Mark';
import { named } from '../sources/Connections';
import { useSettled } from './understood';

type Field = HTMLInputElement | HTMLTextAreaElement;
type Open = { field: Field; from: number; begun: string; left: number; top: number; isTaken?: boolean };

/** The name begun after two opening brackets before the caret, if one is. */
export const begunLink = (before: string) => /\[\[([^[\]\n]{0,80})$/.exec(before)?.[1];

/** Where the caret stands on the screen: measured on a copy of the field, since a field does not say. */
function caretAt(field: Field): { left: number; top: number } {
  const box = field.getBoundingClientRect();
  if (field instanceof HTMLInputElement) return { left: box.left, top: box.bottom };
  const copy = document.createElement('div');
  const style = getComputedStyle(field);
  for (const name of ['font', 'letterSpacing', 'lineHeight', 'padding', 'border', 'width', 'boxSizing'] as const)
    copy.style[name] = style[name];
  copy.style.position = 'absolute';
  copy.style.visibility = 'hidden';
  copy.style.whiteSpace = 'pre-wrap';
  copy.style.overflowWrap = 'break-word';
  copy.textContent = field.value.slice(0, field.selectionStart ?? 0);
  const mark = copy.appendChild(document.createElement('span'));
  mark.textContent = '|';
  document.body.appendChild(copy);
  const place = {
    left: box.left + mark.offsetLeft,
    top: box.top + mark.offsetTop + mark.offsetHeight - field.scrollTop,
  };
  copy.remove();
  return place;
}

/** In every text field of the app: after “[[” the titles, numbers and topics that could stand there. */
export function LinkOffers() {
  const [open, setOpen] = useState<Open | null>(null);
  const [at, setAt] = useState(0);
  const begun = useSettled(open?.begun ?? '', 80);
  const { data: found, isPlaceholderData } = useQuery({
    queryKey: keys.linkOffers(begun),
    queryFn: () => ask(api.GET('/api/links/offers', { params: { query: { begun } } })),
    enabled: open !== null,
    placeholderData: (previous) => previous,
  });
  const isCurrent = open !== null && open.begun === begun && found !== undefined && !isPlaceholderData;
  const offers = useMemo(() => found ?? [], [found]);
  const chosen = Math.min(at, offers.length - 1);

  const take = useCallback((place: Open, write: string) => {
    const { field, from } = place;
    const end = field.selectionStart ?? field.value.length;
    const closed = field.value.startsWith(']]', end) ? 2 : 0;
    const next = `${field.value.slice(0, from)}[[${write}]]${field.value.slice(end + closed)}`;
    // Set as typing would, so that whoever listens to the field hears of it.
    const proto = field instanceof HTMLInputElement ? HTMLInputElement.prototype : HTMLTextAreaElement.prototype;
    Object.getOwnPropertyDescriptor(proto, 'value')?.set?.call(field, next);
    const caret = from + write.length + 4;
    field.setSelectionRange(caret, caret);
    field.dispatchEvent(new Event('input', { bubbles: true }));
    requestAnimationFrame(() => field.setSelectionRange(caret, caret));
    setOpen(null);
  }, []);

  useEffect(() => {
    const look = (event: Event) => {
      const field = event.target;
      if (!(field instanceof HTMLTextAreaElement || (field instanceof HTMLInputElement && field.type === 'text')))
        return;
      const before = field.value.slice(0, field.selectionStart ?? 0);
      const name = begunLink(before);
      if (name === undefined) return setOpen(null);
      setAt(0);
      setOpen({ field, from: before.length - name.length - 2, begun: name, ...caretAt(field) });
    };
    const leave = () => setOpen(null);
    document.addEventListener('input', look);
    document.addEventListener('focusout', leave);
    return () => {
      document.removeEventListener('input', look);
      document.removeEventListener('focusout', leave);
    };
  }, []);

  useEffect(() => {
    if (!open || offers.length === 0) return;
    const press = (event: KeyboardEvent) => {
      if (event.key === 'ArrowDown') setAt(Math.min(offers.length - 1, chosen + 1));
      else if (event.key === 'ArrowUp') setAt(Math.max(0, chosen - 1));
      else if (event.key === 'Enter' || event.key === 'Tab') setOpen({ ...open, isTaken: true });
      else if (event.key === 'Escape') setOpen(null);
      else return;
      event.preventDefault();
      event.stopImmediatePropagation();
    };
    document.addEventListener('keydown', press, true);
    return () => document.removeEventListener('keydown', press, true);
  }, [open, offers, chosen, take]);

  // Whoever types fast means what is offered for all of it, not for what was there a moment ago.
  useEffect(() => {
    if (!open?.isTaken || !isCurrent) return;
    const offer = offers[chosen];
    const timer = setTimeout(() => (offer ? take(open, offer.write) : setOpen(null)));
    return () => clearTimeout(timer);
  }, [open, isCurrent, offers, chosen, take]);

  if (!open || offers.length === 0) return null;
  const low = open.top > window.innerHeight - 260;
  return (
    <ul
      role="listbox"
      aria-label="Link to"
      className="fixed z-[60] max-h-60 w-80 overflow-y-auto border border-hair bg-sheet py-1 shadow-xl"
      style={{
        left: Math.max(8, Math.min(open.left, window.innerWidth - 336)),
        ...(low ? { bottom: window.innerHeight - open.top + 26 } : { top: open.top + 4 }),
      }}
    >
      {offers.map((offer, nth) => (
        <li key={offer.thing.kind + offer.write} role="option" aria-selected={nth === chosen}>
          <button
            type="button"
            tabIndex={-1}
            onMouseDown={(event) => {
              event.preventDefault();
              take(open, offer.write);
            }}
            className={`flex w-full items-baseline gap-2.5 px-3 py-1.5 text-left ${nth === chosen ? 'bg-wash' : 'hover:bg-quiet'}`}
          >
            <Mark kind={offer.thing.kind === 'slip' ? 'note' : offer.thing.kind} size={13} />
            <span className="written min-w-0 flex-1 truncate text-[14px]">{offer.title}</span>
            <span className="narrow text-[11.5px] text-second">
              {offer.part && 'section in '}
              {offer.thing.kind === 'topic' ? 'topic' : named(offer.thing)}
            </span>
          </button>
        </li>
      ))}
    </ul>
  );
}
