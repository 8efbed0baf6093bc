import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent, type RefObject } from 'react';
import type { Section } from '../api/client';

/** Sections in the hand, one or several: where they would come to stand, and how deep. The gap is counted among all sections, 0 before the first. */
export type Carried = {
  /** The place of the one it was taken up by. */
  from: number;
  /** Their numbers. */
  moved: readonly number[];
  /** Their places and those of what is inside them. */
  own: ReadonlySet<number>;
  gap: number;
  depth: number;
  byKey: boolean;
};

/** Where the family of a section ends. */
export const endOf = (sections: readonly Section[], at: number) => {
  let end = at + 1;
  while (end < sections.length && sections[end]!.depth > sections[at]!.depth) end++;
  return end;
};

/** The places of some sections and of what is inside them. */
function familyOf(sections: readonly Section[], numbers: readonly number[]): ReadonlySet<number> {
  const own = new Set<number>();
  sections.forEach((section, at) => {
    if (numbers.includes(section.number)) for (let i = at; i < endOf(sections, at); i++) own.add(i);
  });
  return own;
}

/** How deep sections may stand at a place: at most one below the one before, and not so shallow that they take another's children. */
function depthAt(sections: readonly Section[], own: ReadonlySet<number>, gap: number, wanted: number): number {
  let before = gap - 1;
  while (own.has(before)) before--;
  let after = gap;
  while (own.has(after)) after++;
  const deepest = Math.min(5, before < 0 ? 1 : sections[before]!.depth + 1);
  const shallowest = Math.min(after >= sections.length ? 1 : sections[after]!.depth, deepest);
  return Math.min(deepest, Math.max(shallowest, wanted));
}

const indent = 18;

/** Carrying sections by mouse or by key, with a line that shows where they will land. One of the chosen takes the others with it. */
export function useCarrying(
  sections: readonly Section[],
  chosen: readonly number[],
  list: RefObject<HTMLElement | null>,
  onMove: (moved: readonly number[], before: number | null, depth: number) => void,
) {
  const [carried, setCarried] = useState<Carried | null>(null);
  const now = useRef({ sections, chosen, carried, onMove });
  useEffect(() => {
    now.current = { sections, chosen, carried, onMove };
  });
  const wasDragged = useRef(false);

  const put = (next: Carried | null) => {
    now.current.carried = next;
    setCarried(next);
  };
  const drop = () => {
    const { sections, carried, onMove } = now.current;
    put(null);
    if (!carried) return;
    const { moved, own, gap, depth } = carried;
    let after = gap;
    while (own.has(after)) after++;
    const places = [...own].sort((a, b) => a - b);
    const stays = places.at(-1)! - places[0]! === own.size - 1 && (own.has(gap) || own.has(gap - 1));
    if (stays && sections.every(({ number, depth: has }) => !moved.includes(number) || has === depth)) return;
    onMove(moved, sections[after]?.number ?? null, depth);
  };
  const takeUp = (from: number, gap: number, wanted: number, byKey: boolean) => {
    const { sections, chosen } = now.current;
    const { number } = sections[from]!;
    const moved = chosen.includes(number) ? chosen : [number];
    const own = familyOf(sections, moved);
    put({ from, moved, own, gap, depth: depthAt(sections, own, gap, wanted), byKey });
  };

  /** The gap nearest to a height on the screen. */
  const gapAt = (y: number): number => {
    const rows = [...(list.current?.querySelectorAll<HTMLElement>('[data-section]') ?? [])];
    for (const row of rows) {
      const box = row.getBoundingClientRect();
      if (y < box.top + box.height / 2) return Number(row.dataset['section']);
    }
    const last = rows.at(-1);
    return last ? endOfShown(now.current.sections, Number(last.dataset['section'])) : 0;
  };
  const rowAt = (at: number) => list.current?.querySelector(`[data-section="${at}"]`);
  /** A folded family is one thing. */
  const endOfShown = (all: readonly Section[], at: number) => {
    return at + 1 < all.length && all[at + 1]!.depth > all[at]!.depth && !rowAt(at + 1) ? endOf(all, at) : at + 1;
  };

  const lift = (event: PointerEvent, from: number) => {
    if (event.button !== 0) return;
    wasDragged.current = false;
    const { clientX: x0, clientY: y0, pointerId } = event;
    let scroll = 0;
    let last = { x: x0, y: y0 };
    const place = () => {
      const gap = gapAt(last.y);
      const wanted = now.current.sections[from]!.depth + Math.round((last.x - x0) / indent);
      takeUp(from, gap, wanted, false);
    };
    const roll = () => {
      const box = list.current?.getBoundingClientRect();
      if (!box || !now.current.carried) return;
      const speed = last.y < box.top + 36 ? -8 : last.y > box.bottom - 36 ? 8 : 0;
      if (speed) {
        list.current!.scrollTop += speed;
        place();
      }
      scroll = requestAnimationFrame(roll);
    };
    const move = (moved: globalThis.PointerEvent) => {
      if (moved.pointerId !== pointerId) return;
      last = { x: moved.clientX, y: moved.clientY };
      if (!wasDragged.current && Math.hypot(last.x - x0, last.y - y0) < 5) return;
      if (!wasDragged.current) scroll = requestAnimationFrame(roll);
      wasDragged.current = true;
      place();
    };
    const over = (ended: globalThis.PointerEvent | globalThis.KeyboardEvent) => {
      if (ended instanceof globalThis.KeyboardEvent && ended.key !== 'Escape') return;
      cancelAnimationFrame(scroll);
      window.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', over);
      window.removeEventListener('pointercancel', over);
      window.removeEventListener('keydown', over, true);
      if (ended.type === 'pointerup' && wasDragged.current) drop();
      else put(null);
    };
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', over);
    window.addEventListener('pointercancel', over);
    window.addEventListener('keydown', over, true);
  };

  /** Space lifts and sets down, the arrows carry, Escape puts it back. */
  const key = (event: KeyboardEvent, from: number): boolean => {
    const held = now.current.carried;
    const all = now.current.sections;
    if (event.key === ' ' && !held) takeUp(from, from, all[from]!.depth, true);
    else if (!held?.byKey) return false;
    else if (event.key === ' ' || event.key === 'Enter') drop();
    else if (event.key === 'Escape') put(null);
    else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      // What is in the hand is no place for itself, and neither is what is folded away.
      const places = all.flatMap((_, at) => (held.own.has(at) || !rowAt(at) ? [] : [at]));
      const at = places.filter((place) => place < held.gap).length + (event.key === 'ArrowUp' ? -1 : 1);
      takeUp(held.from, places[Math.max(0, at)] ?? all.length, held.depth, true);
    } else if (event.key === 'ArrowLeft' || event.key === 'ArrowRight') {
      takeUp(held.from, held.gap, held.depth + (event.key === 'ArrowLeft' ? -1 : 1), true);
    } else return event.key !== 'Tab';
    event.preventDefault();
    event.stopPropagation();
    return true;
  };

  return { carried, lift, key, wasDragged: () => wasDragged.current, cancel: () => carried?.byKey && put(null) };
}
