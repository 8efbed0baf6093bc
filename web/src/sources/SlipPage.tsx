import { useQuery, useQueryClient } from '@tanstack/react-query';
import { heldFor } from '../ui/held';
import { caught } from '../ui/caught';
import { FormatsField } from '../ui/FormatsField';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask, done, type Decision, type SlipChange, type SlipKind } from '../api/client';
import { keys, openedSlip } from '../api/queries';
import { Attachments } from '../papers/Attachments';
import { carryOut } from '../papers/notices';
import { HoldDialog, IntoPieceDialog, MergeDialog } from '../sift/DecisionDialogs';
import { StartPiece } from '../bench/StartPiece';
import { UsableDialog } from '../bench/Usable';
import { ClaimPart } from '../sift/ClaimPart';
import { ActionMenu, type Action } from '../ui/ActionMenu';
import { Button } from '../ui/Button';
import { Mark } from '../ui/Mark';
import { Steps } from '../ui/Steps';
import { Failed, Loading } from '../ui/States';
import { TextField } from '../ui/TextField';
import { TopicField } from '../ui/TopicField';
import { MarkdownText } from '../ui/MarkdownText';
import { shortDay } from '../ui/dates';
import { BackToList } from './BackToList';
import { SplitDialog } from './SplitDialog';
import { History, LinkedFrom, LinksOut } from './Connections';
import { Unlinked } from './Unlinked';

const kinds: SlipKind[] = ['idea', 'quote', 'question', 'takeaway', 'note', 'ask'];

/** How a slip stands in a piece. */
const ways = { loose: 'loose material', placed: 'placed in a section', text: 'in its text' } as const;

/** The number in "61" or "source 61"; none in an empty field. */
function numberIn(typed: string): number | null {
  const digits = /^\s*(?:source\s*)?(\d{1,9})\s*$/i.exec(typed)?.[1];
  if (digits === undefined && typed.trim() !== '') throw new Error('A source is given by its number, such as 61.');
  return digits === undefined ? null : Number(digits);
}

/** One slip, to read and to change. */
export function SlipPage({ number }: { number: number }) {
  const client = useQueryClient();
  const [dialog, setDialog] = useState<'hold' | 'piece' | 'merge' | 'split' | 'usable' | 'start' | null>(null);
  const path = { number: String(number) };
  const opened = useQuery(openedSlip(number));
  const advice = useQuery({
    queryKey: keys.advice(number),
    queryFn: () => ask(api.GET('/api/slips/{number}/advice', { params: { path } })),
    enabled: dialog !== null,
  }).data;
  if (opened.error) return <Failed error={opened.error} onRetry={() => void opened.refetch()} />;
  if (!opened.data) return <Loading />;
  const { slip, html } = opened.data;
  const refresh = () => client.invalidateQueries();

  const change = async (fields: SlipChange) => {
    await carryOut(
      done(api.PATCH('/api/slips/{number}', { params: { path }, body: { ...fields, version: slip.version } })),
      `Slip ${number} changed.`,
    );
    await refresh();
  };
  const changeOrSay = (fields: SlipChange) => void change(fields).catch(refresh);
  const decide = (decision: Decision, said: string) => {
    setDialog(null);
    return carryOut(done(api.POST('/api/slips/{number}/decision', { params: { path }, body: decision })), said).then(
      async (answer) => {
        await refresh();
        return answer;
      },
      () => undefined,
    );
  };
  const refine = () =>
    carryOut(
      done(api.PUT('/api/slips/{number}/claim', { params: { path }, body: { title: '' } })),
      'It is a claim now: say it in one line, and weigh what speaks for and against it.',
    ).then(refresh, refresh);
  const actions: Action[] = [
    ...(slip.state !== 'kept'
      ? [
          {
            key: 'keep',
            label: slip.state === 'dropped' ? 'Bring back, kept' : 'Keep',
            onChoose: () => void decide({ decision: 'keep' }, 'Kept.'),
          },
        ]
      : []),
    ...(slip.state !== 'waiting'
      ? [
          {
            key: 'wait',
            label: 'Back on the pile',
            onChoose: () => void decide({ decision: 'wait' }, 'Back on the pile.'),
          },
        ]
      : []),
    {
      key: 'start',
      label: 'Start a piece…',
      onChoose: () => setDialog('start'),
    },
    { key: 'put', label: 'Put into a piece…', onChoose: () => setDialog('piece') },
    { key: 'hold', label: 'Hold…', onChoose: () => setDialog('hold') },
    ...(slip.mergedInto === null
      ? [
          { key: 'merge', label: 'Merge into another slip…', onChoose: () => setDialog('merge') },
          { key: 'split', label: 'Split it…', onChoose: () => setDialog('split') },
          { key: 'claim', label: 'Refine it into a claim', onChoose: () => void refine() },
          { key: 'usable', label: 'Usable by itself…', onChoose: () => setDialog('usable') },
        ]
      : []),
    ...(slip.state !== 'dropped'
      ? [{ key: 'drop', label: 'Drop', onChoose: () => void decide({ decision: 'drop' }, 'Dropped.') }]
      : []),
  ];

  return (
    <article className="mx-auto max-w-[720px] px-9 py-7 max-md:px-4" aria-label={`Slip ${number}`}>
      <BackToList />
      <header className="flex items-center gap-4 text-[12.5px] text-second">
        <ActionMenu
          label={`Kind: ${slip.kind}`}
          className="flex items-center gap-1.5 hover:text-blue"
          actions={kinds.map((kind) => ({
            key: kind,
            label: (
              <span className="flex items-center gap-2">
                <Mark kind={kind} size={14} /> {kind}
              </span>
            ),
            onChoose: () => changeOrSay({ kind }),
          }))}
        >
          <Mark kind={slip.kind} size={15} /> {slip.kind}
        </ActionMenu>
        <span>slip {number}</span>
        <span>{caught(slip)}</span>
        <span className="font-semibold text-ink">
          {slip.state === 'held' ? heldFor(slip) : slip.mergedInto ? 'merged into ' : slip.state}
          {slip.mergedInto && (
            <Link className="link" to={`/library/slip/${slip.mergedInto}`}>
              slip {slip.mergedInto}
            </Link>
          )}
          {slip.used && ', used'}
        </span>
        <span className="ml-auto">
          <ActionMenu label="Decide" actions={actions}>
            Decide ▾
          </ActionMenu>
        </span>
      </header>
      <div className="mt-4">
        <MarkdownText label="Text" text={slip.text} html={html} large onSave={(text) => change({ text })} />
      </div>
      <div className="mt-5 grid grid-cols-[7rem_7rem_1fr] items-end gap-x-6">
        <TextField
          label="Source"
          value={slip.source === null ? '' : String(slip.source)}
          placeholder="its number"
          onSave={(typed) => change({ source: numberIn(typed) })}
          className="text-[13.5px]"
        />
        <TextField
          label="Where in it"
          value={slip.locator}
          placeholder="p. 31"
          onSave={(locator) => change({ locator })}
          className="text-[13.5px]"
        />
        {slip.source !== null && (
          <Link className="link truncate py-px text-[13.5px]" to={`/library/source/${slip.source}`}>
            {opened.data.sourceTitle}
          </Link>
        )}
        {opened.data.place && (
          <a
            href={opened.data.place}
            target="_blank"
            rel="noopener noreferrer"
            className="link col-start-3 text-[12.5px]"
          >
            open the very place
          </a>
        )}
      </div>
      <div className="mt-7 grid grid-cols-[1fr_auto_auto_7rem] gap-x-7 gap-y-3 max-md:grid-cols-2">
        <div>
          <h2 className="label text-second">Topics</h2>
          <TopicField topics={slip.topics} onChange={(topics) => changeOrSay({ topics })} />
        </div>
        <div>
          <h2 className="label text-second">Pull</h2>
          <Steps label="Pull" value={slip.pull} onChange={(pull) => changeOrSay({ pull })} />
        </div>
        <div>
          <h2 className="label text-second">Effort</h2>
          <Steps label="Effort" value={slip.effort} onChange={(effort) => changeOrSay({ effort })} />
        </div>
        <div>
          <h2 className="label text-second">As</h2>
          <FormatsField value={slip.formats} onChange={(formats) => changeOrSay({ formats })} />
        </div>
      </div>
      {opened.data.pieces.length > 0 && (
        <section className="mt-7" aria-label="Stands in">
          <h2 className="label border-b border-hair pb-1 text-second">Stands in</h2>
          {opened.data.pieces.map((line) => (
            <p key={line.piece} className="flex items-baseline justify-between gap-4 border-b border-rule py-1.5">
              <Link to={`/bench/${line.piece}`} className="written text-[14.5px] hover:text-blue">
                {line.title}
              </Link>
              <span className="text-right text-second">
                P {line.piece} · {ways[line.way]} ·{' '}
                {line.outOn ? (
                  <b className="font-semibold text-done">out {shortDay(line.outOn)}</b>
                ) : (
                  line.stage.toLowerCase()
                )}
              </span>
            </p>
          ))}
        </section>
      )}
      <ClaimPart slip={number} />
      <Attachments kind="slip" number={number} />
      <LinksOut links={opened.data.linksOut} />
      <LinkedFrom lines={opened.data.linkedFrom} />
      <Unlinked kind="slip" number={number} />
      <History lines={opened.data.history} />
      {slip.state === 'dropped' && !slip.mergedInto && (
        <Button className="mt-6" onClick={() => void decide({ decision: 'wait' }, 'Back on the pile.')}>
          Bring back to the pile
        </Button>
      )}
      <HoldDialog
        open={dialog === 'hold'}
        onClose={() => setDialog(null)}
        onHold={(hold, said) => void decide(hold, said)}
      />
      <StartPiece open={dialog === 'start'} onClose={() => setDialog(null)} from={{ slips: [number] }} />
      {dialog === 'usable' && <UsableDialog kind="slip" number={number} onClose={() => setDialog(null)} />}
      {dialog === 'split' && (
        <SplitDialog
          text={slip.text}
          onClose={() => setDialog(null)}
          onSplit={(parts) => {
            setDialog(null);
            void carryOut(
              done(api.POST('/api/slips/{number}/split', { params: { path }, body: { version: slip.version, parts } })),
              (made) => `Split into slips ${made.map((s) => s.number).join(', ')}.`,
            ).then(refresh, refresh);
          }}
        />
      )}
      <MergeDialog
        open={dialog === 'merge'}
        slip={number}
        near={advice?.readsLike ?? []}
        onClose={() => setDialog(null)}
        onMerge={(into) => void decide({ decision: 'merge', slip: into }, `Merged into slip ${into}.`)}
      />
      <IntoPieceDialog
        open={dialog === 'piece'}
        fits={advice?.wouldFit ?? []}
        onClose={() => setDialog(null)}
        onPut={(piece) => void decide({ decision: 'put', piece }, `Put into P ${piece}.`)}
      />
    </article>
  );
}
