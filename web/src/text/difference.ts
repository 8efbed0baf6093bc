export type TextChange = { from: number; to: number; insert: string };

const isSecondHalf = (text: string, at: number) => {
  const unit = text.charCodeAt(at);
  return unit >= 0xdc00 && unit <= 0xdfff;
};

/** The change that makes one text the other, in the one stretch where they differ; never through the middle of a character. */
export function difference(old: string, next: string): TextChange | undefined {
  if (old === next) return undefined;
  let from = 0;
  while (from < old.length && from < next.length && old.charCodeAt(from) === next.charCodeAt(from)) from++;
  if (from > 0 && (isSecondHalf(old, from) || isSecondHalf(next, from))) from--;
  let [endOld, endNext] = [old.length, next.length];
  while (endOld > from && endNext > from && old.charCodeAt(endOld - 1) === next.charCodeAt(endNext - 1)) {
    endOld--;
    endNext--;
  }
  if (isSecondHalf(old, endOld) || isSecondHalf(next, endNext)) {
    endOld++;
    endNext++;
  }
  return { from, to: endOld, insert: next.slice(from, endNext) };
}

/** FNV-1a over UTF-16 units, 32 bits with a sign, as the server computes it. */
export function hashOf(text: string): number {
  let hash = 0x811c9dc5;
  for (let at = 0; at < text.length; at++) hash = Math.imul(hash ^ text.charCodeAt(at), 0x01000193);
  return hash | 0;
}
