import { useMemo, useState } from 'react';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';

/** The text in pieces that can stand by themselves: its paragraphs, or the sentences of its only one. */
function piecesOf(text: string): { bits: string[]; glue: string } {
  const lines = text.split(/\n+/).filter((line) => line.trim() !== '');
  if (lines.length > 1) return { bits: lines, glue: '\n\n' };
  return {
    bits: text
      .trim()
      .split(/(?<=[.!?…;][”"’)]*)\s+(?=\S)/u)
      .filter(Boolean),
    glue: ' ',
  };
}

/** Where a slip is cut in two or more: a press between two lines cuts there. */
export function SplitDialog({
  text,
  onClose,
  onSplit,
}: {
  text: string;
  onClose: () => void;
  onSplit: (parts: string[]) => void;
}) {
  const { bits, glue } = useMemo(() => piecesOf(text), [text]);
  const [cuts, setCuts] = useState<ReadonlySet<number>>(new Set(bits.length === 2 ? [1] : []));
  const parts = bits.reduce<string[]>(
    (all, bit, at) =>
      at > 0 && !cuts.has(at) ? [...all.slice(0, -1), (all.at(-1) ?? '') + glue + bit] : [...all, bit],
    [],
  );
  return (
    <Dialog title="Split this slip" open onClose={onClose}>
      {bits.length < 2 ? (
        <p className="text-second">It is one sentence. Write a new line where it should be cut, then split it.</p>
      ) : (
        <div className="max-h-[50vh] overflow-y-auto">
          {bits.map((bit, at) => (
            <div key={at}>
              {at > 0 && (
                <button
                  type="button"
                  aria-pressed={cuts.has(at)}
                  aria-label={
                    cuts.has(at)
                      ? `cut here: don’t cut before “${bit.slice(0, 30)}”`
                      : `cut? Cut before “${bit.slice(0, 30)}”`
                  }
                  onClick={() => {
                    const next = new Set(cuts);
                    if (next.has(at)) next.delete(at);
                    else next.add(at);
                    setCuts(next);
                  }}
                  className="group my-0.5 flex w-full items-center gap-3 py-1 text-[11.5px] text-second hover:text-blue"
                >
                  <span
                    className={`flex-1 border-t ${cuts.has(at) ? 'border-blue' : 'border-dashed border-hair group-hover:border-blue'}`}
                  />
                  {cuts.has(at) ? 'cut here' : 'cut?'}
                  <span
                    className={`flex-1 border-t ${cuts.has(at) ? 'border-blue' : 'border-dashed border-hair group-hover:border-blue'}`}
                  />
                </button>
              )}
              <p className="written text-[15px] leading-snug whitespace-pre-wrap">{bit}</p>
            </div>
          ))}
        </div>
      )}
      <div className="mt-5 flex items-center justify-end gap-3">
        <span className="mr-auto text-second">Each part keeps topics, source and place.</span>
        <Button look="quiet" onClick={onClose}>
          Not now
        </Button>
        <Button look="main" disabled={parts.length < 2} onClick={() => onSplit(parts)}>
          {parts.length < 2 ? 'Split' : `Split into ${parts.length}`}
        </Button>
      </div>
    </Dialog>
  );
}
