import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask, Problem } from '../../api/client';
import { say } from '../../papers/notices';
import { useOutlets } from '../../plan/planning';
import { Button } from '../../ui/Button';
import { Dialog } from '../../ui/Dialog';
import { useHeld } from '../../ui/useField';
import { several } from '../catalogue';
import { useConnections } from '../queue/queue';

const field = 'w-full border border-hair bg-transparent p-2 text-[14px] outline-none focus:border-blue';

/** Sends a piece as it stands to a few people who are to read it before others. */
export function DraftLetter({ piece, title, onClose }: { piece: number; title: string; onClose: () => void }) {
  const connections = useConnections().filter((one) => one.kind === 'mail');
  const outlets = useOutlets().filter((one) => connections.some((connection) => connection.outlet === one.number));
  const [outlet, setOutlet] = useState<number>();
  const [to, setTo] = useHeld('draft-letter.to');
  const [words, setWords] = useHeld(`draft-letter.${piece}`);
  const [wrong, setWrong] = useState('');
  const [going, setGoing] = useState(false);
  const from = outlet ?? outlets[0]?.number;
  const send = async () => {
    setWrong('');
    setGoing(true);
    try {
      const sent = await ask(
        api.POST('/api/pieces/{number}/draft-letter', {
          params: { path: { number: String(piece) } },
          body: { outlet: from ?? null, to, words },
        }),
      );
      if (sent.problem) setWrong(sent.problem);
      else {
        say(`The draft is on its way to ${several(sent.to, 'person').replace('persons', 'people')}.`);
        setWords('');
        onClose();
      }
    } catch (error) {
      setWrong(error instanceof Problem || error instanceof Error ? error.message : String(error));
    } finally {
      setGoing(false);
    }
  };
  return (
    <Dialog open title={`Send the draft of “${title}”`} onClose={onClose}>
      {outlets.length === 0 ? (
        <p className="text-[14px] leading-relaxed">
          None of your outlets sends letters yet.{' '}
          <Link to="/plan/outlets" className="link" onClick={onClose}>
            Connect one to a mail server under Plan
          </Link>
          .
        </p>
      ) : (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            void send();
          }}
        >
          <label htmlFor="draft-to" className="label text-second">
            To
          </label>
          <textarea
            id="draft-to"
            rows={3}
            className={field}
            value={to}
            placeholder="one a line: Ada <ada@friend.example>"
            onChange={(event) => setTo(event.target.value)}
          />
          <label htmlFor="draft-words" className="label mt-3 block text-second">
            What you say to them first
          </label>
          <textarea
            id="draft-words"
            rows={4}
            className={`${field} written`}
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
          {outlets.length > 1 && (
            <label className="mt-3 flex items-baseline gap-3 text-[13.5px]">
              <span className="label text-second">Through</span>
              <select
                className="border-b border-hair bg-transparent py-1"
                value={from}
                onChange={(event) => setOutlet(Number(event.target.value))}
              >
                {outlets.map((one) => (
                  <option key={one.number} value={one.number}>
                    {one.name}
                  </option>
                ))}
              </select>
            </label>
          )}
          <p className="mt-3 text-[12.5px] leading-relaxed text-second">
            It goes now, as the piece stands, with “Draft” before its title. It is no release, and nobody comes onto a
            list by it.
          </p>
          {wrong && (
            <p role="alert" className="mt-2 text-[12.5px] text-red">
              {wrong}
            </p>
          )}
          <div className="mt-4 flex gap-2">
            <Button look="main" type="submit" disabled={going}>
              {going ? 'Sending …' : 'Send it now'}
            </Button>
            <Button onClick={onClose}>Cancel</Button>
          </div>
        </form>
      )}
    </Dialog>
  );
}
