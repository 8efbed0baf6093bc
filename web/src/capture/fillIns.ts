import type { components } from '../api/schema';

export type Offer = components['schemas']['FillInOffer'];

/** A place in a text that is filled in each day. */
export type FillInPlace = {
  from: number;
  to: number;
} & (
  | { kind: 'fact'; name: string; otherwise: string }
  /** A part that stands only when there is something to say. */
  | { kind: 'begin'; name: string }
  | { kind: 'end' }
  /** Written by hand in a way that has no words here. */
  | { kind: 'own' }
);

const tag = /\{\{-?\s*(.*?)\s*-?\}\}|\{%-?\s*(.*?)\s*-?%\}/gs;
const fact = /^([a-z_]+)(?:\s*\|\s*default:\s*"([^"]*)")?$/;
const begin = /^if\s+([a-z_]+)\s*!=\s*(?:''|""|blank|empty)$/;

/** The fill-ins of a text, in their order. */
export function placesIn(text: string, offers: readonly Offer[]): FillInPlace[] {
  const known = new Set(offers.map((offer) => offer.name));
  return [...text.matchAll(tag)].map((match) => {
    const at = { from: match.index, to: match.index + match[0].length };
    const said = match[1] === undefined ? undefined : fact.exec(match[1]);
    if (said && known.has(said[1]!)) return { ...at, kind: 'fact', name: said[1]!, otherwise: said[2] ?? '' };
    const opened = match[2] === undefined ? undefined : begin.exec(match[2]);
    if (opened && known.has(opened[1]!)) return { ...at, kind: 'begin', name: opened[1]! };
    if (match[2] === 'endif') return { ...at, kind: 'end' };
    return { ...at, kind: 'own' };
  });
}

/** How a fill-in is written in the text. */
export const written = (name: string, otherwise = ''): string =>
  otherwise ? `{{ ${name} | default: "${otherwise.replaceAll('"', '')}" }}` : `{{ ${name} }}`;

export const partBegins = (name: string): string => `{% if ${name} != '' %}`;

export const partEnds = '{% endif %}';

const wordsOf = (name: string, offers: readonly Offer[]) => offers.find((offer) => offer.name === name)?.words ?? name;

/** The words a fill-in stands in the text as. */
export function words(place: FillInPlace, offers: readonly Offer[]): string {
  switch (place.kind) {
    case 'fact':
      return wordsOf(place.name, offers);
    case 'begin':
      return `if ${offers.find((offer) => offer.name === place.name)?.if ?? 'there is one'}:`;
    case 'end':
      return '◂';
    default:
      return 'a fill-in of your own';
  }
}

/** The text without one part that stands only sometimes: its words stay, its two ends go. */
export function withoutPart(text: string, places: readonly FillInPlace[], at: number): { from: number; to: number }[] {
  let depth = 0;
  for (let i = at; i < places.length; i++) {
    const place = places[i]!;
    if (
      place.kind === 'begin' ||
      (place.kind === 'own' && /^\{%-?\s*(?:if|unless|case)\b/.test(text.slice(place.from)))
    )
      depth++;
    if (place.kind === 'end' && --depth === 0) return [places[at]!, place].map(({ from, to }) => ({ from, to }));
  }
  return [{ from: places[at]!.from, to: places[at]!.to }];
}
