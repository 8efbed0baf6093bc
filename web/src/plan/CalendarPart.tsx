import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { complain, say } from '../papers/notices';
import { Button } from '../ui/Button';

/** The address at which other calendars can read the plan: shown once, changed and withdrawn at will. */
export function CalendarPart() {
  const calendar = useQuery({ queryKey: keys.calendar, queryFn: () => ask(api.GET('/api/plan/calendar')) });
  const [made, setMade] = useState<string>();
  const run = async (act: () => Promise<string | null>, said: string) => {
    try {
      const path = await act();
      setMade(path ? location.origin + path : undefined);
      say(said);
      await queryClient.invalidateQueries({ queryKey: keys.calendar });
    } catch (problem) {
      complain(problem);
    }
  };
  const make = () =>
    run(async () => (await ask(api.POST('/api/plan/calendar'))).path, 'The calendar has a new address.');
  const withdraw = () =>
    run(
      async () => (await ask(api.DELETE('/api/plan/calendar'))).path,
      'The address is withdrawn; nothing can be read there.',
    );
  return (
    <section aria-label="In other calendars" className="mt-7">
      <h2 className="label border-b border-hair pb-1.5">In other calendars</h2>
      <p className="mt-2 text-[12.5px] text-second">
        At a secret address any calendar program can read the plan: what goes out, the days stages are done by, open
        dates, occasions, and moves with a reminder at nine.
      </p>
      {made ? (
        <div className="mt-2 border-l-[3px] border-blue bg-sheet px-3 py-2">
          <p className="text-[12.5px]">This is the only time it is shown; copy it now.</p>
          <code className="mt-1 block text-[12px] break-all">{made}</code>
          <Button
            look="main"
            className="mt-2"
            onClick={() => void navigator.clipboard.writeText(made).then(() => say('Copied the address.'), complain)}
          >
            Copy the address
          </Button>
        </div>
      ) : null}
      {calendar.data && (
        <p className="mt-2 flex gap-4 text-[12.5px]">
          <button type="button" className="link" onClick={() => void make()}>
            {calendar.data.isOn ? 'another address' : 'make an address'}
          </button>
          {calendar.data.isOn && (
            <button type="button" className="link" onClick={() => void withdraw()}>
              withdraw it
            </button>
          )}
        </p>
      )}
    </section>
  );
}
