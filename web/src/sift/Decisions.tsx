import type { ActName } from '../papers/ownKeys';
import { KeyOf } from '../ui/KeyOf';

type Act = Record<'keep' | 'start' | 'drop' | 'hold' | 'merge' | 'piece' | 'back', () => void> & {
  /** Only while slips are gone through again. */
  pass: (() => void) | undefined;
};

/** The decisions, each with its key. */
export function Decisions({
  act,
  format,
  fits,
  canGoBack,
  mergeInto,
}: {
  act: Act;
  format: string;
  fits: number;
  canGoBack: number;
  mergeInto: number | undefined;
}) {
  const rows: [ActName, string, string, () => void][] = [
    ...(act.pass
      ? [['sift.pass', 'Leave as it is', 'and on to the next', act.pass] as [ActName, string, string, () => void]]
      : []),
    ['sift.keep', 'Keep', 'to the topic drawers', act.keep],
    ['sift.start', 'Start a piece', `${format.toLowerCase()} from this slip`, act.start],
    [
      'sift.piece',
      'Put into a piece',
      fits ? `or ${fits === 1 ? '1' : `1–${fits}`}: would fit` : 'beside its material',
      act.piece,
    ],
    ['sift.hold', 'Hold', 'until a date, or to look up', act.hold],
    ['sift.merge', 'Merge', mergeInto ? `into slip ${mergeInto}…` : 'into another slip', act.merge],
    ['sift.drop', 'Drop', 'kept out of sight', act.drop],
  ];
  return (
    <section
      aria-label="Decisions"
      className="flex flex-1 flex-col max-md:sticky max-md:bottom-0 max-md:order-4 max-md:grid max-md:flex-none max-md:grid-cols-3 max-md:border-t max-md:border-hair max-md:bg-sheet"
    >
      {rows.map(([key, name, note, onDecide], at) => (
        <button
          key={key}
          type="button"
          onClick={onDecide}
          className={`flex w-full items-center gap-3 px-2 py-[7px] text-left hover:bg-wash max-md:min-h-[44px] max-md:justify-center max-md:border-r max-md:border-b max-md:border-rule ${at === 0 ? 'bg-wash' : ''}`}
        >
          <span className="max-md:hidden">
            <KeyOf act={key} />
          </span>
          <span className="text-[13.5px] font-semibold whitespace-nowrap">{name}</span>
          <span className="ml-auto text-right text-[12px] leading-tight text-second max-md:hidden">{note}</span>
        </button>
      ))}
      <button
        type="button"
        onClick={act.back}
        disabled={canGoBack === 0}
        className="mt-auto flex items-center gap-3 max-md:col-span-3 max-md:justify-center max-md:py-2 border-t border-rule px-2 pt-3 text-left text-second enabled:hover:text-blue disabled:opacity-50"
      >
        <span className="max-md:hidden">
          <KeyOf act="sift.back" />
        </span>{' '}
        {canGoBack === 0 ? 'Nothing to take back yet' : `Take back the last of ${canGoBack}`}
      </button>
    </section>
  );
}
