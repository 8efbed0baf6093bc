import { useState } from 'react';
import { api, done, Problem } from '../api/client';
import { queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';
import { useOutlets } from '../plan/planning';
import { Button } from '../ui/Button';
import { DateField } from '../ui/DateField';
import { Dialog } from '../ui/Dialog';
import { today } from '../ui/dates';

const field = 'w-full border-b border-hair bg-transparent py-1 outline-none focus:border-blue';

/** Notes that a piece went out somewhere: what its writer sent by hand. */
export function NoteRelease({
  piece,
  title,
  outlet,
  onClose,
}: {
  piece: number;
  title: string;
  outlet: number | null;
  onClose: () => void;
}) {
  const outlets = useOutlets();
  const [on, setOn] = useState(today());
  const [at, setAt] = useState(outlet);
  const [address, setAddress] = useState('');
  const [named, setNamed] = useState(title);
  const [own, setOwn] = useState(false);
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState<{ field: string; message: string }>();
  const [going, setGoing] = useState(false);
  const problem = (of: string) =>
    wrong?.field === of && (
      <p role="alert" className="col-span-2 -mt-2 text-[12.5px] text-red">
        {wrong.message}
      </p>
    );
  const note = () => {
    setGoing(true);
    setWrong(undefined);
    carryOut(
      done(
        api.POST('/api/pieces/{number}/releases', {
          params: { path: { number: String(piece) } },
          body: {
            outlet: at ?? undefined,
            outOn: on,
            address: address.trim() || undefined,
            title: named,
            text: own ? text : undefined,
          },
        }),
      ),
      (made) => `It stands in the Catalogue as R ${made.number}.`,
      true,
    )
      .then(() => {
        onClose();
        return queryClient.invalidateQueries();
      })
      .catch((error: unknown) =>
        setWrong({
          field: error instanceof Problem ? error.field : '',
          message: error instanceof Error ? error.message : String(error),
        }),
      )
      .finally(() => setGoing(false));
  };
  return (
    <Dialog open title={`“${title}” went out`} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          note();
        }}
      >
        <div className="grid grid-cols-[76px_1fr] items-baseline gap-x-4 gap-y-3">
          <label htmlFor="note-outlet" className="label text-second">
            Outlet
          </label>
          <select
            id="note-outlet"
            className={field}
            value={at ?? ''}
            onChange={(event) => setAt(event.target.value ? Number(event.target.value) : null)}
          >
            <option value="">as the piece has it</option>
            {outlets.map((one) => (
              <option key={one.number} value={one.number}>
                {one.name}
              </option>
            ))}
          </select>
          <span className="label text-second">On</span>
          <DateField label="The day it went out" needed value={on} onChange={(day) => setOn(day ?? today())} />
          {problem('outOn')}
          <label htmlFor="note-address" className="label text-second">
            Address
          </label>
          <input
            id="note-address"
            className={field}
            value={address}
            placeholder="https://…, where it can be read"
            onChange={(event) => setAddress(event.target.value)}
          />
          {problem('address')}
          <label htmlFor="note-title" className="label text-second">
            Title
          </label>
          <input id="note-title" className={field} value={named} onChange={(event) => setNamed(event.target.value)} />
          {problem('title')}
          <span className="label text-second">Text</span>
          <div role="group" aria-label="Text" className="flex flex-wrap gap-x-4 text-[13px]">
            <label className="inline-flex min-h-6 items-center gap-1.5">
              <input type="radio" name="note-text" checked={!own} onChange={() => setOwn(false)} />
              the draft as it stands
            </label>
            <label className="inline-flex min-h-6 items-center gap-1.5">
              <input type="radio" name="note-text" checked={own} onChange={() => setOwn(true)} />
              another, pasted here
            </label>
          </div>
          {own && (
            <textarea
              aria-label="The text as it was sent"
              rows={6}
              className="written col-span-2 w-full border border-hair bg-transparent p-2 text-[14px] outline-none focus:border-blue"
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
          )}
          {problem('text')}
        </div>
        {wrong && !['outOn', 'address', 'title', 'text'].includes(wrong.field) && (
          <p role="alert" className="mt-3 text-[12.5px] text-red">
            {wrong.message}
          </p>
        )}
        <p className="mt-3 text-[12.5px] text-second">
          The text is kept as it was sent; what you change in the draft later does not reach it.
        </p>
        <div className="mt-4 flex gap-2">
          <Button look="main" type="submit" disabled={going}>
            Note it
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}
