import { useEffect, useRef, type Ref, type TextareaHTMLAttributes } from 'react';

/** A text field on the sheet that is as tall as what is written in it. */
export function GrowingText({
  label,
  value,
  onChange,
  least = 76,
  field,
  ...rest
}: {
  label: string;
  value: string;
  onChange: (text: string) => void;
  /** Height while it is empty, in pixels. */
  least?: number;
  field?: Ref<HTMLTextAreaElement>;
} & Omit<TextareaHTMLAttributes<HTMLTextAreaElement>, 'onChange' | 'value'>) {
  const area = useRef<HTMLTextAreaElement>(null);
  useEffect(() => {
    const fit = () => {
      const own = area.current;
      if (!own) return;
      own.style.height = 'auto';
      own.style.height = `${Math.max(least, own.scrollHeight)}px`;
    };
    fit();
    // Where the window gets narrower, the same words need more lines.
    window.addEventListener('resize', fit);
    return () => window.removeEventListener('resize', fit);
  }, [value, least]);
  return (
    <textarea
      {...rest}
      ref={(own) => {
        area.current = own;
        if (typeof field === 'function') field(own);
        else if (field) field.current = own;
      }}
      rows={1}
      aria-label={label}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      className="written block w-full max-w-[46rem] resize-none bg-transparent text-[16.5px] leading-[1.6] outline-none placeholder:italic"
    />
  );
}
