import { Link } from 'react-router';
import { several } from '../catalogue';
import { AskStands } from './AskStands';
import { useAsks } from './asks';

const most = 4;

/** The weightiest asks, beside what went out. */
export function WhatReadersAsk() {
  const asks = useAsks().data;
  if (!asks || asks.length === 0) return null;
  return (
    <section aria-label="What readers ask" className="mb-8">
      <h2 className="label flex items-baseline border-b border-ink pb-2">
        What readers ask
        <Link to="/catalogue/asks" className="link ml-auto text-[12.5px] font-normal tracking-normal normal-case">
          {several(asks.length, 'ask')}
        </Link>
      </h2>
      <ul>
        {asks.slice(0, most).map((one) => (
          <li key={one.number} className="flex items-baseline gap-3 border-b border-hair py-2.5">
            <span className="figures w-6 shrink-0 text-right text-[21px] font-semibold">
              {one.people}
              <span className="sr-only"> {one.people === 1 ? 'person asks' : 'people ask'}: </span>
            </span>
            <span className="min-w-0">
              <Link
                to={`/catalogue/asks/${one.number}`}
                className="written text-[16px] leading-snug break-words hover:text-blue"
              >
                {one.ask}
              </Link>
              <AskStands ask={one} />
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
