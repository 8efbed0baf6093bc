import type { Text, Transaction } from '@codemirror/state';

/** The lines around a stretch, one more at either end, since some things are told by what stands beside them. */
const around = (doc: Text, from: number, to: number) => {
  const first = doc.line(Math.max(1, doc.lineAt(from).number - 1));
  const last = doc.line(Math.min(doc.lines, doc.lineAt(to).number + 1));
  return doc.sliceString(first.from, last.to);
};

/** Whether the lines that were changed, or those beside them, have or had a mark. Without one a long text need not be read again. */
export function changedNear(change: Transaction, mark: RegExp): boolean {
  let found = false;
  change.changes.iterChangedRanges((from, to, newFrom, newTo) => {
    found ||= mark.test(around(change.startState.doc, from, to)) || mark.test(around(change.newDoc, newFrom, newTo));
  });
  return found;
}
