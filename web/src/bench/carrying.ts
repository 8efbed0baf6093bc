import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent, type RefObject } from 'react';
import type { Section } from '../api/client';

/** A section in the hand: where it would come to stand, and how deep. The gap is counted among all sections, 0 before the first. */
export type Carried = { from: number; gap: number; depth: number; byKey: boolean };

/** Where the family of a section ends. */
export const endOf = (sections: readonly Section[], at: number) => {
  let end = at + 1;
  while (end < sections.length && sections[end]!.depth > sections[at]!.depth) end++;
  return end;
};

/** How deep a section may stand at a place: at most one below the one before, and not so shallow that it takes another's children. */
export function depthAt(sections: readonly Section[], from: number, gap: number, wanted: number): number {
  const end = endOf(sections, from);
  const isOwn = (at: number) => at >= from && at < end;
  let before = gap - 1;
  while (isOwn(before)) before--;
  let after = gap;
  while (isOwn(after)) after++;
  const deepest = Math.min(5, before < 0 ? 1 : sections[before]!.depth + 1);
  const shallowest = Math.min(after >= sections.length ? 1 : sections[after]!.depth, deepest);
  return Math.min(deepest, Math.max(shallowest, wanted));
}

const indent = 18;

/** Carrying a section by mouse or by key, with a line that shows where it will land. */
export function useCarrying(
  sections: readonly Section[],
  list: RefObject<HTMLElement | null>,
  onMove: (section: number, before: number | null, depth: number) => void,
) {
  const [carried, setCarried] = useState<Carried | null>(null);
  const now = useRef({ sections, carried, onMove });
  useEffect(() => {
    now.current = { sections, carried, onMove };
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
    const { from, gap, depth } = carried;
    const end = endOf(sections, from);
    const stays = gap >= from && gap <= end;
    if (stays && depth === sections[from]!.depth) return;
    const before = stays ? sections[end] : sections[gap];
    onMove(sections[from]!.number, before?.number ?? null, depth);
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
  /** A folded family is one thing. */
  const endOfShown = (all: readonly Section[], at: number) => {
    const shown = list.current?.querySelector(`[data-section="${at + 1}"]`);
    return at + 1 < all.length && all[at + 1]!.depth > all[at]!.depth && !shown ? endOf(all, at) : at + 1;
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
      put({ from, gap, depth: depthAt(now.current.sections, from, gap, wanted), byKey: false });
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
    if (event.key === ' ' && !held) put({ from, gap: from, depth: all[from]!.depth, byKey: true });
    else if (!held?.byKey) return false;
    else if (event.key === ' ' || event.key === 'Enter') drop();
    else if (event.key === 'Escape') put(null);
    else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      const end = endOf(all, held.from);
      let gap = held.gap + (event.key === 'ArrowUp' ? -1 : 1);
      // Its own family is no place for it.
      if (gap > held.from && gap <= end) gap = event.key === 'ArrowUp' ? held.from : Math.min(all.length, end + 1);
      gap = Math.min(all.length, Math.max(0, gap));
      put({ ...held, gap, depth: depthAt(all, held.from, gap, held.depth) });
    } else if (event.key === 'ArrowLeft' || event.key === 'ArrowRight') {
      const wanted = held.depth + (event.key === 'ArrowLeft' ? -1 : 1);
      put({ ...held, depth: depthAt(all, held.from, held.gap, wanted) });
    } else return event.key !== 'Tab';
    event.preventDefault();
    event.stopPropagation();
    return true;
  };

  return { carried, lift, key, wasDragged: () => wasDragged.current, cancel: () => carried?.byKey && put(null) };
}
