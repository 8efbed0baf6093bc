/** Five steps, from little to much; pressing the step it stands on clears it. Arrow keys and digits work on it: it is one control, and
 * the steps in it are only where a pointer lands. */
export function Steps({
  label,
  value,
  onChange,
  tabIndex = 0,
}: {
  label: string;
  value: number | null;
  onChange: (value: number | null) => void;
  tabIndex?: number;
}) {
  return (
    <div
      role="slider"
      tabIndex={tabIndex}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={5}
      aria-valuenow={value ?? 0}
      aria-valuetext={value === null ? 'not set' : `${value} of 5`}
      className="inline-flex min-h-6 items-center"
      onKeyDown={(event) => {
        const now = value ?? 0;
        const next =
          event.key === 'ArrowRight' || event.key === 'ArrowUp'
            ? Math.min(5, now + 1)
            : event.key === 'ArrowLeft' || event.key === 'ArrowDown'
              ? Math.max(0, now - 1)
              : /^[0-5]$/.test(event.key)
                ? Number(event.key)
                : undefined;
        if (next === undefined) return;
        event.preventDefault();
        event.stopPropagation();
        onChange(next === 0 ? null : next);
      }}
    >
      {[1, 2, 3, 4, 5].map((step) => (
        <span
          key={step}
          aria-hidden
          title={`${label} ${step}`}
          onClick={() => onChange(step === value ? null : step)}
          className="group/step flex h-6 cursor-pointer items-center pr-[3px]"
        >
          <span
            className={`h-[11px] w-[9px] ${value !== null && step <= value ? 'bg-second' : 'bg-hair/70 group-hover/step:bg-hair'}`}
          />
        </span>
      ))}
    </div>
  );
}

/** The same five steps, only shown. */
export function StepsShown({ label, value }: { label: string; value: number | null }) {
  if (value === null) return null;
  return (
    <span
      className="inline-flex gap-[2px]"
      role="img"
      aria-label={`${label} ${value} of 5`}
      title={`${label} ${value} of 5`}
    >
      {[1, 2, 3, 4, 5].map((step) => (
        <span key={step} className={`h-[9px] w-[6px] ${step <= value ? 'bg-second' : 'bg-hair/70'}`} />
      ))}
    </span>
  );
}
