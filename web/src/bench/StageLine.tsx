import { useKeys } from '../papers/keys';

/** Where the piece stands; a stage is chosen with the mouse, the arrow keys, or [ and ] from anywhere on the page. */
export function StageLine({
  stages,
  stage,
  isOut,
  onMove,
}: {
  stages: readonly string[];
  stage: string;
  isOut: boolean;
  onMove: (stage: string) => void;
}) {
  const at = stages.indexOf(stage);
  const to = (index: number) => {
    const next = stages[index];
    if (next && next !== stage) onMove(next);
  };
  useKeys({ 'bench.stageBack': () => to(at - 1), 'bench.stageOn': () => to(at + 1) });
  return (
    <div
      role="radiogroup"
      aria-label="Stage"
      className="flex"
      onKeyDown={(event) => {
        const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
        if (!step) return;
        event.preventDefault();
        to(at + step);
        (
          event.currentTarget.children[Math.min(stages.length - 1, Math.max(0, at + step))] as HTMLElement | undefined
        )?.focus();
      }}
    >
      {stages.map((name, index) => {
        const done = index <= at;
        const tone = isOut ? 'bg-done' : 'bg-blue';
        return (
          <button
            key={name}
            type="button"
            role="radio"
            aria-checked={index === at}
            tabIndex={index === at ? 0 : -1}
            onClick={() => to(index)}
            className="group relative flex w-[76px] flex-col items-center pt-[3px] max-xl:w-[62px]"
          >
            {index > 0 && (
              <span
                aria-hidden
                className={`absolute top-[9px] right-1/2 h-[3px] w-full ${done ? tone : 'bg-hair/60'}`}
              />
            )}
            <span
              aria-hidden
              className={`relative rounded-full ${
                index === at
                  ? `h-[15px] w-[15px] border-[4px] bg-sheet ${isOut ? 'border-done' : 'border-blue'}`
                  : done
                    ? `mt-[3px] mb-[3px] h-[9px] w-[9px] ${tone}`
                    : 'mt-[3px] mb-[3px] h-[9px] w-[9px] border-2 border-hair bg-sheet group-hover:border-blue'
              }`}
            />
            <span
              className={`narrow mt-1 text-[11.5px] ${index === at ? 'font-bold' : 'text-second group-hover:text-blue'}`}
            >
              {name}
            </span>
          </button>
        );
      })}
    </div>
  );
}
