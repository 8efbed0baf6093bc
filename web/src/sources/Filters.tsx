import type { Topic } from '../api/client';
import type { components } from '../api/schema';
import type { LibraryAsked } from './asked';

const states: [string, string][] = [
  ['sight', 'in sight'],
  ['waiting', 'waiting'],
  ['kept', 'kept'],
  ['held', 'held'],
  ['dropped', 'dropped'],
  ['trashed', 'in the trash'],
  ['all', 'all'],
];

const kinds = ['idea', 'quote', 'question', 'takeaway', 'note', 'ask', 'source'];

/** What narrows the list, each choice with how many it would leave. */
export function Filters({
  filters,
  facets,
  topics,
  onChange,
}: {
  filters: LibraryAsked;
  facets: components['schemas']['Facets'] | undefined;
  topics: readonly Topic[];
  onChange: (changed: Partial<LibraryAsked>) => void;
}) {
  const counted = (name: string, count: number | undefined) => (count === undefined ? name : `${name} (${count})`);
  return (
    <>
      <div className="mt-2.5 grid grid-cols-4 gap-2 max-md:grid-cols-2">
        <Choice
          label="State"
          value={filters.state}
          onChange={(state) => onChange({ state: state as LibraryAsked['state'] })}
        >
          {states.map(([key, name]) => (
            <option key={key} value={key}>
              {counted(name, facets?.states[key])}
            </option>
          ))}
        </Choice>
        <Choice label="Kind" value={filters.kind} onChange={(kind) => onChange({ kind: kind as LibraryAsked['kind'] })}>
          <option value="">any kind</option>
          {kinds.map((kind) => (
            <option key={kind} value={kind}>
              {counted(kind, facets?.kinds[kind])}
            </option>
          ))}
        </Choice>
        <Choice label="Topic" value={filters.topic} onChange={(topic) => onChange({ topic })}>
          <option value="">any topic</option>
          {topics.map((topic) => (
            <option key={topic.number} value={topic.number}>
              {counted(topic.name, facets?.topics[topic.number] ?? 0)}
            </option>
          ))}
        </Choice>
        <Choice label="Use" value={filters.used} onChange={(used) => onChange({ used: used as LibraryAsked['used'] })}>
          <option value="">used or not</option>
          <option value="yes">{counted('used', facets?.used)}</option>
          <option value="no">{counted('not used yet', facets?.unused)}</option>
        </Choice>
      </div>
      {filters.state === 'held' && (
        <p
          className="mt-2 flex flex-wrap gap-x-4 text-[12.5px] text-second"
          role="group"
          aria-label="What it waits for"
        >
          waits for
          {reasons.map(([key, name]) => {
            const isOn = reason.exec(filters.query)?.[1] === key;
            return (
              <button
                key={key}
                type="button"
                aria-pressed={isOn}
                className={isOn ? 'font-semibold text-blue' : 'hover:text-blue'}
                onClick={() =>
                  onChange({
                    query: `${filters.query.replace(reason, ' ').trim()} ${isOn ? '' : `held:${key}`}`.trim(),
                  })
                }
              >
                {name}
              </button>
            );
          })}
        </p>
      )}
    </>
  );
}

const reasons = [
  ['date', 'a date'],
  ['occasion', 'an occasion'],
  ['sources', 'enough sources'],
  ['look-up', 'looking something up'],
] as const;

const reason = /(?:^|\s)held:([a-z-]+)/;

function Choice({
  label,
  value,
  onChange,
  children,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  children: React.ReactNode;
}) {
  return (
    <label className="min-w-0">
      <span className="label block text-second">{label}</span>
      <select
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className={`w-full min-w-0 truncate border-b border-hair bg-transparent py-0.5 text-[12.5px] ${value && value !== 'sight' ? 'font-semibold text-blue' : ''}`}
      >
        {children}
      </select>
    </label>
  );
}
