import { useState, type ReactNode } from 'react';
import { api, done, type Decision, type SeveralChange, type SlipKind } from '../api/client';
import { usePieces } from '../api/queries';
import { carryOut } from '../papers/notices';
import { StartPiece } from '../bench/StartPiece';
import { HoldDialog, IntoPieceDialog, MergeDialog } from '../sift/DecisionDialogs';
import { ActionMenu } from '../ui/ActionMenu';
import { Mark } from '../ui/Mark';
import { TopicField } from '../ui/TopicField';
import { changeSeveral, type Chosen } from './chosen';

const kinds: SlipKind[] = ['idea', 'quote', 'question', 'takeaway', 'note', 'ask'];
export const menu = 'link text-[12.5px] font-semibold whitespace-nowrap';

/** What can be done with all that is chosen at once; beside it, what can be done with the whole list. */
export function SeveralBar({ chosen, onAll, children }: { chosen: Chosen; onAll: () => void; children?: ReactNode }) {
  const { slips } = chosen;
  const total = chosen.entries.length;
  const onClear = chosen.none;
  const onChange = (fields: Partial<SeveralChange>) => changeSeveral(slips, fields);
  const [dialog, setDialog] = useState<'hold' | 'merge' | 'piece' | 'start' | null>(null);
  const pieces = usePieces().data ?? [];
  const decide = (decision: Decision) => {
    setDialog(null);
    void onChange({ decision }).then(onClear);
  };
  return (
    <div
      className="flex min-h-[38px] flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule px-5 py-1"
      role="toolbar"
      aria-label="Several at once"
    >
      {total === 0 ? (
        <>
          <span className="text-second">Space or a click on the number chooses; Shift chooses a range.</span>
          <button type="button" className={`${menu} ml-auto`} onClick={onAll}>
            choose all
          </button>
        </>
      ) : (
        <>
          <b className="figures whitespace-nowrap">{total} chosen</b>
          {slips.length > 0 && (
            <>
              <TopicField
                quiet
                label="Topic for all chosen"
                topics={[]}
                onChange={(topics) => void onChange({ topics })}
              />
              <ActionMenu
                label="Kind of all chosen"
                className={menu}
                actions={kinds.map((kind) => ({
                  key: kind,
                  label: (
                    <span className="flex items-center gap-2">
                      <Mark kind={kind} size={14} /> {kind}
                    </span>
                  ),
                  onChoose: () => void onChange({ kind }),
                }))}
              >
                kind ▾
              </ActionMenu>
              <Step name="pull" onChange={(pull) => void onChange({ pull })} />
              <Step name="effort" onChange={(effort) => void onChange({ effort })} />
              <ActionMenu
                label="Decide about all chosen"
                className={menu}
                actions={[
                  { key: 'keep', label: 'Keep', onChoose: () => decide({ decision: 'keep' }) },
                  {
                    key: 'start',
                    label: 'Start one piece from them…',
                    onChoose: () => setDialog('start'),
                  },
                  {
                    key: 'put',
                    label: 'Put into a piece…',
                    disabled: !pieces.some((piece) => piece.outOn === null),
                    onChoose: () => setDialog('piece'),
                  },
                  { key: 'hold', label: 'Hold…', onChoose: () => setDialog('hold') },
                  {
                    key: 'join',
                    label: 'Join into the first',
                    disabled: slips.length < 2,
                    onChoose: () =>
                      void carryOut(
                        done(api.POST('/api/slips/join', { body: { slips } })),
                        (slip) => `Joined into slip ${slip.number}.`,
                      )
                        .then(onClear)
                        .catch(() => undefined),
                  },
                  { key: 'merge', label: 'Merge into another slip…', onChoose: () => setDialog('merge') },
                  { key: 'wait', label: 'Put back on the pile', onChoose: () => decide({ decision: 'wait' }) },
                  { key: 'drop', label: 'Drop', onChoose: () => decide({ decision: 'drop' }) },
                ]}
              >
                decide ▾
              </ActionMenu>
            </>
          )}
          <button type="button" aria-label="Choose none" className={`${menu} ml-auto`} onClick={onClear}>
            none
          </button>
        </>
      )}
      {children}
      <StartPiece open={dialog === 'start'} onClose={() => setDialog(null)} from={{ slips: slips.slice(0, 100) }} />
      <HoldDialog open={dialog === 'hold'} onClose={() => setDialog(null)} onHold={(hold) => decide(hold)} />
      <MergeDialog
        open={dialog === 'merge'}
        slip={0}
        near={[]}
        onClose={() => setDialog(null)}
        onMerge={(slip) => decide({ decision: 'merge', slip })}
      />
      <IntoPieceDialog
        open={dialog === 'piece'}
        fits={[]}
        onClose={() => setDialog(null)}
        onPut={(piece) => decide({ decision: 'put', piece })}
      />
    </div>
  );
}

function Step({ name, onChange }: { name: string; onChange: (value: number | null) => void }) {
  return (
    <ActionMenu
      label={`${name} of all chosen`}
      className={menu}
      actions={[5, 4, 3, 2, 1, 0].map((value) => ({
        key: String(value),
        label: value === 0 ? 'not set' : String(value),
        onChoose: () => onChange(value || null),
      }))}
    >
      {name} ▾
    </ActionMenu>
  );
}
