import type { ReadAnswer, SlipKind } from '../api/client';
import { ActionMenu } from '../ui/ActionMenu';
import { Mark } from '../ui/Mark';
import { nearDay } from '../ui/dates';

/** What the writer says of a line instead of its reading; null leaves a point to the reading. */
export type Said = {
  move: boolean | null;
  kind: SlipKind | null;
  source: boolean | null;
  /** Tags that were read as topics and are none. */
  notTopics: string[];
};

export const asRead: Said = { move: null, kind: null, source: null, notTopics: [] };

const kinds: SlipKind[] = ['idea', 'quote', 'question', 'takeaway', 'note', 'ask'];
const point = 'text-[12px] text-manila-ink hover:text-ink';

/** How a line is read while it is typed; every point of it is a button that overrules it. */
export function ReadAs({
  reading,
  said,
  onSay,
}: {
  reading: ReadAnswer['reading'];
  said: Said;
  onSay: (said: Said) => void;
}) {
  const isMove = said.move ?? (said.kind === null && reading.becomes === 'move');
  const kind = said.kind ?? reading.kind;
  return (
    <span className="flex items-center gap-2.5">
      {reading.topics.map((topic) => {
        const left = said.notTopics.includes(topic);
        return (
          <button
            key={topic}
            type="button"
            aria-pressed={!left}
            aria-label={`Topic ${topic}`}
            title={left ? 'Not a topic; click to make it one' : 'A topic; click if it is none'}
            onClick={() =>
              onSay({
                ...said,
                notTopics: left ? said.notTopics.filter((name) => name !== topic) : [...said.notTopics, topic],
              })
            }
            className={`narrow border-b-2 ${point} ${left ? 'border-transparent line-through' : 'border-manila-edge'}`}
          >
            {topic}
          </button>
        );
      })}
      {reading.address && !isMove && (
        <button
          type="button"
          aria-pressed={said.source !== false}
          title="Whether the address becomes a source of its own"
          onClick={() => onSay({ ...said, source: said.source === false ? null : false })}
          className={point}
        >
          {said.source === false ? 'no source' : 'with its source'}
        </button>
      )}
      {isMove && reading.date && <span className="text-[12px] text-manila-ink">{nearDay(reading.date)}</span>}
      <ActionMenu
        label="What it becomes"
        className="flex items-center gap-1.5 rounded-key border border-manila-edge px-2 py-1 text-[12.5px] font-semibold text-manila-ink"
        actions={[
          ...kinds.map((one) => ({
            key: one,
            label: (
              <span className="flex items-center gap-2">
                <Mark kind={one} size={13} /> {one}
              </span>
            ),
            onChoose: () => onSay({ ...said, move: false, kind: one }),
          })),
          {
            key: 'move',
            label: 'a move, not a slip',
            onChoose: () => onSay({ ...said, move: true, kind: null }),
          },
          { key: 'read', label: 'as it reads', onChoose: () => onSay(asRead) },
        ]}
      >
        {isMove ? (
          'move'
        ) : (
          <>
            <Mark kind={kind} size={13} /> {kind}
          </>
        )}
      </ActionMenu>
    </span>
  );
}
