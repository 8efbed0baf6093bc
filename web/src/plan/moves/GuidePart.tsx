import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, done } from '../../api/client';
import type { components } from '../../api/schema';
import { keys, queryClient } from '../../api/queries';
import { carryOut } from '../../papers/notices';
import { ActionMenu } from '../../ui/ActionMenu';
import { AddLine } from '../../ui/AddLine';
import { TextField } from '../../ui/TextField';

type Line = components['schemas']['GuideShown'];
type Every = Line['every'];

export const useGuide = () => useQuery({ queryKey: keys.guide, queryFn: () => ask(api.GET('/api/guide')) }).data;

const named: Record<Every, string> = { day: 'Every day', week: 'Every week', month: 'Every month' };
const refresh = () => queryClient.invalidateQueries();
const path = (line: Line) => ({ path: { number: String(line.number) } });

const change = (line: Line, body: components['schemas']['GuideChange'], words: string) =>
  carryOut(
    done(api.PATCH('/api/guide/{number}', { params: path(line), body: { ...body, version: line.version } })),
    words,
  );

/** One line that is ticked until the next day, week or month begins. */
function GuideLine({ line, lines, isOnDesk }: { line: Line; lines: readonly Line[]; isOnDesk: boolean }) {
  const [ticked, setTicked] = useState<boolean>();
  const shown = ticked ?? line.isDone;
  const at = lines.indexOf(line);
  const place = (before: Line | undefined) =>
    void carryOut(
      done(api.PUT('/api/guide/{number}/place', { params: path(line), body: { before: before?.number } })),
      'Moved.',
    ).then(refresh, () => undefined);
  return (
    <li className="flex items-baseline gap-3 border-b border-rule py-1.5">
      <input
        type="checkbox"
        checked={shown}
        aria-label={`Done: ${line.text}`}
        onChange={(event) => {
          setTicked(event.target.checked);
          void change(line, { done: event.target.checked }, event.target.checked ? 'Done.' : 'Taken up again.')
            .then(refresh, () => undefined)
            .finally(() => setTicked(undefined));
        }}
        className="mt-[3px] h-[14px] w-[14px] shrink-0 appearance-none self-start border border-second bg-sheet bg-center bg-no-repeat checked:bg-done"
      />
      {isOnDesk ? (
        <span className={`written min-w-0 flex-1 text-[14.5px] ${shown ? 'text-second line-through' : ''}`}>
          {line.text}
        </span>
      ) : (
        <>
          <div className="min-w-0 flex-1">
            <TextField
              label={`Line of the guide: ${line.text}`}
              place={`guide.${line.number}`}
              shown={false}
              value={line.text}
              onSave={(text) => change(line, { text }, 'Guide changed.').then(refresh)}
              className={`written text-[14.5px] ${shown ? 'text-second line-through' : ''}`}
            />
          </div>
          <ActionMenu
            label={`More on: ${line.text}`}
            className="min-h-6 min-w-6 text-second hover:text-blue"
            actions={[
              { key: 'up', label: 'One place up', disabled: at === 0, onChoose: () => place(lines[at - 1]) },
              {
                key: 'down',
                label: 'One place down',
                disabled: at === lines.length - 1,
                onChoose: () => place(lines[at + 2]),
              },
              ...(Object.keys(named) as Every[])
                .filter((every) => every !== line.every)
                .map((every) => ({
                  key: every,
                  label: named[every],
                  onChoose: () => void change(line, { every }, `${named[every]} now.`).then(refresh, () => undefined),
                })),
              {
                key: 'away',
                label: 'Take it out',
                onChoose: () =>
                  void carryOut(
                    done(api.DELETE('/api/guide/{number}', { params: path(line) })),
                    'Taken out of the guide.',
                  ).then(refresh, () => undefined),
              },
            ]}
          >
            ⋯
          </ActionMenu>
        </>
      )}
    </li>
  );
}

/** What is gone through every day, week and month, to be ticked and changed. */
export function GuidePart() {
  const guide = useGuide();
  if (!guide) return null;
  return (
    <section aria-label="Guide">
      <h2 className="label border-b border-hair pb-1.5">Guide</h2>
      {guide.length === 0 && (
        <p className="py-2 text-[12.5px] text-second">
          What you go through every day, week or month. Ticks hold until the next one begins.
        </p>
      )}
      {(Object.keys(named) as Every[]).map((every) => {
        const lines = guide.filter((line) => line.every === every);
        const open = lines.filter((line) => !line.isDone).length;
        return (
          <div key={every} className="mt-3">
            <h3 className="flex items-baseline justify-between text-[12.5px] font-semibold">
              {named[every]}
              {lines.length > 0 && (
                <span className="figures font-normal text-second">{open === 0 ? 'all done' : `${open} to go`}</span>
              )}
            </h3>
            <ul>
              {lines.map((line) => (
                <GuideLine key={line.number} line={line} lines={lines} isOnDesk={false} />
              ))}
            </ul>
            <AddLine
              place={`guide.new.${every}`}
              label={`New line for ${named[every].toLowerCase()}`}
              placeholder={
                { day: 'read the gauge', week: 'look through what is held', month: 'back up, pay, thank' }[every]
              }
              press="Add"
              className="written text-[14px]"
              onAdd={async (text) => {
                await carryOut(done(api.POST('/api/guide', { body: { every, text } })), 'In the guide.', true);
                await refresh();
              }}
            />
          </div>
        );
      })}
    </section>
  );
}

/** What of the guide is still to go through, on the Desk. */
export function GuideOnDesk() {
  const guide = useGuide();
  if (!guide || guide.length === 0) return null;
  const open = guide.filter((line) => !line.isDone);
  return (
    <section aria-label="Guide" className="mb-7">
      <header className="flex items-baseline justify-between border-b border-hair pb-1.5">
        <h2 className="label">Guide</h2>
        <span className="figures text-[12px] text-second">
          {open.length === 0 ? 'all done' : `${open.length} of ${guide.length} to go`}
        </span>
      </header>
      <ul>
        {guide
          .filter((line) => !line.isDone || line.every === 'day')
          .map((line) => (
            <GuideLine key={line.number} line={line} lines={guide} isOnDesk />
          ))}
      </ul>
    </section>
  );
}
