import { shortDay } from './dates';

type Held = {
  heldUntil: string | null;
  heldOccasionName: string | null;
  heldSources: number | null;
  heldLookUp: string | null;
};

/** What a held slip waits for, as it follows its state: "held until 3 Dec". */
export function heldFor(slip: Held): string {
  if (slip.heldLookUp !== null)
    return slip.heldLookUp ? `held to look up: ${slip.heldLookUp}` : 'held to look something up';
  if (slip.heldUntil)
    return slip.heldOccasionName
      ? `held until ${slip.heldOccasionName}, ${shortDay(slip.heldUntil)}`
      : `held until ${shortDay(slip.heldUntil)}`;
  return slip.heldSources === 1
    ? 'held until a source speaks to it'
    : `held until ${slip.heldSources} sources speak to it`;
}
