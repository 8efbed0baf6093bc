import { useQueryClient } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { done } from '../api/client';
import { carryOut } from '../papers/notices';

type Asked = Parameters<typeof done>[0];

/** A rule in its list: switched on and off, changed, taken away. */
export function RuleRow({
  name,
  isOn,
  onSwitch,
  onEdit,
  onRemove,
  children,
}: {
  name: string;
  isOn: boolean;
  onSwitch: (isOn: boolean) => Asked;
  onEdit: () => void;
  onRemove: () => Asked;
  /** What it says. */
  children: ReactNode;
}) {
  const client = useQueryClient();
  const run = (asked: Asked, words: string) => {
    const refresh = () => client.invalidateQueries();
    void carryOut(done(asked), words).then(refresh, refresh);
  };
  return (
    <div className="flex items-baseline gap-5 border-b border-rule py-3 max-md:flex-wrap">
      <label className="flex items-baseline gap-2 whitespace-nowrap">
        <input
          type="checkbox"
          role="switch"
          aria-label={`Rule ${name}`}
          checked={isOn}
          onChange={(event) =>
            run(onSwitch(event.target.checked), event.target.checked ? 'Switched on.' : 'Switched off.')
          }
        />
        <span className={`w-6 text-[12.5px] ${isOn ? 'font-semibold text-done' : 'text-second'}`}>
          {isOn ? 'on' : 'off'}
        </span>
      </label>
      <div className="min-w-0 flex-1">
        <p className="written text-[16.5px] font-semibold">{name}</p>
        {children}
      </div>
      <button type="button" className="link" onClick={onEdit}>
        change
      </button>
      <button type="button" className="link" onClick={() => run(onRemove(), 'Rule taken away.')}>
        take away
      </button>
    </div>
  );
}
