import { useEffect, useRef, useState } from 'react';

/**
 * A text that is edited in place: it looks like what it is until it is clicked or focused. Saves on Enter (one line) or on
 * leaving; Escape takes the typing back. A refusal is shown under it and what was typed stays.
 */
export function TextField({
  label,
  value,
  onSave,
  placeholder,
  lines = false,
  className = '',
  shown = true,
}: {
  label: string;
  value: string;
  onSave: (value: string) => Promise<unknown> | void;
  placeholder?: string;
  lines?: boolean;
  className?: string;
  /** Whether the label is shown above the field. */
  shown?: boolean;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const [error, setError] = useState('');
  const area = useRef<HTMLTextAreaElement>(null);
  const text = typed ?? value;

  useEffect(() => {
    const field = area.current;
    if (!field) return;
    field.style.height = 'auto';
    field.style.height = `${field.scrollHeight}px`;
  }, [text]);

  const save = async () => {
    if (typed === null || typed === value) return setTyped(null);
    try {
      await onSave(typed);
      setTyped(null);
      setError('');
    } catch (problem) {
      setError((problem as Error).message);
    }
  };

  return (
    <label className="block">
      {shown && <span className="label mb-0.5 block text-second">{label}</span>}
      <textarea
        ref={area}
        rows={1}
        aria-label={label}
        aria-invalid={error !== ''}
        value={text}
        placeholder={placeholder}
        onChange={(event) => setTyped(lines ? event.target.value : event.target.value.replace(/\n/g, ' '))}
        onBlur={() => void save()}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && (!lines || event.ctrlKey || event.metaKey)) {
            event.preventDefault();
            event.currentTarget.blur();
          }
          if (event.key === 'Escape') {
            event.stopPropagation();
            setTyped(null);
            setError('');
            const field = event.currentTarget;
            requestAnimationFrame(() => field.blur());
          }
        }}
        className={`block w-full resize-none overflow-hidden border-b border-transparent bg-transparent outline-none hover:border-hair focus:border-blue ${className}`}
      />
      {error && (
        <span role="alert" className="mt-1 block text-[12px] text-red">
          {error}
        </span>
      )}
    </label>
  );
}
