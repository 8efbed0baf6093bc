import { useEffect, useRef, useState, type ReactNode } from 'react';
import type { QueueGroup } from '../api/client';
import { Link } from 'react-router';
import { Button } from '../ui/Button';
import { nearDay, shortDay, today } from '../ui/dates';

const doors = {
  strip: 'Written down',
  paste: 'Pasted',
  sheet: 'From the day sheet',
  phone: 'From the phone',
  program: 'From a program',
  feed: 'Feed',
  reading: 'While reading',
  import: 'Brought in',
  clip: 'Clipped',
  folder: 'Drop folder',
};

/** What a group is called: the door, with the feed's or file's name, and the day for what was written by hand. */
function heading(group: QueueGroup): string {
  if (group.backFromHold) return 'Back from hold';
  if (group.topic) return group.topic.name;
  if (!group.origin) return group.day ? (group.day === today() ? 'Today' : shortDay(group.day)) : 'On the pile';
  const door = group.note ? `${doors[group.origin]}: ${group.note}` : doors[group.origin];
  if (!group.day) return door;
  return group.day === today()
    ? `${door} today`
    : `${door} ${nearDay(group.day) === 'yesterday' ? 'yesterday' : shortDay(group.day)}`;
}

/** The pile, by where each slip came from, with how far the sitting has come. */
export function Queue({
  groups,
  gone,
  current,
  left,
  settled,
  head,
  foot,
  again,
  onShow,
}: {
  groups: readonly QueueGroup[];
  gone: ReadonlySet<number>;
  current: number;
  left: number;
  settled: number;
  /** What the pile is, and how it can be chosen. */
  head: ReactNode;
  foot: ReactNode;
  /** Whether it is gone through again for something. */
  again: boolean;
  onShow: (number: number) => void;
}) {
  const here = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    // In braces: the browser answers with a promise, which is no clean-up.
    void here.current?.scrollIntoView({ block: 'nearest' });
  }, [current]);
  // On a phone the pile is folded away; one slip and its decisions are enough there.
  const [whole, setWhole] = useState(false);
  const order = groups.flatMap((group) => group.slips.map((slip) => slip.number)).filter((number) => !gone.has(number));
  const at = order.indexOf(current);
  const share = left + settled > 0 ? (100 * settled) / (left + settled) : 0;
  return (
    <nav
      aria-label="Waiting slips"
      className="w-[252px] shrink-0 overflow-y-auto border-r border-hair bg-quiet pt-6 pb-4 max-lg:w-[210px] max-md:w-auto max-md:shrink-0 max-md:border-r-0 max-md:border-b max-md:pt-3 max-md:pb-0"
    >
      <div className="px-[18px]">
        {head}
        <p className="flex items-baseline gap-2.5">
          <span className="written text-[32px] leading-none font-semibold">{left}</span>
          <span className="text-[12.5px] text-second">
            {again ? `to look at · ${settled} looked at today` : `waiting · ${settled} settled today`}
          </span>
          <span className="ml-auto hidden gap-1 max-md:flex">
            <Button aria-label="The one before" disabled={at < 1} onClick={() => onShow(order[at - 1]!)}>
              ‹
            </Button>
            <Button
              aria-label="The next, without deciding"
              disabled={at < 0 || at + 1 >= order.length}
              onClick={() => onShow(order[at + 1]!)}
            >
              ›
            </Button>
            <Button aria-expanded={whole} onClick={() => setWhole(!whole)}>
              Pile
            </Button>
          </span>
        </p>
        <div
          className="mt-2.5 mb-4 h-[5px] bg-hair/60"
          role="progressbar"
          aria-label="Settled today"
          aria-valuenow={settled}
          aria-valuemin={0}
          aria-valuemax={left + settled}
        >
          <div className="h-full bg-done transition-[width] duration-200" style={{ width: `${share}%` }} />
        </div>
      </div>
      <div className={whole ? '' : 'max-md:hidden'}>
        {groups.map((group) => {
          const slips = group.slips.filter((slip) => !gone.has(slip.number));
          if (slips.length === 0) return null;
          const name = heading(group);
          return (
            <section key={`${name}-${slips[0]?.number}`} className="mb-4" aria-label={name}>
              <h2 className="label mx-[18px] border-b border-hair pb-1 text-second">
                {group.note && !group.backFromHold ? (
                  <Link
                    to={`/sift?from=${encodeURIComponent(group.note)}`}
                    title="Only this pile"
                    className="inline-block max-w-full truncate align-bottom hover:text-blue"
                  >
                    {name}
                  </Link>
                ) : (
                  name
                )}
              </h2>
              {slips.map((slip) => {
                const isHere = slip.number === current;
                return (
                  <button
                    key={slip.number}
                    ref={isHere ? here : undefined}
                    type="button"
                    aria-current={isHere ? 'true' : undefined}
                    onClick={() => onShow(slip.number)}
                    className={`relative flex w-full items-baseline gap-3 px-[18px] py-[6px] text-left ${isHere ? 'bg-sheet' : 'hover:bg-sheet/60'}`}
                  >
                    {isHere && <span className="absolute inset-y-0 left-0 w-[3px] bg-blue" />}
                    <span className="narrow figures w-7 shrink-0 text-[12px] text-faint">{slip.number}</span>
                    <span className="written min-w-0 flex-1 truncate text-[14px]">{slip.title || 'untitled'}</span>
                    {slip.worth != null && (
                      <span
                        className="figures shrink-0 text-[11.5px] text-second"
                        title="How much speaks for it, of 100"
                      >
                        {Math.round(slip.worth)}
                      </span>
                    )}
                  </button>
                );
              })}
            </section>
          );
        })}
        {foot}
      </div>
    </nav>
  );
}
