import { useEffect, useRef, type ReactNode } from 'react';
import { TwoTexts } from './TwoTexts';
import { useField } from './useField';

type Props = {
  label: string;
  value: string;
  onSave: (value: string) => Promise<unknown> | void;
  placeholder?: string;
  lines?: boolean;
  className?: string;
  /** Whether the label is shown above the field. */
  shown?: boolean;
  /** What it is the text of, for holding it in this browser; by default the page and the label. */
  place?: string;
  /** What Enter does besides saving. */
  onEnter?: () => void;
  /** What is shown under it while it is written in. */
  below?: (typed: string) => ReactNode;
};

/**
 * A text that is edited in place: it looks like what it is until it is clicked or focused. Saves on Enter (one line) or on
 * leaving; Escape puts back what stood there, and that can be undone. A refusal is shown under it and what was typed stays.
 */
export function TextField(props: Props) {
  const place = props.place ?? `${location.pathname}:${props.label}`;
  return <Field key={place} {...props} place={place} />;
}

function Field({
  label,
  value,
  onSave,
  placeholder,
  lines = false,
  className = '',
  shown = true,
  place,
  onEnter,
  below,
}: Props & { place: string }) {
  const field = useField(place, value, onSave, lines);
  const area = useRef<HTMLTextAreaElement>(null);

  useEffect(() => {
    const own = area.current;
    if (!own) return;
    own.style.height = 'auto';
    own.style.height = `${own.scrollHeight}px`;
  }, [field.text]);

  return (
    <label className="block">
      {shown && <span className="label mb-0.5 block text-second">{label}</span>}
      <textarea
        ref={area}
        rows={1}
        aria-label={label}
        aria-invalid={field.error !== ''}
        value={field.text}
        placeholder={placeholder}
        onChange={(event) => field.change(lines ? event.target.value : event.target.value.replace(/\n/g, ' '))}
        onFocus={field.enter}
        onBlur={() => void field.flush()}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && (!lines || event.ctrlKey || event.metaKey)) {
            event.preventDefault();
            event.currentTarget.blur();
            onEnter?.();
          }
          if (event.key === 'Escape') {
            event.stopPropagation();
            field.putBack();
            const own = event.currentTarget;
            requestAnimationFrame(() => own.blur());
          }
        }}
        className={`block w-full resize-none overflow-hidden border-b border-transparent bg-transparent outline-none hover:border-hair focus:border-blue ${className}`}
      />
      {field.error && (
        <span role="alert" className="mt-1 block text-[12px] text-red">
          {field.error}
        </span>
      )}
      {field.isChanged && !field.error && below?.(field.text)}
      {field.clash && <TwoTexts {...field.clash} onChoose={field.settle} />}
    </label>
  );
}
