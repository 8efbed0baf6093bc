import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type GoneSection, type HistoryLine } from '../api/client';
import { keys } from '../api/queries';
import { AddMove, MoveLine } from '../capture/Moves';
import { Attachments } from '../papers/Attachments';
import { LeadsTo, LinkedFrom } from '../sources/Connections';
import { Unlinked } from '../sources/Unlinked';
import { complain } from '../papers/notices';
import { clock, shortDay } from '../ui/dates';
import { usePieceLinks } from './pieceLinks';

/** What is kept with a piece: what was done to it, sections that are gone, moves, files and links. */
export function KeptWithIt({
  number,
  gone,
  onBringBack,
  onBackTo,
}: {
  number: number;
  gone: readonly GoneSection[];
  onBringBack: (section: number) => Promise<unknown>;
  onBackTo: (command: number) => Promise<unknown>;
}) {
  const path = { number: String(number) };
  const links = usePieceLinks(number);
  const lines = useQuery({
    queryKey: keys.history(number),
    queryFn: () => ask(api.GET('/api/pieces/{number}/history', { params: { path } })),
  }).data;
  const moves = useQuery({ queryKey: keys.moves, queryFn: () => ask(api.GET('/api/moves')) }).data ?? [];
  return (
    <div
      className="min-h-0 flex-1 overflow-y-auto px-6 pb-10 max-md:flex-none max-md:overflow-visible max-md:px-4"
      tabIndex={-1}
    >
      <div className="mx-auto grid max-w-[72rem] gap-x-14 md:grid-cols-2">
        <div>
          <HistoryOf lines={lines ?? []} onBackTo={onBackTo} />
        </div>
        <div>
          <section aria-label="Sections that are gone" className="mt-6">
            <h2 className="label border-b border-hair pb-1">Sections that are gone</h2>
            {gone.length === 0 && (
              <p className="py-2 text-second">
                None. A section whose heading disappears from the draft is kept here with its aim, beat and material,
                and comes back with its heading.
              </p>
            )}
            {gone.map((section) => (
              <div key={section.number} className="flex items-baseline gap-4 border-b border-rule py-2">
                <div className="min-w-0 flex-1">
                  <p className="written text-[15.5px] font-semibold">{section.title}</p>
                  <p className="written truncate text-[14px] text-second">{section.begins || 'without text'}</p>
                </div>
                <span className="figures narrow text-[12px] whitespace-nowrap text-second">
                  {section.words} {section.words === 1 ? 'word' : 'words'}
                </span>
                <button
                  type="button"
                  className="link min-h-6 whitespace-nowrap"
                  onClick={() => void onBringBack(section.number).catch(() => undefined)}
                >
                  bring back
                </button>
              </div>
            ))}
          </section>
          <section aria-label="Moves" className="mt-7">
            <h2 className="label border-b border-hair pb-1">Moves</h2>
            {moves
              .filter((move) => move.piece === number)
              .map((move) => (
                <MoveLine key={move.number} move={move} />
              ))}
            <AddMove piece={number} />
          </section>
          <Attachments kind="piece" number={number} />
          <LeadsTo kind="piece" number={number} />
          <LinkedFrom lines={links} />
          <Unlinked kind="piece" number={number} />
        </div>
      </div>
    </div>
  );
}

/** Everything that was done on the piece's page, the latest first. Going back is a walk; each step of it can be gone forward again. */
function HistoryOf({
  lines,
  onBackTo,
}: {
  lines: readonly HistoryLine[];
  onBackTo: (command: number) => Promise<unknown>;
}) {
  const [busy, setBusy] = useState(0);
  return (
    <section aria-label="History" className="mt-6">
      <h2 className="label border-b border-hair pb-1">History</h2>
      {lines.length === 0 && <p className="py-2 text-second">Nothing was done to it yet.</p>}
      <ol>
        {lines.map((line) => (
          <li
            key={line.command}
            className={`flex min-h-8 items-baseline gap-4 border-b border-rule py-1.5 ${line.undone ? 'text-second' : ''}`}
          >
            <span className="narrow figures w-24 shrink-0 text-second">
              {shortDay(line.at.slice(0, 10))}, {clock(line.at)}
            </span>
            <span className={`min-w-0 flex-1 ${line.undone ? 'line-through' : ''}`}>
              {line.what}
              {line.times > 1 && <span className="text-second"> · {line.times} steps</span>}
            </span>
            {line.undone ? (
              <span className="text-[12px] text-second">taken back</span>
            ) : (
              !/^(started|brought in)/.test(line.what) && (
                <button
                  type="button"
                  disabled={busy > 0}
                  aria-busy={busy === line.command}
                  className="link min-h-6 text-[12px] whitespace-nowrap disabled:text-second"
                  onClick={() => {
                    setBusy(line.command);
                    void onBackTo(line.command)
                      .catch(complain)
                      .finally(() => setBusy(0));
                  }}
                >
                  {busy === line.command ? 'going back…' : 'go back before it'}
                </button>
              )
            )}
          </li>
        ))}
      </ol>
    </section>
  );
}
