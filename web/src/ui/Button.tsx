import type { ButtonHTMLAttributes } from 'react';

type Look = 'plain' | 'main' | 'quiet';

const looks: Record<Look, string> = {
  plain: 'border border-hair bg-sheet text-ink hover:border-second',
  main: 'border border-blue bg-blue text-sheet hover:brightness-110',
  quiet: 'border border-transparent text-second hover:text-ink hover:border-hair',
};

/** A button; the eye goes to the one that is "main". */
export function Button({
  look = 'plain',
  className = '',
  ...rest
}: { look?: Look } & ButtonHTMLAttributes<HTMLButtonElement>) {
  return (
    <button
      type="button"
      {...rest}
      className={`inline-flex min-h-[28px] items-center justify-center gap-2 rounded-key px-3 py-1 text-[12.5px] font-semibold whitespace-nowrap disabled:opacity-50 ${looks[look]} ${className}`}
    />
  );
}
