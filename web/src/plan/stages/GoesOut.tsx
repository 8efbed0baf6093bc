import { useState } from 'react';
import { useQuery } from '@tanstack/react-query';
import { api, ask, Problem } from '../../api/client';
import { keys } from '../../api/queries';
import { Button } from '../../ui/Button';
import { DateField } from '../../ui/DateField';
import { Dialog } from '../../ui/Dialog';
import { today } from '../../ui/dates';

export type Out = { outOn: string; outlet?: number; outAddress?: string };

/** Asks once when, where and under which address a piece went out. */
export function GoesOut({
  title,
  format,
  outlet,
  onGo,
  onClose,
}: {
  title: string;
  format: string;
  outlet: number | null;
  /** Puts it out; what goes wrong is thrown. */
  onGo: (out: Out) => Promise<unknown>;
  onClose: () => void;
}) {
  const all = useQuery({ queryKey: keys.outlets, queryFn: () => ask(api.GET('/api/outlets')) }).data ?? [];
  const fitting = all.filter((one) => one.formats.length === 0 || one.formats.includes(format));
  // Today, however late it is: whether pieces keep their day is told from this one.
  const [on, setOn] = useState(today());
  const [at, setAt] = useState(outlet);
  const [address, setAddress] = useState('');
  const [wrong, setWrong] = useState('');
  const [going, setGoing] = useState(false);
  const field = 'w-full border-b border-hair bg-transparent py-1 outline-none focus:border-blue';
  return (
    <Dialog open title={`“${title}” goes out`} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          setGoing(true);
          setWrong('');
          onGo({ outOn: on, outlet: at ?? undefined, outAddress: address.trim() || undefined })
            .then(onClose)
            .catch((error: unknown) => setWrong(error instanceof Problem ? error.message : String(error)))
            .finally(() => setGoing(false));
        }}
      >
        <div className="grid grid-cols-[76px_1fr] items-baseline gap-x-4 gap-y-3">
          <span className="label text-second">On</span>
          <DateField label="The day it went out" needed value={on} onChange={(day) => setOn(day ?? today())} />
          <label htmlFor="goes-out-outlet" className="label text-second">
            Outlet
          </label>
          <select
            id="goes-out-outlet"
            className={field}
            value={at ?? ''}
            onChange={(event) => setAt(event.target.value ? Number(event.target.value) : null)}
          >
            <option value="">not said</option>
            {fitting.map((one) => (
              <option key={one.number} value={one.number}>
                {one.name}
              </option>
            ))}
          </select>
          <label htmlFor="goes-out-address" className="label text-second">
            Address
          </label>
          <input
            id="goes-out-address"
            className={field}
            value={address}
            placeholder="https://…, where it can be read"
            onChange={(event) => setAddress(event.target.value)}
          />
        </div>
        {wrong && (
          <p role="alert" className="mt-3 text-red">
            {wrong}
          </p>
        )}
        <p className="mt-3 text-[12.5px] text-second">It leaves the stages and stands in the Catalogue.</p>
        <div className="mt-4 flex gap-2">
          <Button look="main" type="submit" disabled={going}>
            It is out
          </Button>
          <Button onClick={onClose}>Not yet</Button>
        </div>
      </form>
    </Dialog>
  );
}
