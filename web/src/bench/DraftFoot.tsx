import { useEffect, useState } from 'react';
import { api, ask, type Counts, type Section } from '../api/client';
import { KeyOf } from '../ui/KeyOf';
import { minutes } from '../ui/dates';

/** The counts of selection, section and text. */
export function DraftFoot({
  draft,
  section,
  selected,
  onLift,
}: {
  draft: Counts;
  section: Section | undefined;
  selected: string;
  onLift: () => void;
}) {
  const counted = useSelectionCounts(selected);
  return (
    <footer className="figures flex items-end gap-4 border-t border-hair px-6 py-1.5 text-[12px] text-second">
      <dl className="grid grid-cols-[auto_auto_auto_auto_auto] gap-x-4 gap-y-px">
        {counted ? (
          <CountLine name="selection" counts={counted} />
        ) : (
          section && <CountLine name="section" counts={section.counts} aim={section.aim} />
        )}
        <CountLine name="text" counts={draft} />
      </dl>
      <button
        type="button"
        className="link ml-auto flex items-center gap-2 whitespace-nowrap max-lg:hidden"
        title={selected ? 'The selected words become a slip' : 'The paragraph the cursor is in becomes a slip'}
        onMouseDown={(event) => event.preventDefault()}
        onClick={onLift}
      >
        lift out as a slip <KeyOf act="bench.lift" />
      </button>
    </footer>
  );
}

/** Words, characters and both reading times of one stretch of text. */
function CountLine({ name, counts, aim }: { name: string; counts: Counts; aim?: number | null }) {
  return (
    <div className="contents">
      <dt>{name}</dt>
      <dd className="text-right">
        <b className="font-semibold text-ink">{counts.words.toLocaleString('en')}</b>
        {aim ? ` of ${aim.toLocaleString('en')}` : ''} words
      </dd>
      <dd className="text-right">{counts.characters.toLocaleString('en')} characters</dd>
      <dd title="Read silently at 238 words a minute (Brysbaert 2019)">reads {minutes(counts.silentSeconds)}</dd>
      <dd title="Read aloud at 183 words a minute (Brysbaert 2019)">aloud {minutes(counts.aloudSeconds)}</dd>
    </div>
  );
}

function useSelectionCounts(selected: string): Counts | undefined {
  const [counted, setCounted] = useState<{ text: string; counts: Counts }>();
  useEffect(() => {
    if (!selected) return;
    const timer = setTimeout(() => {
      ask(api.POST('/api/counts', { body: { text: selected, asDraft: true } }))
        .then((counts) => setCounted({ text: selected, counts }))
        .catch(() => undefined);
    }, 120);
    return () => clearTimeout(timer);
  }, [selected]);
  return selected && counted?.text === selected ? counted.counts : undefined;
}
