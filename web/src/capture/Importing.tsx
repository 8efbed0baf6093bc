import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, ask, type ImportState } from '../api/client';
import { keys, queryClient, useTopics } from '../api/queries';
import { complain, isTakenBack } from '../papers/notices';
import { Button } from '../ui/Button';
import { Mark } from '../ui/Mark';
import { TopicField } from '../ui/TopicField';

type Counts = NonNullable<ImportState['counts']>;
type Role = NonNullable<ImportState['reading']['tables']>[string][string];

const roles: [Role, string][] = [
  ['skip', 'left out'],
  ['text', 'text'],
  ['title', 'title line'],
  ['comment', 'my words on it'],
  ['topics', 'topics'],
  ['kind', 'kind'],
  ['date', 'when it was caught'],
  ['pull', 'pull'],
  ['effort', 'effort'],
  ['locator', 'where in the source'],
  ['source', 'title of the source'],
  ['creators', 'who made the source'],
  ['address', 'web address'],
  ['sender', 'who sent it'],
  ['channel', 'the way it came'],
];
const kinds = ['idea', 'quote', 'question', 'takeaway', 'note', 'ask'] as const;
const documents = { slip: 'a slip', source: 'a source', piece: 'a piece' } as const;

/** One import, from the first look to what became of it. */
export function Importing({ state }: { state: ImportState }) {
  const navigate = useNavigate();
  const path = { id: state.id };
  const show = (next: ImportState) => queryClient.setQueryData(keys.import(state.id), next);
  const act = (asked: Promise<ImportState>) => void asked.then(show, complain);
  const read = (reading: Partial<ImportState['reading']>) =>
    act(ask(api.PUT('/api/imports/{id}/reading', { params: { path }, body: { ...state.reading, ...reading } })));
  const run = () => act(ask(api.POST('/api/imports/{id}/run', { params: { path } })));
  const stop = () => act(ask(api.DELETE('/api/imports/{id}', { params: { path } })));
  const leave = () => {
    void ask(api.DELETE('/api/imports/{id}', { params: { path } })).catch(() => undefined);
    void navigate('/bring-in');
  };
  const counts = state.counts;
  const makes = counts ? counts.slips + counts.sources + counts.moves + counts.pieces + counts.occasions : 0;
  const busy = state.phase === 'looking' || state.phase === 'running';

  return (
    <section aria-label={`Import of ${state.name}`} className="mt-1 max-w-[760px]">
      <p className="text-[14px] text-second">
        <b className="font-semibold text-ink">{state.name}</b>
        {state.files.length > 0 && ` · ${recognised(state)}`}
      </p>

      {busy && (
        <div className="mt-5 flex items-center gap-4" role="status">
          <progress
            aria-label={state.phase === 'running' ? 'Bringing in' : 'Looking through'}
            className="bar h-[6px] flex-1"
            value={state.phase === 'running' && state.total ? state.gone : undefined}
            max={state.total || 1}
          />
          <span className="figures w-52 text-second">
            {state.phase === 'running'
              ? `${state.gone.toLocaleString('en')} of ${state.total.toLocaleString('en')} brought in`
              : `${state.gone.toLocaleString('en')} looked through`}
          </span>
          <Button onClick={stop}>Stop</Button>
        </div>
      )}
      {state.phase === 'stopped' && <Said>Stopped. Nothing was brought in.</Said>}
      {state.problem && (
        <p role="alert" className="mt-4 border-l-[3px] border-red bg-quiet px-4 py-3 text-[13.5px]">
          {state.problem}
        </p>
      )}

      {counts && state.phase !== 'running' && <Figures counts={counts} done={state.phase === 'done'} />}

      {state.phase === 'ready' && counts && (
        <>
          {makes === 0 && (
            <Said>
              {counts.known > 0
                ? 'All of it is here already. There is nothing new to bring in.'
                : 'There is nothing in it that can be brought in.'}
            </Said>
          )}
          <p className="mt-5 flex gap-3">
            <Button look="main" disabled={makes === 0} onClick={run}>
              {makes === 0 ? 'Nothing to bring in' : `Bring in ${makes.toLocaleString('en')}`}
            </Button>
            <Button look="quiet" onClick={leave}>
              Put it away
            </Button>
          </p>
        </>
      )}
      {state.phase === 'done' && (
        <p className="mt-5 flex items-center gap-3" role="status">
          <Link className="link font-semibold" to={counts && counts.slips === 0 ? '/library' : pileOf(state)}>
            {counts && counts.slips === 0 ? 'To the library' : 'Sift what came in'}
          </Link>
          {counts !== null && counts.sources > 0 && (
            <Link className="link font-semibold" to="/library/new">
              Go through the new sources
            </Link>
          )}
          {state.command !== null && (
            <Button
              onClick={() => void isTakenBack(state.command!).then((isBack) => isBack && void navigate('/bring-in'))}
            >
              Take it all back
            </Button>
          )}
          <Button look="quiet" onClick={leave}>
            Bring in something else
          </Button>
        </p>
      )}
      {(state.phase === 'failed' || state.phase === 'stopped') && (
        <p className="mt-5">
          <Button onClick={leave}>Choose other files</Button>
        </p>
      )}

      {state.phase === 'ready' && <Readings state={state} onRead={read} />}
      {state.phase === 'ready' && (counts?.slips ?? 0) > 0 && <ForAll key={state.id} state={state} onRead={read} />}
      {state.phase === 'ready' && <Firsts state={state} />}
      {state.phase !== 'running' && <Places title="Doubtful" lines={state.doubtful} all={counts?.doubtful ?? 0} />}
      {state.phase !== 'running' && (
        <Places
          title="Could not be read"
          lines={state.unread}
          all={counts?.unread ?? 0}
          save={`/api/imports/${state.id}/unread`}
        />
      )}
    </section>
  );
}

const Said = ({ children }: { children: React.ReactNode }) => (
  <p role="status" className="mt-4 border-l-[3px] border-hair bg-quiet px-4 py-3 text-[13.5px]">
    {children}
  </p>
);

function recognised(state: ImportState): string {
  const kinds = new Map<string, number>();
  for (const file of state.files) kinds.set(file.format ?? 'not read', (kinds.get(file.format ?? 'not read') ?? 0) + 1);
  return [...kinds].map(([kind, count]) => (count > 1 ? `${kind}, ${count} files` : kind)).join(' · ');
}

function Figures({ counts, done }: { counts: Counts; done: boolean }) {
  const made: [string, number][] = [
    [counts.slips === 1 ? 'slip' : 'slips', counts.slips],
    [counts.sources === 1 ? 'source' : 'sources', counts.sources],
    [counts.topics === 1 ? 'new topic' : 'new topics', counts.topics],
    [counts.moves === 1 ? 'move' : 'moves', counts.moves],
    [counts.pieces === 1 ? 'piece' : 'pieces', counts.pieces],
    [counts.occasions === 1 ? 'occasion' : 'occasions', counts.occasions],
    [counts.files === 1 ? 'file' : 'files', counts.files],
  ];
  const rest: [string, number, string][] = [
    ['here already, skipped', counts.known, 'text-second'],
    ['doubtful', counts.doubtful, 'text-manila-ink'],
    ['could not be read', counts.unread, 'text-red'],
  ];
  return (
    <div
      className="mt-4 border-t border-b border-ink py-3"
      role="group"
      aria-label={done ? 'Brought in' : 'Would come in'}
    >
      <h2 className="label text-second">{done ? 'Brought in' : 'Would come in'}</h2>
      <dl className="mt-1.5 flex flex-wrap gap-x-9 gap-y-3">
        {made
          .filter(([, value]) => value > 0)
          .map(([name, value]) => (
            <div key={name} className="flex flex-col-reverse">
              <dt className="text-[12.5px] text-second">{name}</dt>
              <dd className="written figures text-[26px] leading-none font-semibold">{value.toLocaleString('en')}</dd>
            </div>
          ))}
        {made.every(([, value]) => value === 0) && <dd className="written text-[20px]">nothing</dd>}
      </dl>
      {rest.some(([, value]) => value > 0) && (
        <p className="mt-3 flex flex-wrap gap-x-6 text-[13px]">
          {rest
            .filter(([, value]) => value > 0)
            .map(([name, value, look]) => (
              <span key={name} className={look}>
                <b className="figures font-semibold">{value.toLocaleString('en')}</b> {name}
              </span>
            ))}
        </p>
      )}
    </div>
  );
}

/** How the files are read, where there is a choice. */
function Readings({
  state,
  onRead,
}: {
  state: ImportState;
  onRead: (reading: Partial<ImportState['reading']>) => void;
}) {
  const tables = [...new Map(state.files.filter((file) => file.table).map((file) => [file.table!, file])).values()];
  const choices = [...new Set(state.files.flatMap((file) => file.choices))];
  const usual = state.files.find((file) => file.choices.length > 0)?.choices[0];
  if (tables.length === 0 && choices.length === 0) return null;
  return (
    <section aria-label="How it is read" className="mt-7">
      <h2 className="label border-b border-hair pb-1 text-second">How it is read</h2>
      {choices.length > 0 && (
        <fieldset className="flex gap-5 border-b border-rule py-2">
          <legend className="sr-only">Each becomes</legend>
          <span className="w-40">Each becomes</span>
          {choices.map((choice) => (
            <label key={choice} className="flex items-center gap-1.5">
              <input
                type="radio"
                name="documents"
                checked={(state.reading.documents ?? usual) === choice}
                onChange={() => onRead({ documents: choice })}
              />
              {documents[choice]}
            </label>
          ))}
        </fieldset>
      )}
      {tables.map((table) => (
        <TableColumns
          key={table.table}
          columns={table.columns!}
          name={
            tables.length > 1
              ? state.files
                  .filter((file) => file.table === table.table)
                  .map((file) => file.name)
                  .join(', ')
              : undefined
          }
          roles={state.reading.tables?.[table.table!] ?? {}}
          onChange={(changed) => onRead({ tables: { ...state.reading.tables, [table.table!]: changed } })}
        />
      ))}
    </section>
  );
}

/** What the columns of one table, or of several with the same columns, mean. */
function TableColumns({
  columns,
  name,
  roles: said,
  onChange,
}: {
  columns: readonly string[];
  name: string | undefined;
  roles: Readonly<Record<string, Role>>;
  onChange: (roles: Record<string, Role>) => void;
}) {
  return (
    <div className="mt-1">
      {name && <h3 className="mt-3 text-[12.5px] font-semibold [overflow-wrap:anywhere]">{name}</h3>}
      <div className="grid grid-cols-2 gap-x-10 max-md:grid-cols-1">
        {columns.map((column) => (
          <label key={column} className="flex items-baseline gap-3 border-b border-rule py-1.5">
            <span className="min-w-0 flex-1 truncate">{column}</span>
            <select
              aria-label={`Column ${column} is`}
              value={said[column] ?? 'skip'}
              onChange={(event) => onChange({ ...said, [column]: event.target.value as Role })}
              className={`w-44 bg-transparent ${(said[column] ?? 'skip') === 'skip' ? 'text-faint' : 'font-semibold'}`}
            >
              {roles.map(([role, words]) => (
                <option key={role} value={role}>
                  {words}
                </option>
              ))}
            </select>
          </label>
        ))}
      </div>
    </div>
  );
}

/** What is said for all slips of the import at once. */
function ForAll({ state, onRead }: { state: ImportState; onRead: (reading: Partial<ImportState['reading']>) => void }) {
  const { kind, topics, pile } = state.reading;
  const [name, setName] = useState(pile ?? '');
  const known = useTopics().data ?? [];
  const marks = (topics ?? []).map(
    (topic, at) =>
      known.find((one) => one.name.toLowerCase() === topic.toLowerCase()) ?? {
        number: -at,
        name: topic,
        colour: 'slate' as const,
      },
  );
  return (
    <section aria-label="For all of its slips" className="mt-7">
      <h2 className="label border-b border-hair pb-1 text-second">For all of its slips</h2>
      <div className="flex items-baseline gap-3 border-b border-rule py-1.5">
        <label htmlFor="all-kind" className="w-40">
          Kind
        </label>
        <select
          id="all-kind"
          value={kind ?? ''}
          onChange={(event) => onRead({ kind: (event.target.value || null) as ImportState['reading']['kind'] })}
          className={`-ml-1 bg-transparent ${kind ? 'font-semibold' : 'text-second'}`}
        >
          <option value="">as each was found</option>
          {kinds.map((one) => (
            <option key={one} value={one}>
              {one}
            </option>
          ))}
        </select>
      </div>
      <div className="flex items-baseline gap-3 border-b border-rule py-1.5">
        <span className="w-40 shrink-0">Topics besides its own</span>
        <span className="min-w-0 flex-1">
          <TopicField quiet label="Topics for all" topics={marks} onChange={(names) => onRead({ topics: names })} />
        </span>
      </div>
      <form
        className="flex items-baseline gap-3 border-b border-rule py-1.5"
        onSubmit={(event) => {
          event.preventDefault();
          onRead({ pile: name.trim() || null });
        }}
      >
        <label htmlFor="all-pile" className="w-40">
          Their pile in Sift
        </label>
        <input
          id="all-pile"
          value={name}
          maxLength={200}
          placeholder={state.files.length === 1 ? state.files[0]!.name : 'one for each file'}
          onChange={(event) => setName(event.target.value)}
          onBlur={() => name.trim() !== (pile ?? '') && onRead({ pile: name.trim() || null })}
          className="min-w-0 flex-1 bg-transparent outline-none placeholder:text-faint focus:border-b focus:border-blue"
        />
      </form>
    </section>
  );
}

/** Where the slips of an import stand by themselves. */
function pileOf(state: ImportState): string {
  const files = [...new Set(state.files.map((file) => file.name))];
  const name = state.reading.pile ?? (files.length === 1 ? files[0] : undefined);
  return name ? `/sift?from=${encodeURIComponent(name)}` : '/sift';
}

/** What stands under the title, without saying it twice. */
const below = ({ title, text }: ImportState['firsts'][number]) =>
  text.startsWith(title) ? text.slice(title.length).trim() : text;

function Firsts({ state }: { state: ImportState }) {
  if (state.firsts.length === 0) return null;
  return (
    <section aria-label="The first of each" className="mt-7">
      <h2 className="label border-b border-hair pb-1 text-second">The first of each</h2>
      {state.firsts.map((first) => (
        <article key={first.kind} aria-label={`First ${first.kind}`} className="flex border-b border-rule">
          <span className="flex w-[64px] shrink-0 flex-col items-center border-r border-line pt-2.5 text-second">
            {first.kind === 'slip' ? (
              <Mark kind={first.note as 'idea'} size={15} />
            ) : first.kind === 'source' ? (
              <Mark kind="source" size={15} />
            ) : null}
            <span className="narrow text-[11.5px]">{first.kind}</span>
          </span>
          <div className="min-w-0 flex-1 px-4 py-2">
            <p className="written text-[15.5px] leading-snug font-semibold [overflow-wrap:anywhere]">{first.title}</p>
            {below(first) && (
              <p className="written mt-0.5 line-clamp-3 text-[14px] leading-snug whitespace-pre-line text-second [overflow-wrap:anywhere]">
                {below(first)}
              </p>
            )}
            <p className="mt-1 text-[12px] text-second">
              {[
                first.note,
                first.topics.map((topic) => `#${topic}`).join(' '),
                state.files.length > 1 ? first.file : '',
                first.line > 0 ? `line ${first.line}` : '',
              ]
                .filter(Boolean)
                .join(' · ')}
            </p>
          </div>
        </article>
      ))}
    </section>
  );
}

function Places({
  title,
  lines,
  all,
  save,
}: {
  title: string;
  lines: ImportState['unread'];
  all: number;
  save?: string;
}) {
  if (lines.length === 0) return null;
  return (
    <section aria-label={title} className="mt-7">
      <h2 className="label flex items-baseline justify-between border-b border-hair pb-1 text-second">
        {title} · {all.toLocaleString('en')}
        {save && (
          <a className="link text-[12.5px] font-semibold tracking-normal normal-case" href={save} download>
            save them to mend
          </a>
        )}
      </h2>
      {lines.map((line, at) => (
        <div key={at} className="flex gap-4 border-b border-rule py-1.5">
          <span className="narrow figures w-20 shrink-0 text-[12px] text-second">
            {line.line > 0 ? `line ${line.line}` : ''}
          </span>
          <span className="min-w-0 flex-1">
            <span className="block">{line.reason.charAt(0).toUpperCase() + line.reason.slice(1)}</span>
            {line.raw && (
              <span className="written line-clamp-2 text-[13.5px] text-second [overflow-wrap:anywhere]">
                {line.raw}
              </span>
            )}
          </span>
        </div>
      ))}
      {all > lines.length && <p className="py-2 text-second">and {(all - lines.length).toLocaleString('en')} more</p>}
    </section>
  );
}
