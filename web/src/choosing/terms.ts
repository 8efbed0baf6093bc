import type { WorthTerm } from '../api/client';

/** What each term is called, where it comes from, and what it asks. */
export const terms: Record<WorthTerm, { name: string; from: 'world' | 'writer' | 'papers'; about: string }> = {
  pull: { name: 'pull', from: 'writer', about: 'how much it draws you' },
  effort: { name: 'lightness', from: 'writer', about: 'how little work it would be' },
  material: { name: 'material', from: 'world', about: 'how much lies ready for it' },
  asks: { name: 'asks', from: 'world', about: 'how many readers want it, the latest counting most' },
  timeliness: { name: 'season', from: 'world', about: 'whether an occasion on its topics is just far enough away' },
  mix: { name: 'mix', from: 'papers', about: 'how far its core topics lie under their wished share' },
  novelty: { name: 'novelty', from: 'papers', about: 'how little of it has gone out already' },
  ripeness: { name: 'ripeness', from: 'writer', about: 'whether its questions are answered and both sides heard' },
  waiting: { name: 'waiting', from: 'papers', about: 'how long it has waited; it rises slowly' },
};

/** A term's colour: blue for what comes from outside, ink for what the writer said, grey for what the papers know. */
export const inkOf = (term: WorthTerm): string =>
  ({ world: 'bg-blue', writer: 'bg-second', papers: 'bg-second/60' })[terms[term].from];

/** Hours as one says them. */
export const hoursSaid = (hours: number): string =>
  hours < 1
    ? `${Math.max(1, Math.round(hours * 12)) * 5} min`
    : `${hours < 3 ? Number(hours.toFixed(1)) : Math.round(hours)} h`;

const weightOf = (effort: number | null | undefined) =>
  effort == null ? '' : effort <= 2 ? 'light' : effort === 3 ? 'middling' : 'heavy';

/** How much work it would be, in a few words; empty when that was not said. */
export const workSaid = (idea: { effort: number | null; hours: number | null }): string =>
  [weightOf(idea.effort), idea.hours === null ? '' : hoursSaid(idea.hours)].filter(Boolean).join(', ');

/** A sentence of phrases: “a, b and c”. */
export const listed = (phrases: readonly string[]): string =>
  phrases.length < 2 ? (phrases[0] ?? '') : `${phrases.slice(0, -1).join(', ')} and ${phrases.at(-1)}`;
