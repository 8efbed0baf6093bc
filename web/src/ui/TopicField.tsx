import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react';
import { useState } from 'react';
import { useTopics } from '../api/queries';
import type { TopicMark } from '../api/client';
import { TopicWord } from './TopicWord';

/** Topics of a thing: completes known ones, makes new ones, takes the last away with Backspace. */
export function TopicField({
  topics,
  onChange,
  likely,
  label = 'Topics',
  id,
  quiet = false,
}: {
  topics: readonly TopicMark[];
  onChange: (names: string[]) => void;
  /** Offered first while nothing is typed; Tab takes the first. */
  likely?: readonly TopicMark[];
  label?: string;
  id?: string;
  /** Without its line until it is used. */
  quiet?: boolean;
}) {
  const [typed, setTyped] = useState('');
  const all = useTopics().data ?? [];
  const names = topics.map((topic) => topic.name);
  const query = typed.replace(/^#/, '').trim().toLowerCase();
  const has = (name: string) => names.some((n) => n.toLowerCase() === name.toLowerCase());
  const found = query
    ? all
        .filter(
          (topic) =>
            !has(topic.name) && [topic.name, ...topic.aliases].some((name) => name.toLowerCase().includes(query)),
        )
        .sort((a, b) => Number(b.name.toLowerCase().startsWith(query)) - Number(a.name.toLowerCase().startsWith(query)))
        .slice(0, 8)
    : (likely ?? []);
  const isKnown = all.some((topic) => [topic.name, ...topic.aliases].some((name) => name.toLowerCase() === query));
  const add = (name: string | null) => {
    if (name && !has(name)) onChange([...names, name]);
    setTyped('');
  };

  return (
    <Combobox immediate value={null} onChange={add}>
      <div className="relative">
        <div
          className={`flex flex-wrap items-center gap-x-2 gap-y-1 border-b pb-1 ${quiet ? 'border-transparent focus-within:border-blue hover:border-hair' : 'border-ink'}`}
        >
          {topics.map((topic) => (
            <button
              key={topic.number}
              type="button"
              title={`Take ${topic.name} away`}
              aria-label={`Take the topic ${topic.name} away`}
              onClick={() => onChange(names.filter((name) => name !== topic.name))}
              className="hover:line-through"
            >
              <TopicWord topic={topic} />
            </button>
          ))}
          <ComboboxInput
            id={id}
            aria-label={label}
            value={typed}
            autoComplete="off"
            placeholder={quiet ? '+ topic' : topics.length ? '' : 'topic'}
            className={`bg-transparent py-0.5 text-[13px] outline-none ${quiet ? 'w-[3.2rem]' : 'min-w-[4rem] flex-1'}`}
            onChange={(event) => setTyped(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === 'Backspace' && typed === '' && names.length > 0) onChange(names.slice(0, -1));
              if (event.key === 'Tab' && !event.shiftKey && (query || likely?.length)) {
                const first = found[0]?.name ?? (query ? typed : null);
                if (first) {
                  event.preventDefault();
                  add(first);
                }
              }
              if ((event.key === ',' || event.key === 'Enter') && query && !found.length) {
                event.preventDefault();
                add(typed.trim());
              }
              if (event.key === 'Escape') {
                setTyped('');
                event.currentTarget.blur();
              }
            }}
          />
        </div>
        {(found.length > 0 || (query && !isKnown)) && (
          <ComboboxOptions className="absolute z-30 mt-px max-h-64 w-full min-w-48 overflow-auto border border-hair bg-sheet py-1 shadow-md empty:hidden">
            {found.map((topic) => (
              <ComboboxOption
                key={topic.number}
                value={topic.name}
                className="flex cursor-pointer items-center px-3 py-1.5 data-focus:bg-wash"
              >
                <TopicWord topic={topic} />
              </ComboboxOption>
            ))}
            {query && !isKnown && (
              <ComboboxOption
                value={typed.trim()}
                className="cursor-pointer px-3 py-1.5 text-second data-focus:bg-wash"
              >
                new topic <b className="text-ink">{typed.trim()}</b>
              </ComboboxOption>
            )}
          </ComboboxOptions>
        )}
      </div>
    </Combobox>
  );
}
