import { StateField, type Text, type Transaction } from '@codemirror/state';
import { changedNear } from './lines';

/** A heading in the draft. */
export type Heading = { from: number; to: number; marks: number; depth: number };

function headingsIn(doc: Text): Heading[] {
  const found: Heading[] = [];
  let fence = '';
  let from = 0;
  for (const text of doc.iterLines()) {
    const mark = /^ {0,3}(```|~~~)/.exec(text)?.[1];
    if (mark) fence = fence === '' ? mark : fence === mark ? '' : fence;
    else if (fence === '' && text.startsWith('#')) {
      const heading = /^(#{1,6})\s+(?=\S)/.exec(text);
      if (heading)
        found.push({
          from,
          to: from + text.length,
          marks: heading[0].length,
          depth: Math.max(1, heading[1]!.length - 1),
        });
    }
    from += text.length + 1;
  }
  return found;
}

/** A line that is a heading, or that opens or closes code, in which there are none. */
const structure = /^(#| {0,3}(```|~~~))/m;

/** The same headings where they stand now. */
function moved(all: readonly Heading[], change: Transaction): readonly Heading[] {
  const at = (place: number) => change.changes.mapPos(place);
  return all.map((one) => ({ ...one, from: at(one.from), to: at(one.to) }));
}

/** The headings of a draft, as they are shown; what they mean is the server's business. Read anew only where one may have come or gone. */
export const headings = StateField.define<readonly Heading[]>({
  create: (state) => headingsIn(state.doc),
  update: (value, change) =>
    !change.docChanged ? value : changedNear(change, structure) ? headingsIn(change.newDoc) : moved(value, change),
});

/** "1", "2", "2.1" for sections in order. A step that is left out ("####" under "##") makes no hole: it counts as the next depth. */
export function numbered(depths: readonly number[]): string[] {
  const at: number[] = [];
  return depths.map((depth) => {
    const own = Math.min(depth, at.length + 1);
    at.length = Math.min(at.length, own);
    at[own - 1] = (at[own - 1] ?? 0) + 1;
    return at.join('.');
  });
}
