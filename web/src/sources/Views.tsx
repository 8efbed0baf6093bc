import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { api, done, type SavedView } from '../api/client';
import { useTopics, useViews } from '../api/queries';
import { carryOut, complain } from '../papers/notices';
import { ActionMenu, type Action } from '../ui/ActionMenu';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { askedBy, asQuery, columnsOf, nothingAsked, type LibraryAsked } from './asked';
import { useHeld } from '../ui/useField';

/** The kept queries, and keeping the one that is asked now. */
export function Views({ asked, onAsk }: { asked: LibraryAsked; onAsk: (asked: LibraryAsked) => void }) {
  const views = useViews().data ?? [];
  const topics = useTopics().data ?? [];
  const navigate = useNavigate();
  const [keeping, setKeeping] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const current = views.find((view) => String(view.number) === asked.view);
  const query = asQuery(asked, (number) => topics.find((topic) => String(topic.number) === number)?.name);
  const laidOut = {
    query,
    layout: asked.as === 'table' ? ('table' as const) : ('list' as const),
    columns: asked.columns ? columnsOf(asked) : [],
    sort: asked.sort || null,
    upward: asked.upward === 'yes',
    grouped: asked.group || null,
  };
  const isChanged =
    current !== undefined && JSON.stringify(askedBy(current)) !== JSON.stringify({ ...asked, state: 'sight' });

  const change = (view: SavedView, fields: object, said: string) =>
    carryOut(
      done(
        api.PATCH('/api/views/{number}', {
          params: { path: { number: String(view.number) } },
          body: { ...fields, version: view.version },
        }),
      ),
      said,
    ).catch(() => undefined);
  const bringIn = async (chosen: File | undefined) => {
    if (!chosen) return;
    try {
      await carryOut(
        done(
          api.POST('/api/views/import', {
            body: await chosen.text(),
            bodySerializer: (text) => text,
            headers: { 'Content-Type': 'application/json' },
          }),
        ),
        (added) =>
          added.length ? `Brought in: ${added.map((v) => v.name).join(', ')}.` : 'All of them are here already.',
      );
    } catch {
      // Said already.
    }
  };

  const list: Action[] = [
    { key: 'none', label: <i>everything in sight</i>, onChoose: () => onAsk({ ...nothingAsked }) },
    ...views.map((view) => ({
      key: String(view.number),
      label: <span className={view === current ? 'font-semibold text-blue' : ''}>{view.name}</span>,
      note: view.onDesk ? 'on the Desk' : undefined,
      onChoose: () => onAsk(askedBy(view)),
    })),
  ];
  const more: Action[] = [
    { key: 'keep', label: 'Keep this as a view…', onChoose: () => setKeeping(true) },
    ...(current
      ? [
          {
            key: 'save',
            label: `Change “${current.name}” to this`,
            disabled: !isChanged,
            onChoose: () => void change(current, laidOut, `“${current.name}” asks this now.`),
          },
          {
            key: 'desk',
            label: current.onDesk ? 'Take off the Desk' : 'Show on the Desk',
            onChoose: () =>
              void change(
                current,
                { onDesk: !current.onDesk },
                current.onDesk ? 'Off the Desk.' : 'It stands on the Desk.',
              ),
          },
          {
            key: 'sift',
            label: 'Sift what waits in it',
            onChoose: () => void navigate(`/sift?view=${current.number}`),
          },
          {
            key: 'up',
            label: 'Move up in the list',
            disabled: views[0] === current,
            onChoose: () => void change(current, { position: views.indexOf(current) }, 'Moved up.'),
          },
          {
            key: 'down',
            label: 'Move down in the list',
            disabled: views.at(-1) === current,
            onChoose: () => void change(current, { position: views.indexOf(current) + 2 }, 'Moved down.'),
          },
          {
            key: 'away',
            label: 'Take this view away',
            onChoose: () =>
              void carryOut(
                done(api.DELETE('/api/views/{number}', { params: { path: { number: String(current.number) } } })),
                `“${current.name}” is taken away.`,
              )
                .then(() => onAsk({ ...nothingAsked }))
                .catch(() => undefined),
          },
        ]
      : []),
    { key: 'out', label: 'Save all views as a file', onChoose: () => void location.assign('/api/exports/views.json') },
    { key: 'in', label: 'Bring in a file of views…', onChoose: () => file.current?.click() },
  ];
  return (
    <div className="flex min-w-0 items-baseline gap-3">
      <ActionMenu
        label="Views"
        actions={list}
        className="written min-w-0 truncate text-left text-[18px] font-semibold hover:text-blue"
      >
        {current?.name ?? 'In sight'} <span className="text-[13px] text-second">▾</span>
      </ActionMenu>
      {isChanged && <span className="text-[12px] whitespace-nowrap text-second">changed</span>}
      <ActionMenu label="About this view" actions={more} className="link text-[12.5px] whitespace-nowrap">
        view ▾
      </ActionMenu>
      <input
        ref={file}
        type="file"
        accept=".json,application/json"
        aria-label="A file of views"
        className="hidden"
        onChange={(event) => {
          void bringIn(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
      {keeping && (
        <KeepDialog
          query={query}
          onClose={() => setKeeping(false)}
          onKeep={async (name, onDesk) => {
            const { answer, command } = await done(api.POST('/api/views', { body: { ...laidOut, name, onDesk } }));
            await carryOut(Promise.resolve({ answer, command }), `Kept as “${answer.name}”.`);
            setKeeping(false);
            onAsk(askedBy(answer));
          }}
        />
      )}
    </div>
  );
}

function KeepDialog({
  query,
  onClose,
  onKeep,
}: {
  query: string;
  onClose: () => void;
  onKeep: (name: string, onDesk: boolean) => Promise<void>;
}) {
  const [name, setName] = useHeld('view.new');
  const [onDesk, setOnDesk] = useState(false);
  const [wrong, setWrong] = useState('');
  return (
    <Dialog title="Keep as a view" open onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          onKeep(name, onDesk)
            .then(() => setName(''))
            .catch((error: unknown) => (error instanceof Error ? setWrong(error.message) : complain(error)));
        }}
      >
        <p className="mb-4 text-second">
          It asks: <span className="font-mono text-[12px] text-ink">{query || 'everything in sight'}</span>
        </p>
        <label className="block">
          <span className="label block text-second">Name</span>
          <input
            autoFocus
            value={name}
            maxLength={80}
            aria-invalid={wrong !== ''}
            onChange={(event) => {
              setName(event.target.value);
              setWrong('');
            }}
            className="written w-full border-b border-ink bg-transparent py-1 text-[16px] outline-none focus:border-blue"
          />
        </label>
        {wrong && (
          <p role="alert" className="mt-1 text-red">
            {wrong}
          </p>
        )}
        <label className="mt-4 flex items-center gap-2">
          <input type="checkbox" checked={onDesk} onChange={(event) => setOnDesk(event.target.checked)} />
          Show it on the Desk
        </label>
        <div className="mt-5 flex justify-end gap-3">
          <Button look="quiet" onClick={onClose}>
            Not now
          </Button>
          <Button type="submit" look="main" disabled={!name.trim()}>
            Keep
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
