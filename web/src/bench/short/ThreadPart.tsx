import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { api, ask, done, type Done, type Draft } from '../../api/client';
import { queryClient } from '../../api/queries';
import type { components } from '../../api/schema';
import { carryOut, complain, say } from '../../papers/notices';
import { Button } from '../../ui/Button';
import { Empty, Failed, Loading } from '../../ui/States';

type Part = components['schemas']['ThreadPartShown'];
type Change = components['schemas']['ThreadChange'];

/** The draft as the parts in which it goes out: each counted as its outlet counts, cut, joined, put in order, copied and ticked. */
export function ThreadPart({
  piece,
  onEnter,
  onGo,
  onDraft,
}: {
  piece: number;
  /** Brings what was typed to the server. */
  onEnter: () => Promise<unknown>;
  onGo: (at: number) => void;
  onDraft: (run: (version: number) => Promise<Done<Draft>>) => Promise<Done<Draft>>;
}) {
  const path = { number: String(piece) };
  const key = ['piece', piece, 'thread'];
  const thread = useQuery({
    queryKey: key,
    queryFn: () => ask(api.GET('/api/pieces/{number}/thread', { params: { path } })),
  });
  useEffect(() => {
    void onEnter().then(() => queryClient.invalidateQueries({ queryKey: ['piece', piece, 'thread'] }));
  }, [onEnter, piece]);
  if (thread.error) return <Failed error={thread.error} onRetry={() => void thread.refetch()} />;
  if (!thread.data) return <Loading />;
  const { parts, isNumbered } = thread.data;
  const change = async (body: Omit<Change, 'version'>, said: string) => {
    await carryOut(
      onDraft((version) =>
        done(
          api.POST('/api/pieces/{number}/thread', {
            params: { path },
            body: { version, act: body.act, nth: body.nth ?? undefined, to: body.to ?? undefined },
          }),
        ),
      ),
      said,
    ).catch(() => undefined);
    await queryClient.invalidateQueries({ queryKey: key });
  };
  const tick = async (body: { nth?: number; copied?: boolean; numbered?: boolean }, said: string) => {
    const made = await carryOut(
      done(api.POST('/api/pieces/{number}/thread/ticks', { params: { path }, body: { copied: false, ...body } })),
      said,
    ).catch(() => undefined);
    if (made) queryClient.setQueryData(key, made);
  };
  const copy = async (part: Part) => {
    try {
      await navigator.clipboard.writeText(part.goes);
      await tick({ nth: part.nth, copied: true }, `Part ${part.nth + 1} is copied and ticked.`);
    } catch (problem) {
      complain(problem instanceof Error ? problem : new Error('The browser did not let it be copied.'));
    }
  };
  const over = parts.filter((part) => part.overFrom !== null).length;
  const copied = parts.filter((part) => part.copied === 'yes').length;
  if (parts.length === 0)
    return (
      <Empty title="Nothing to send yet">
        Write in the draft. A line of <code>---</code> begins the next part, and so does a heading.
      </Empty>
    );
  return (
    <div
      className="min-h-0 flex-1 overflow-y-auto px-6 pb-12 max-md:flex-none max-md:overflow-visible max-md:px-4"
      tabIndex={-1}
    >
      <div className="mx-auto max-w-[46rem]">
        <header className="flex flex-wrap items-baseline gap-x-5 gap-y-1 border-b border-hair pt-5 pb-2">
          <p className="figures text-[13px]">
            <b>{parts.length}</b> {parts.length === 1 ? 'part' : 'parts'}
            {over > 0 && <b className="text-red"> · {over} over</b>}
            <span className="text-second"> · {copied} copied</span>
          </p>
          <label className="flex min-h-6 items-center gap-2 text-[13px]">
            <input
              type="checkbox"
              checked={isNumbered}
              onChange={(event) =>
                void tick(
                  { numbered: event.target.checked },
                  event.target.checked ? 'Each part says which one it is.' : 'Without numbers.',
                )
              }
            />
            numbered
          </label>
          {over > 0 && (
            <Button
              look="main"
              className="ml-auto"
              onClick={() => void change({ act: 'fit' }, 'Cut at the ends of sentences; every part goes in.')}
            >
              Cut to fit
            </Button>
          )}
        </header>
        <ol>
          {parts.map((part) => (
            <li
              key={part.nth}
              aria-label={`Part ${part.nth + 1}`}
              className="flex gap-4 border-b border-rule py-4 max-md:flex-col max-md:gap-1"
            >
              <div className="narrow figures w-24 shrink-0 text-[12px] text-second max-md:flex max-md:w-auto max-md:gap-3">
                <b className="block text-[15px] text-ink">{part.nth + 1}</b>
                {part.measured && (
                  <span className={part.overFrom !== null ? 'font-bold text-red' : ''}>
                    {part.measured.has} of {part.measured.most}
                    {part.overFrom !== null && (
                      <span className="block">{part.measured.has - part.measured.most} over</span>
                    )}
                  </span>
                )}
                {part.copied === 'changed' && <span className="block text-red">changed since it was copied</span>}
              </div>
              <div className="min-w-0 flex-1">
                <p className="written text-[16.5px] leading-[1.5] break-words whitespace-pre-wrap">
                  {part.overFrom === null ? (
                    part.goes
                  ) : (
                    <>
                      {part.goes.slice(0, part.overFrom)}
                      <mark className="border-0! bg-transparent text-red underline decoration-red/60 underline-offset-4">
                        {part.goes.slice(part.overFrom)}
                      </mark>
                    </>
                  )}
                </p>
                <p className="mt-1.5 flex flex-wrap gap-x-4 text-[12.5px]">
                  <button type="button" className="link min-h-6" onClick={() => void copy(part)}>
                    copy
                  </button>
                  <label className="flex min-h-6 items-center gap-1.5">
                    <input
                      type="checkbox"
                      aria-label={`Part ${part.nth + 1} is out`}
                      checked={part.copied === 'yes'}
                      onChange={(event) =>
                        void tick(
                          { nth: part.nth, copied: event.target.checked },
                          event.target.checked ? `Part ${part.nth + 1} is out.` : `Part ${part.nth + 1} is not out.`,
                        )
                      }
                    />
                    out
                  </label>
                  <button type="button" className="link min-h-6" onClick={() => onGo(part.from)}>
                    write in it
                  </button>
                  <button
                    type="button"
                    className="link min-h-6 disabled:text-second disabled:no-underline"
                    disabled={part.nth === 0}
                    onClick={() => void change({ act: 'move', nth: part.nth, to: part.nth - 1 }, 'Moved up.')}
                  >
                    up
                  </button>
                  <button
                    type="button"
                    className="link min-h-6 disabled:text-second disabled:no-underline"
                    disabled={part.nth === parts.length - 1}
                    onClick={() => void change({ act: 'move', nth: part.nth, to: part.nth + 1 }, 'Moved down.')}
                  >
                    down
                  </button>
                  {part.nth < parts.length - 1 && (
                    <button
                      type="button"
                      className="link min-h-6"
                      onClick={() => void change({ act: 'join', nth: part.nth }, 'Joined to the next one.')}
                    >
                      join to the next
                    </button>
                  )}
                </p>
              </div>
            </li>
          ))}
        </ol>
        <p className="pt-4">
          <button
            type="button"
            className="link min-h-6 text-[12.5px]"
            onClick={() =>
              void navigator.clipboard
                .writeText(parts.map((part) => part.goes).join('\n\n'))
                .then(() => say('All parts are copied.'), complain)
            }
          >
            copy all of them
          </button>
        </p>
      </div>
    </div>
  );
}
