import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useKeys } from '../papers/keys';
import { readDate } from '../ui/DateField';

/** A place to write the day one wants to see, as people write days. */
export function GoToDay() {
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState('');
  const [wrong, setWrong] = useState('');
  useKeys({ 'desk.date': () => setOpen(true) });
  const close = () => {
    setOpen(false);
    setTyped('');
    setWrong('');
  };
  const go = async () => {
    const day = await readDate(typed).catch(() => undefined);
    if (!day) return setWrong(`“${typed.trim()}” is no date that can be read.`);
    close();
    void navigate(`/desk/${day}`);
  };
  if (!open)
    return (
      <button type="button" className="link text-[12.5px]" onClick={() => setOpen(true)}>
        a day…
      </button>
    );
  return (
    <form
      className="flex items-baseline gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void go();
      }}
    >
      <input
        autoFocus
        aria-label="Go to a day"
        aria-invalid={wrong !== ''}
        value={typed}
        placeholder="3 November, Friday"
        onChange={(event) => {
          setTyped(event.target.value);
          setWrong('');
        }}
        onKeyDown={(event) => event.key === 'Escape' && close()}
        onBlur={() => typed.trim() === '' && close()}
        className="w-36 border-b border-ink bg-transparent text-[12.5px] outline-none"
      />
      {wrong && (
        <span role="alert" className="text-[12px] text-red">
          {wrong}
        </span>
      )}
    </form>
  );
}
