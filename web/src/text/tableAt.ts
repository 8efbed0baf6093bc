/** The table that a place in a text stands in, from the beginning of its first line to the end of its last. */
export function tableAt(text: string, at: number): { from: number; to: number } | null {
  const isRow = (line: string) => line.trimStart().startsWith('|');
  let from = text.lastIndexOf('\n', at - 1) + 1;
  const endOf = (start: number) => {
    const end = text.indexOf('\n', start);
    return end < 0 ? text.length : end;
  };
  if (!isRow(text.slice(from, endOf(from)))) return null;
  while (from > 0) {
    const before = text.lastIndexOf('\n', from - 2) + 1;
    if (!isRow(text.slice(before, from - 1))) break;
    from = before;
  }
  let to = endOf(from);
  while (to < text.length && isRow(text.slice(to + 1, endOf(to + 1)))) to = endOf(to + 1);
  // A line or two with strokes is no table yet; its second one is the ruling.
  return /^[|\s:-]+$/.test(text.slice(from, to).split('\n')[1] ?? '') ? { from, to } : null;
}

/** A table put in between the words of a text, as a paragraph of its own. */
export function asParagraph(text: string, from: number, to: number, table: string): string {
  const before = text.slice(0, from);
  const after = text.slice(to);
  const lead = before === '' || before.endsWith('\n\n') ? '' : before.endsWith('\n') ? '\n' : '\n\n';
  const tail = after === '' ? '\n' : after.startsWith('\n\n') ? '' : after.startsWith('\n') ? '\n' : '\n\n';
  return lead + table + tail;
}
