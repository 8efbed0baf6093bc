import { memo } from 'react';
import { Link } from 'react-router';
import { shortDay } from '../ui/dates';
import { carry } from './Carry';
import { hours, keyOf, type PlanEntry } from './planning';
import type { Look } from './Weeks';

const formatNote = (entry: PlanEntry) => [entry.format, entry.stage].filter(Boolean).join(' · ');

/** The words of one thing on the plan, for whoever does not see where it stands. */
export function entrySaid(entry: PlanEntry): string {
  switch (entry.kind) {
    case 'due':
      return `P ${entry.piece} ${entry.title}, ${formatNote(entry)}, to go out`;
    case 'out':
      return `P ${entry.piece} ${entry.title}, went out`;
    case 'stage':
      return `${entry.stage} of P ${entry.piece} ${entry.title} done${entry.isSet ? ', set by hand' : ''}`;
    case 'open':
      return `Open date: ${entry.title}${entry.insteadOf ? `, again for ${shortDay(entry.insteadOf)}` : ''}`;
    case 'missed':
      return `Missed: ${entry.title}`;
    case 'move':
      return `Move: ${entry.title}`;
    default:
      return entry.title;
  }
}

/** One thing on a day. What can be carried is a link that Space picks up and Enter follows. */
export const EntryCard = memo(function EntryCard({
  entry,
  isFirst,
  look,
}: {
  entry: PlanEntry;
  isFirst: boolean;
  look: Look;
}) {
  const colour = entry.outlet === null ? 'var(--hair)' : `var(--${look.outlets.get(entry.outlet)?.colour ?? 'hair'})`;
  if (look.span === 'year') return <YearMark entry={entry} colour={colour} isFirst={isFirst} />;
  const held = {
    ...(entry.kind === 'out' ? { draggable: false } : carry({ kind: 'entry', entry })),
    'data-entry': keyOf(entry),
  };
  const isRow = look.span === 'quarter';
  switch (entry.kind) {
    case 'away':
      return isFirst ? <span className="block truncate px-1 text-[11px] text-second italic">{entry.title}</span> : null;
    case 'occasion':
      return (
        <span
          title={entry.title}
          className="mb-1 block min-h-[20px] truncate bg-[color-mix(in_srgb,var(--manila-edge)_55%,var(--sheet))] px-1.5 py-0.5 text-[11px] text-ink"
        >
          {isFirst ? entry.title : ' '}
        </span>
      );
    case 'missed':
      return (
        <span
          title={`No ${entry.title} went out on this date`}
          className="mb-1 block truncate px-1.5 text-[11px] text-faint line-through"
        >
          {entry.title}
        </span>
      );
    case 'open':
      return (
        <button
          {...held}
          type="button"
          aria-haspopup="dialog"
          onClick={() => look.act(entry)}
          className="mb-1 block w-full cursor-grab truncate border border-dashed border-second px-1.5 py-1 text-left text-[12px] text-second hover:border-blue hover:text-blue"
        >
          open: {entry.title}
          {entry.insteadOf && (
            <span className="block truncate text-[11px]">again, for {shortDay(entry.insteadOf)}</span>
          )}
        </button>
      );
    case 'stage':
      return (
        <Link
          {...held}
          to={`/bench/${entry.piece}`}
          title={`${entry.stage} of ${entry.title} done by this day${entry.begins && entry.begins !== entry.day ? `, begun by ${shortDay(entry.begins)}` : ''}`}
          className="flex min-h-6 cursor-grab items-center gap-1 text-[11px] leading-tight text-second hover:text-blue"
        >
          <span aria-hidden className="h-3 w-[3px] shrink-0" style={{ background: colour }} />
          <span className="min-w-0 truncate">
            <b className="font-semibold text-ink">{entry.stage}</b>
            <span className="sr-only">
              {' '}
              done{entry.isSet ? ', set by hand,' : ''} of P {entry.piece}
            </span>
            {entry.isSet && '·'} {entry.title}
          </span>
        </Link>
      );
    case 'move':
      return (
        <Link
          {...held}
          to={entry.piece === null ? `/desk/${entry.day}` : `/bench/${entry.piece}`}
          title={entry.title}
          className="flex min-h-6 cursor-grab items-center gap-1.5 text-[11px] leading-tight text-second hover:text-blue"
        >
          <span aria-hidden className="h-[9px] w-[9px] shrink-0 border border-second" />
          <span className="sr-only">Move: </span>
          <span className="min-w-0 truncate">{entry.title}</span>
        </Link>
      );
    default:
      return (
        <Link
          {...held}
          to={`/bench/${entry.piece}`}
          title={entry.title}
          className={`mb-1 block border border-hair border-l-[4px] px-2 py-1 hover:border-second ${entry.kind === 'out' ? 'bg-quiet' : 'cursor-grab bg-sheet'}`}
          style={{ borderLeftColor: colour }}
        >
          <span className="sr-only">P {entry.piece}: </span>
          <span className={`written block text-[13.5px] leading-[17px] ${isRow ? 'truncate' : 'line-clamp-3'}`}>
            {entry.title}
          </span>
          {!isRow && !look.hidden.has('notes') && (
            <span className="block truncate text-[11px] text-second">
              {entry.kind === 'out' ? `${entry.format} · out` : formatNote(entry)}
            </span>
          )}
          {entry.missing !== null && (
            <span className="block text-[11px] font-semibold text-red">
              lacks {hours(entry.missing)} h{entry.readyOn && !isRow ? `; ready ${shortDay(entry.readyOn)}` : ''}
            </span>
          )}
        </Link>
      );
  }
});

/** A year shows where things stand; what they are is said on pointing. */
function YearMark({ entry, colour, isFirst }: { entry: PlanEntry; colour: string; isFirst: boolean }) {
  if (entry.kind === 'stage' || entry.kind === 'move' || entry.kind === 'away') return null;
  if (entry.kind === 'occasion')
    return isFirst ? (
      <span
        title={entry.title}
        className="block h-2 w-full bg-[color-mix(in_srgb,var(--manila-edge)_55%,var(--sheet))]"
      >
        <span className="sr-only">{entry.title}</span>
      </span>
    ) : null;
  if (entry.kind === 'open' || entry.kind === 'missed')
    return (
      <span
        title={entrySaid(entry)}
        className={`h-4 w-4 border border-dashed ${entry.kind === 'open' ? 'border-second' : 'border-hair'}`}
      >
        <span className="sr-only">{entrySaid(entry)}</span>
      </span>
    );
  return (
    <Link
      to={`/bench/${entry.piece}`}
      aria-label={entrySaid(entry)}
      title={entry.title}
      className={`h-6 w-6 border-l-[4px] ${entry.missing !== null ? 'bg-red' : 'bg-board-deep'}`}
      style={{ borderLeftColor: colour }}
    />
  );
}
