import { Link } from 'react-router';
import { useOutlets } from '../../plan/planning';
import { actsOf, carryOutAct, shortly, standing, useQueue, type Sending } from './queue';

/** What waits to be sent, with what is wrong and what to do about it. */
export function OnItsWay() {
  const queue = useQueue();
  const waiting = queue.filter((sending) => sending.state !== 'sent');
  if (queue.length === 0) return null;
  return (
    <section aria-label="On its way" className="mb-8">
      <h2 className="label flex items-baseline border-b border-ink pb-2">
        On its way
        <Link to="/catalogue/queue" className="link ml-auto text-[12.5px] font-normal tracking-normal normal-case">
          {waiting.length === 0 ? 'what was sent' : waiting.length === 1 ? '1 waits' : `${waiting.length} wait`}
        </Link>
      </h2>
      {waiting.length === 0 && <p className="mt-2 text-[13px] text-second">Nothing waits; all of it is out.</p>}
      <ul>
        {waiting.slice(0, 6).map((sending) => (
          <SendingLine key={sending.number} sending={sending} />
        ))}
      </ul>
    </section>
  );
}

/** Where a piece is on its way to, on its own page; nothing while it is not. */
export function PieceOnItsWay({ piece }: { piece: number }) {
  const outlets = useOutlets();
  const going = useQueue().filter((one) => one.piece === piece && one.state !== 'sent');
  return going.map((sending) => {
    const name = outlets.find((one) => one.number === sending.outlet)?.name ?? 'an outlet';
    return (
      <p key={sending.number} className="text-[12.5px]">
        <Link
          to="/catalogue/queue"
          className={`link max-w-60 truncate align-bottom ${standing(sending).isWrong ? 'text-red' : ''}`}
          title={standing(sending).words}
        >
          {shortly(sending, name)}
        </Link>
      </p>
    );
  });
}

/** One thing in the queue. */
export function SendingLine({ sending }: { sending: Sending }) {
  const outlet = useOutlets().find((one) => one.number === sending.outlet);
  const { words, isWrong } = standing(sending);
  return (
    <li className="border-b border-hair py-2.5">
      <Link
        to={sending.release ? `/catalogue/${sending.release}` : `/bench/${sending.piece}`}
        className="written text-[16px] leading-snug hover:text-blue"
      >
        {sending.title}
      </Link>
      <p className="text-[12.5px] leading-snug text-second">
        to {outlet?.name ?? 'an outlet'} · <span className={isWrong ? 'text-red' : ''}>{words}</span>
      </p>
      {actsOf(sending).length > 0 && (
        <p className="flex flex-wrap gap-x-4">
          {actsOf(sending).map(({ act, label }) => (
            <button
              key={act}
              type="button"
              className="link min-h-6 text-[12.5px]"
              onClick={() => void carryOutAct(sending, act)}
            >
              {label}
            </button>
          ))}
        </p>
      )}
    </li>
  );
}
