import { Link } from 'react-router';
import type { Slip } from '../api/client';
import { StepsShown } from '../ui/Steps';
import { TopicWords } from '../ui/TopicWord';
import { clock } from '../ui/dates';

/** A slip on a day's sheet, with its time in the margin. */
export function SlipLine({ slip, note }: { slip: Slip; note?: string }) {
  const waits = slip.state === 'waiting';
  return (
    <div className="flex items-baseline gap-4 py-[7px] shadow-[inset_0_-1px_var(--rule)]">
      <time className="narrow figures -ml-[78px] w-[46px] shrink-0 text-right text-[11.5px] text-faint mr-4 max-md:mr-0.5 max-md:-ml-[62px] max-md:w-[44px]">
        {clock(slip.caughtAt)}
      </time>
      <Link
        to={waits ? `/sift/${slip.number}` : `/library/slip/${slip.number}`}
        className="written min-w-0 flex-1 text-[16px] leading-snug hover:text-blue"
      >
        <span className="line-clamp-2">{slip.title || slip.text}</span>
      </Link>
      <TopicWords topics={slip.topics} linked />
      <StepsShown label="Pull" value={slip.pull} />
      <span className="narrow w-16 text-right text-[12px] text-second max-md:w-auto">
        {note ?? (waits ? 'waits' : slip.used ? 'used' : slip.state)}
      </span>
    </div>
  );
}
