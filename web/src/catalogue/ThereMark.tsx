import { useState } from 'react';
import { Link } from 'react-router';
import { api, done } from '../api/client';
import { queryClient } from '../api/queries';
import { StartPiece } from '../bench/StartPiece';
import { carryOut } from '../papers/notices';
import { ActionMenu, type Action } from '../ui/ActionMenu';
import type { Outlet, Row, There } from './catalogue';
import { NoteRelease } from './NoteRelease';
import { SendDialog } from './queue/SendDialog';
import { useConnections } from './queue/queue';

const look: Record<There['state'], string> = {
  out: 'bg-done border-done',
  could: 'border-blue',
  inAnotherForm: 'border-faint/75 border-dashed',
  never: '',
};

/** The sign by which it is seen whether a piece is at an outlet. */
export function Sign({ state }: { state: There['state'] }) {
  return state === 'never' ? (
    <span aria-hidden className="inline-block w-[9px] text-center text-[11px] leading-none text-second">
      –
    </span>
  ) : (
    <span aria-hidden className={`inline-block h-[9px] w-[9px] border-[1.5px] ${look[state]}`} />
  );
}

/** How a piece stands to an outlet, with the next thing to do about it. */
export function ThereMark({ row, there, outlet }: { row: Row; there: There; outlet: Outlet }) {
  const [noting, setNoting] = useState(false);
  const [starting, setStarting] = useState(false);
  const [sending, setSending] = useState(false);
  const isReached = useConnections().some((one) => one.outlet === outlet.number);
  if (there.state === 'out')
    return (
      <Link
        to={`/catalogue/${there.release}`}
        aria-label={`Out on ${outlet.name}: R ${there.release}`}
        title={`Out on ${outlet.name}`}
        className="inline-flex h-6 min-w-6 items-center justify-center"
      >
        <Sign state="out" />
      </Link>
    );
  const never = (is: boolean) =>
    void carryOut(
      done(
        api.PUT('/api/pieces/{number}/never/{outlet}', {
          params: { path: { number: String(row.piece), outlet: String(outlet.number) } },
          body: { never: is },
        }),
      ),
      is ? `“${row.title}” is never to go to ${outlet.name}.` : `“${row.title}” may go to ${outlet.name} again.`,
    )
      .then(() => queryClient.invalidateQueries())
      .catch(() => undefined);
  const actions: Action[] = [
    ...(there.state === 'inAnotherForm'
      ? [
          {
            key: 'begin',
            label: 'Begin a piece for it from this one',
            onChoose: () => setStarting(true),
          },
        ]
      : []),
    ...(there.state === 'could' && isReached
      ? [{ key: 'send', label: 'Send it', onChoose: () => setSending(true) }]
      : []),
    { key: 'note', label: 'It is out there: note it', onChoose: () => setNoting(true) },
    there.state === 'never'
      ? { key: 'may', label: 'It may go there after all', onChoose: () => never(false) }
      : { key: 'never', label: 'Never there', onChoose: () => never(true) },
  ];
  const said =
    there.state === 'could'
      ? `Could go to ${outlet.name} too${there.over > 0 ? `, ${there.over.toLocaleString('en')} over its limit` : ''}`
      : there.state === 'never'
        ? `Not meant for ${outlet.name}`
        : `Could go to ${outlet.name} in another form`;
  return (
    <>
      <ActionMenu
        label={`${said}: “${row.title}”`}
        actions={actions}
        className="inline-flex h-6 min-w-6 items-center justify-center hover:bg-wash"
      >
        <span title={said} className="inline-flex">
          <Sign state={there.state} />
        </span>
      </ActionMenu>
      {sending && (
        <SendDialog
          piece={row.piece}
          title={row.title}
          format={row.format}
          outlet={outlet.number}
          onClose={() => setSending(false)}
        />
      )}
      {starting && (
        <StartPiece
          open
          onClose={() => setStarting(false)}
          from={{ piece: row.piece, format: outlet.formats[0], outlet: outlet.number }}
        />
      )}
      {noting && (
        <NoteRelease piece={row.piece} title={row.title} outlet={outlet.number} onClose={() => setNoting(false)} />
      )}
    </>
  );
}
