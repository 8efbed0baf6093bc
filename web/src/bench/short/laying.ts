import type { LaidPattern } from './PutInDialog';

type Field = HTMLTextAreaElement | HTMLInputElement;

/** The places of a laid pattern in a plain field that are still to be filled, by their words, in order. */
const open = new WeakMap<Field, string[]>();

/** Selects the next place behind the cursor; false when there is none. */
export function nextPlace(field: Field, from = field.selectionEnd ?? 0): boolean {
  const places = open.get(field) ?? [];
  const word = places.shift();
  if (word === undefined) return false;
  const at = field.value.indexOf(word, from);
  if (at < 0) return nextPlace(field, from);
  field.setSelectionRange(at, at + word.length);
  return true;
}

/** A text with a laid pattern in place of what is chosen in a field, and the places from then on Tab's. */
export function laidInto(field: Field, laid: LaidPattern): { text: string; start: () => void } {
  const [from, to] = [field.selectionStart ?? field.value.length, field.selectionEnd ?? field.value.length];
  open.set(
    field,
    laid.places.map((place) => laid.text.slice(place.from, place.to)),
  );
  return {
    text: field.value.slice(0, from) + laid.text + field.value.slice(to),
    start: () => {
      field.focus();
      if (!nextPlace(field, from)) field.setSelectionRange(from + laid.text.length, from + laid.text.length);
    },
  };
}
