import { useQuery } from '@tanstack/react-query';
import { api, ask } from '../api/client';
import { keys } from '../api/queries';
import { AddLine } from '../ui/AddLine';
import { TextField } from '../ui/TextField';
import { TopicField } from '../ui/TopicField';
import { TopicWord } from '../ui/TopicWord';
import type { Release } from './catalogue';
import type { ReleaseEdit } from './ReleasePage';

type Spoken = Release['speaksOf'][number];

/** What a release speaks of, one thing a row, typed or offered; the line that announces it is made of it. */
export function SpeaksOf({
  release,
  onEdit,
}: {
  release: Release;
  onEdit: (edit: ReleaseEdit, said?: string) => Promise<void>;
}) {
  const offered =
    useQuery({
      queryKey: keys.spokenOffers(release.number),
      queryFn: () =>
        ask(api.GET('/api/releases/{number}/offered', { params: { path: { number: String(release.number) } } })),
    }).data ?? [];
  const rows = release.speaksOf;
  const typed = (one: Spoken) => ({ topic: one.topic?.name ?? '', words: one.words });
  const put = (next: { topic: string; words: string }[], said?: string) => onEdit({ speaksOf: next }, said);
  const change = (at: number, to: Partial<{ topic: string; words: string }>) =>
    put(rows.map((one, i) => (i === at ? { ...typed(one), ...to } : typed(one))));
  return (
    <section aria-label="What it speaks of" className="mt-6">
      <h2 className="label border-b border-hair pb-1.5">What it speaks of</h2>
      {rows.length > 0 && (
        <ul>
          {rows.map((one, at) => (
            <li key={`${at} ${one.topic?.number ?? ''} ${one.words}`} className="border-b border-rule py-1.5">
              <div className="flex items-baseline gap-2">
                <span className="min-w-0 flex-1">
                  <TextField
                    label={`Words ${at + 1}`}
                    shown={false}
                    place={`release.${release.number}.spoken.${at}.${one.words}`}
                    value={one.words}
                    placeholder={one.topic ? 'what of it' : ''}
                    className="written text-[15px]"
                    onSave={(words) => change(at, { words })}
                  />
                </span>
                <button
                  type="button"
                  className="min-h-6 text-[12px] text-second hover:text-red"
                  onClick={() =>
                    void put(rows.filter((_, i) => i !== at).map(typed), 'Took it away.').catch(() => undefined)
                  }
                >
                  take away
                </button>
              </div>
              <TopicField
                quiet
                label={`Topic ${at + 1}`}
                topics={one.topic ? [one.topic] : []}
                onChange={(names) => void change(at, { topic: names.at(-1) ?? '' }).catch(() => undefined)}
              />
            </li>
          ))}
        </ul>
      )}
      <AddLine
        place={`release.${release.number}.speaks-of`}
        label="It speaks of"
        placeholder="Something it speaks of …"
        press="Add"
        className="written text-[15px]"
        onAdd={(words) => put([...rows.map(typed), { topic: '', words }])}
      />
      {offered.length > 0 && (
        <div className="mt-2">
          <p className="text-[12.5px] text-second">Offered from its headings and topics:</p>
          <ul className="mt-1 flex flex-wrap gap-x-4 gap-y-0.5">
            {offered.map((one) => (
              <li key={`${one.topic?.number ?? ''} ${one.words}`}>
                <button
                  type="button"
                  className="link inline-flex min-h-6 items-baseline gap-1.5 text-left text-[13px]"
                  onClick={() => void put([...rows.map(typed), typed(one)]).catch(() => undefined)}
                >
                  {one.words}
                  {one.topic && <TopicWord topic={one.topic} />}
                </button>
              </li>
            ))}
          </ul>
          <button
            type="button"
            className="link mt-1 min-h-6 text-[12.5px] font-semibold"
            onClick={() => void put([...rows, ...offered].map(typed), 'Took all of them.').catch(() => undefined)}
          >
            take all {offered.length}
          </button>
        </div>
      )}
    </section>
  );
}
