import type { LibraryEntry, SeveralChange, SlipKind, ViewColumn } from '../api/client';
import { kindOf, numberOf, titleOf, wordsOf } from './entries';
import { FormatsField } from '../ui/FormatsField';
import { Mark } from '../ui/Mark';
import { Steps } from '../ui/Steps';
import { TopicField } from '../ui/TopicField';
import { TopicWords } from '../ui/TopicWord';
import { shortDay } from '../ui/dates';
import { plainly } from './copyAsTable';

const kinds: SlipKind[] = ['idea', 'quote', 'question', 'takeaway', 'note', 'ask'];

/** What stands in one cell of the table, and can be changed in it. */
export function TableCell({
  entry,
  column,
  isHere,
  isChosen,
  onChange,
}: {
  entry: LibraryEntry;
  column: ViewColumn;
  isHere: boolean;
  isChosen: boolean;
  onChange: (fields: Partial<SeveralChange>) => void;
}) {
  const { slip, source } = entry;
  switch (column) {
    case 'number':
      return (
        <span className="flex items-center gap-1.5">
          <span
            aria-hidden
            className={`h-[9px] w-[9px] shrink-0 border ${isChosen ? 'border-blue bg-blue' : 'border-hair'}`}
          />
          <span className="narrow figures text-[12px] text-faint">{numberOf(entry)}</span>
        </span>
      );
    case 'text':
      return (
        <span className="written block truncate text-[14px]" title={wordsOf(entry)}>
          {slip ? slip.title : <b className="font-semibold">{titleOf(entry)}</b>}
        </span>
      );
    case 'kind':
      return slip ? (
        <span className="flex items-center gap-1.5">
          <Mark kind={slip.kind} size={13} />
          <select
            tabIndex={-1}
            aria-label={`Kind of slip ${slip.number}`}
            value={slip.kind}
            onChange={(event) => onChange({ kind: event.target.value as SlipKind })}
            className="w-full appearance-none bg-transparent outline-none focus:underline"
          >
            {kinds.map((kind) => (
              <option key={kind}>{kind}</option>
            ))}
          </select>
        </span>
      ) : (
        <span className="flex items-center gap-1.5">
          <Mark kind={kindOf(entry)} size={13} /> {kindOf(entry)}
        </span>
      );
    case 'topics':
      return slip && isHere ? (
        <TopicField
          quiet
          topics={slip.topics}
          onChange={(names) =>
            onChange({
              topics: names.filter((name) => !slip.topics.some((topic) => topic.name === name)),
              withoutTopics: slip.topics.map((topic) => topic.name).filter((name) => !names.includes(name)),
            })
          }
        />
      ) : (
        <span className="block truncate">
          <TopicWords topics={slip?.topics ?? source?.topics ?? entry.piece?.topics ?? []} />
        </span>
      );
    case 'pull':
    case 'effort':
      return slip ? (
        <span tabIndex={-1}>
          <Steps
            label={`${column === 'pull' ? 'Pull' : 'Effort'} of slip ${slip.number}`}
            value={slip[column]}
            tabIndex={-1}
            onChange={(value) => onChange({ [column]: value })}
          />
        </span>
      ) : null;
    case 'format':
      return slip ? (
        <FormatsField
          tabIndex={-1}
          label={`What slip ${slip.number} would become`}
          value={slip.formats}
          onChange={(formats) => onChange({ formats })}
        />
      ) : (
        <span className="block truncate text-second">{plainly(entry, 'format')}</span>
      );
    case 'due':
    case 'out':
      return (
        <span className="whitespace-nowrap text-second">
          {plainly(entry, column) && shortDay(plainly(entry, column))}
        </span>
      );
    case 'worth':
    case 'words':
      return <span className="figures">{plainly(entry, column)}</span>;
    case 'caught':
      return <span className="whitespace-nowrap text-second">{shortDay(plainly(entry, 'caught'))}</span>;
    default:
      return <span className="block truncate text-second">{plainly(entry, column)}</span>;
  }
}
