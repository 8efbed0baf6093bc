import { useState, type ReactNode } from 'react';

/** Rows that can be added, taken away and put in another order, by press and by Alt and an arrow key. */
export function Rows<T>({
  name,
  items,
  labelOf,
  blank,
  onChange,
  children,
}: {
  /** What one of them is. */
  name: string;
  items: readonly T[];
  labelOf: (item: T) => string;
  blank: () => T;
  onChange: (items: T[]) => void;
  children: (item: T, change: (item: T) => void, at: number) => ReactNode;
}) {
  const move = (at: number, by: number) => {
    const to = at + by;
    if (to < 0 || to >= items.length) return;
    const next = [...items];
    const [item] = next.splice(at, 1);
    next.splice(to, 0, item!);
    onChange(next);
  };
  return (
    <>
      {items.map((item, at) => (
        <div
          key={at}
          className="flex items-baseline gap-3 border-b border-rule py-1.5 max-md:flex-wrap"
          onKeyDown={(event) => {
            const by = event.altKey && { ArrowUp: -1, ArrowDown: 1 }[event.key];
            if (!by) return;
            event.preventDefault();
            move(at, by);
          }}
        >
          {children(item, (changed) => onChange(items.map((one, i) => (i === at ? changed : one))), at)}
          <span className="shrink-0 whitespace-nowrap">
            <button
              type="button"
              aria-label={`Move ${name} ${labelOf(item) || at + 1} up`}
              disabled={at === 0}
              onClick={() => move(at, -1)}
              className="min-h-6 min-w-6 text-second hover:text-blue disabled:opacity-30"
            >
              ↑
            </button>
            <button
              type="button"
              aria-label={`Move ${name} ${labelOf(item) || at + 1} down`}
              disabled={at === items.length - 1}
              onClick={() => move(at, 1)}
              className="min-h-6 min-w-6 text-second hover:text-blue disabled:opacity-30"
            >
              ↓
            </button>
            <button
              type="button"
              aria-label={`Take ${name} ${labelOf(item) || at + 1} away`}
              onClick={() => onChange(items.filter((_, i) => i !== at))}
              className="min-h-6 min-w-6 text-second hover:text-red"
            >
              ×
            </button>
          </span>
        </div>
      ))}
      <button type="button" className="link mt-1.5 min-h-6 text-[12.5px]" onClick={() => onChange([...items, blank()])}>
        add a {name}
      </button>
    </>
  );
}

/** A small number; what is no number stays and is said to be none. */
export function Small({
  label,
  value,
  unit,
  empty = '–',
  onChange,
}: {
  label: string;
  value: number | null;
  unit: string;
  empty?: string;
  onChange: (value: number | null) => void;
}) {
  const [typed, setTyped] = useState<string>();
  const shown = typed ?? (value === null ? '' : String(value));
  const isWrong = shown.trim() !== '' && !Number.isFinite(Number(shown.replace(',', '.')));
  return (
    <span className="flex items-baseline gap-1 text-[13px]">
      <input
        aria-label={label}
        aria-invalid={isWrong}
        title={isWrong ? 'This is no number.' : undefined}
        inputMode="decimal"
        value={shown}
        placeholder={empty}
        onChange={(event) => {
          const next = event.target.value;
          setTyped(next);
          const number = Number(next.replace(',', '.'));
          if (next.trim() === '') onChange(null);
          else if (Number.isFinite(number)) onChange(number);
        }}
        onBlur={() => {
          if (!isWrong) setTyped(undefined);
        }}
        className={`figures border-b border-transparent bg-transparent text-right outline-none hover:border-hair focus:border-blue aria-invalid:border-red aria-invalid:text-red ${empty.length > 3 ? 'w-20' : 'w-12'}`}
      />
      {unit && <span className="text-[12px] text-second">{unit}</span>}
    </span>
  );
}
