import { useState, type ReactNode } from 'react';
import { saidAtField } from '../papers/notices';
import { Button } from './Button';
import { useHeld } from './useField';

/** A line to make something new with: held in this browser until it is made, and kept where it is refused. */
export function AddLine({
  place,
  label,
  placeholder,
  press,
  onAdd,
  others,
  className = 'written text-[15.5px]',
}: {
  /** What it is the text of, for holding it in this browser. */
  place: string;
  label: string;
  placeholder: string;
  /** What Enter and the button do. */
  press: string;
  onAdd: (text: string) => Promise<unknown>;
  /** Further buttons; each is given how to add by another way. */
  others?: (text: string, add: (by: (text: string) => Promise<unknown>) => void) => ReactNode;
  className?: string;
}) {
  const [text, setText] = useHeld(place);
  const [error, setError] = useState('');
  const add = (by: (text: string) => Promise<unknown>) => {
    if (text.trim())
      by(text).then(
        () => {
          setText('');
          setError('');
        },
        (problem: Error) => {
          saidAtField(problem);
          setError(problem.message);
        },
      );
  };
  return (
    <>
      <form
        className="mt-2 flex flex-wrap items-baseline gap-x-3 gap-y-1"
        onSubmit={(event) => {
          event.preventDefault();
          add(onAdd);
        }}
      >
        <input
          aria-label={label}
          value={text}
          placeholder={placeholder}
          onChange={(event) => {
            setText(event.target.value);
            setError('');
          }}
          className={`min-w-40 flex-1 border-b border-hair bg-transparent py-1 outline-none placeholder:italic focus:border-blue ${className}`}
        />
        <Button type="submit" disabled={!text.trim()}>
          {press}
        </Button>
        {others?.(text, add)}
      </form>
      {error && (
        <p role="alert" className="mt-1 text-red">
          {error}
        </p>
      )}
    </>
  );
}
