import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { api, ask, done, Problem, type SlipKind } from '../api/client';
import type { components } from '../api/schema';
import { keys, useFormats } from '../api/queries';
import { carryOut } from '../papers/notices';
import { QueryField } from '../text/QueryField';
import { Button } from '../ui/Button';
import { Figure } from '../ui/Figure';
import { Loading } from '../ui/States';
import { useHeld } from '../ui/useField';
import { RuleRow } from './RuleRow';

type Rule = components['schemas']['Rule'];
type Change = components['schemas']['RuleChange'];
type ActName = 'start' | 'ready' | 'sort' | 'keep' | 'drop';
type Made = {
  name: string;
  when: 'caught' | 'kept';
  query: string;
  act: ActName;
  format: string;
  topics: string;
  kind: SlipKind | '';
};

const blank: Made = { name: '', when: 'kept', query: '', act: 'start', format: '', topics: '', kind: '' };
const kinds: SlipKind[] = ['idea', 'quote', 'question', 'takeaway', 'note', 'ask'];

const madeFrom = (rule: Rule): Made => {
  const act = rule.act as { act: ActName; format?: string | null; topics?: string[] | null; kind?: SlipKind | null };
  return {
    name: rule.name,
    when: rule.when,
    query: rule.query,
    act: act.act,
    format: act.format ?? '',
    topics: (act.topics ?? []).join(', '),
    kind: act.kind ?? '',
  };
};

const changeOf = (made: Made): Change => ({
  name: made.name,
  when: made.when,
  query: made.query,
  act: (made.act === 'sort'
    ? {
        act: 'sort',
        topics: made.topics
          .split(',')
          .map((topic) => topic.trim())
          .filter(Boolean),
        kind: made.kind || null,
      }
    : made.act === 'start' || made.act === 'ready'
      ? { act: made.act, format: made.format || null }
      : { act: made.act }) as Change['act'],
});

/** How the sifting goes over time, and what follows from a decision by itself. */
export default function RulesPage() {
  const rules = useQuery({ queryKey: keys.rules, queryFn: () => ask(api.GET('/api/rules')) });
  const [editing, setEditing] = useState<Rule | 'new' | null>(null);
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[980px] px-9 py-7 max-md:px-4">
        <Link to="/sift" className="link text-[12.5px]">
          ‹ sift
        </Link>
        <h1 className="written mt-1 text-[28px] font-semibold">How the sifting goes</h1>
        <FlowPart />
        <section className="mt-10" aria-label="What follows by itself">
          <header className="flex items-baseline justify-between border-b border-ink pb-1.5">
            <h2 className="written text-[21px] font-semibold">What follows by itself</h2>
            {editing === null && <Button onClick={() => setEditing('new')}>New rule</Button>}
          </header>
          {editing === 'new' && <Editor onClose={() => setEditing(null)} />}
          {rules.data?.length === 0 && editing === null && (
            <p className="py-4 text-second">
              No rules yet. One says, for a kind of slip, what follows when it is kept or comes in: “kept essays with
              pull 4 or more start a piece”. Before it is switched on it shows what it would have done.
            </p>
          )}
          {rules.data?.map((rule) =>
            editing === rule ? (
              <Editor key={rule.number} rule={rule} onClose={() => setEditing(null)} />
            ) : (
              <RuleLine key={rule.number} rule={rule} onEdit={() => setEditing(rule)} />
            ),
          )}
        </section>
      </div>
    </div>
  );
}

function FlowPart() {
  const flow = useQuery({ queryKey: keys.flow, queryFn: () => ask(api.GET('/api/sift/flow')) }).data;
  if (!flow) return <Loading />;
  const most = Math.max(1, ...flow.months.map((month) => month.decided));
  const percent = (share: number | null) => (share === null ? '–' : `${Math.round(100 * share)}%`);
  const total = (pick: 'kept' | 'held' | 'dropped' | 'used' | 'out') =>
    flow.months.reduce((sum, month) => sum + month[pick], 0);
  return (
    <section aria-label="Shares" className="mt-4">
      <p className="written max-w-[44rem] text-[17px] leading-relaxed">{flow.says}</p>
      <div className="mt-5 grid grid-cols-[auto_1fr] gap-x-12 gap-y-7 max-md:grid-cols-1">
        <dl className="figures grid grid-cols-2 gap-x-8 gap-y-3 self-start">
          {(
            [
              ['kept', flow.shareKept, `${total('kept')} slips kept in these twelve months.`],
              ['held', flow.shareHeld, `${total('held')} slips held and not come back yet.`],
              ['dropped', flow.shareDropped, `${total('dropped')} slips dropped. They stay searchable.`],
              [
                'of kept, used',
                flow.shareUsed,
                `Of ${total('kept')} kept, ${total('used')} stand in a piece, as what it was started from, as its material or in its text; ${total('out')} in one that went out.`,
              ],
            ] as const
          ).map(([name, share, of]) => (
            <div key={name}>
              <dd className="written text-[26px] leading-none font-semibold">
                <Figure shown={percent(share)} of={`Share ${name}`}>
                  {of}
                </Figure>
              </dd>
              <dt className="text-[12px] text-second">{name}</dt>
            </div>
          ))}
        </dl>
        <div className="flex h-36 items-end gap-2 border-b border-hair" role="img" aria-label="Decisions by month">
          {flow.months.map((month) => (
            <div
              key={month.month}
              className="flex h-full flex-1 flex-col justify-end"
              title={`${month.month.slice(0, 7)}: ${month.kept} kept, ${month.held} held, ${month.dropped} dropped`}
            >
              {(['dropped', 'held', 'kept'] as const).map((name) => (
                <span
                  key={name}
                  className={name === 'kept' ? 'bg-done' : name === 'held' ? 'bg-manila-edge' : 'bg-hair'}
                  style={{ height: `${(88 * month[name]) / most}%` }}
                />
              ))}
              <span className="narrow pt-1 text-center text-[11px] text-second">
                {new Date(month.month).toLocaleDateString('en-GB', { month: 'short' })}
              </span>
            </div>
          ))}
        </div>
      </div>
      <p className="mt-2 text-right text-[12px] text-second">
        <span className="mr-1 inline-block h-2 w-3 bg-done" /> kept{' '}
        <span className="mr-1 ml-3 inline-block h-2 w-3 bg-manila-edge" /> held{' '}
        <span className="mr-1 ml-3 inline-block h-2 w-3 bg-hair" /> dropped, by the month of the decision
      </p>
    </section>
  );
}

const does = (rule: Rule): string => {
  const made = madeFrom(rule);
  const format = made.format ? ` (${made.format})` : '';
  return {
    start: `start a piece${format}`,
    ready: `make it ready to go out${format}`,
    sort: ['give it', made.topics && `topic ${made.topics}`, made.kind && `the kind ${made.kind}`]
      .filter(Boolean)
      .join(' '),
    keep: 'keep it',
    drop: 'drop it',
  }[made.act];
};

function RuleLine({ rule, onEdit }: { rule: Rule; onEdit: () => void }) {
  const params = { path: { number: String(rule.number) } };
  return (
    <RuleRow
      name={rule.name}
      isOn={rule.isOn}
      onSwitch={(isOn) => api.PATCH('/api/rules/{number}', { params, body: { isOn, version: rule.version } })}
      onEdit={onEdit}
      onRemove={() => api.DELETE('/api/rules/{number}', { params })}
    >
      <p className="text-second">
        When a slip {rule.when === 'kept' ? 'is kept' : 'comes in'} that meets{' '}
        <span className="font-mono text-[12px] text-ink">{rule.query}</span>: {does(rule)}.
      </p>
    </RuleRow>
  );
}

function Editor({ rule, onClose }: { rule?: Rule; onClose: () => void }) {
  const client = useQueryClient();
  const formats = useFormats().data ?? [];
  // What is being made is held in this browser until it is kept or left.
  const [held, setHeld] = useHeld(`rule.${rule?.number ?? 'new'}`);
  const made = useMemo<Made>(() => (held ? (JSON.parse(held) as Made) : rule ? madeFrom(rule) : blank), [held, rule]);
  const setMade = (next: Made) => setHeld(JSON.stringify(next));
  const leave = () => {
    setHeld('');
    onClose();
  };
  const [wrong, setWrong] = useState<Problem>();
  const [tried, setTried] = useState<components['schemas']['RuleTried']>();
  const set = (fields: Partial<Made>) => {
    setMade({ ...made, ...fields });
    setTried(undefined);
    setWrong(undefined);
  };
  const attempt = async (act: () => Promise<void>) => {
    try {
      await act();
    } catch (error) {
      if (error instanceof Problem) setWrong(error);
    }
  };
  const tryIt = () => attempt(async () => setTried(await ask(api.POST('/api/rules/try', { body: changeOf(made) }))));
  const keep = (isOn: boolean) =>
    attempt(async () => {
      const body = { ...changeOf(made), isOn, version: rule?.version ?? null };
      const answered = await done(
        rule
          ? api.PATCH('/api/rules/{number}', { params: { path: { number: String(rule.number) } }, body })
          : api.POST('/api/rules', { body }),
      );
      await carryOut(Promise.resolve(answered), isOn ? 'The rule is on.' : 'The rule is kept, switched off.');
      await client.invalidateQueries();
      leave();
    });
  const choice = 'border-b border-hair bg-transparent py-1 font-semibold';
  return (
    <form
      aria-label={rule ? `Change the rule ${rule.name}` : 'A new rule'}
      className="border-b border-hair bg-quiet px-5 py-4"
      onSubmit={(event) => {
        event.preventDefault();
        void tryIt();
      }}
    >
      <label className="block">
        <span className="label block text-second">Name</span>
        <input
          autoFocus
          value={made.name}
          maxLength={120}
          onChange={(event) => set({ name: event.target.value })}
          className="written w-full border-b border-ink bg-transparent py-1 text-[16px] outline-none focus:border-blue"
        />
      </label>
      <p className="mt-4">
        When a slip{' '}
        <select
          aria-label="When"
          value={made.when}
          onChange={(event) => set({ when: event.target.value as Made['when'] })}
          className={choice}
        >
          <option value="kept">is kept</option>
          <option value="caught">comes in</option>
        </select>{' '}
        that meets
      </p>
      <QueryField
        label="Which slips"
        placeholder="format:essay pull>=4"
        value={made.query}
        onChange={(query) => set({ query })}
      />
      <p className="mt-4 flex flex-wrap items-baseline gap-x-3">
        then{' '}
        <select
          aria-label="What it does"
          value={made.act}
          onChange={(event) => set({ act: event.target.value as ActName })}
          className={choice}
        >
          <option value="start">start a piece with it</option>
          <option value="ready">make it ready to go out, as it is</option>
          <option value="sort">give it topics or a kind</option>
          {made.when === 'caught' && <option value="keep">keep it</option>}
          <option value="drop">drop it</option>
        </select>
        {(made.act === 'start' || made.act === 'ready') && (
          <select
            aria-label="Format"
            value={made.format}
            onChange={(event) => set({ format: event.target.value })}
            className={choice}
          >
            <option value="">in the slip’s own format</option>
            {formats.map((format) => (
              <option key={format.key} value={format.key}>
                as {format.name.toLowerCase()}
              </option>
            ))}
          </select>
        )}
        {made.act === 'sort' && (
          <>
            <input
              aria-label="Topics"
              placeholder="topics, with commas"
              value={made.topics}
              onChange={(event) => set({ topics: event.target.value })}
              className="w-56 border-b border-hair bg-transparent py-1"
            />
            <select
              aria-label="Kind"
              value={made.kind}
              onChange={(event) => set({ kind: event.target.value as Made['kind'] })}
              className={choice}
            >
              <option value="">no kind</option>
              {kinds.map((kind) => (
                <option key={kind}>{kind}</option>
              ))}
            </select>
          </>
        )}
      </p>
      {wrong && (
        <p role="alert" className="mt-3 text-red">
          {wrong.message}
        </p>
      )}
      {tried && (
        <section aria-label="What it would have done" className="mt-4 border-t border-hair pt-3">
          <p>
            Of the last {tried.looked} slips {made.when === 'kept' ? 'you kept' : 'that came in'},{' '}
            <b>{tried.met.length}</b> would have met it.
          </p>
          <div className="max-h-56 overflow-y-auto">
            {tried.met.map(({ slip, would }) => (
              <p key={slip.number} className="flex items-baseline gap-3 border-b border-rule py-1.5">
                <span className="narrow figures w-8 text-[12px] text-faint">{slip.number}</span>
                <span className="written min-w-0 flex-1 truncate text-[14.5px]">{slip.title}</span>
                <span className="text-[12.5px] text-second">{would}</span>
              </p>
            ))}
          </div>
        </section>
      )}
      <div className="mt-4 flex justify-end gap-3">
        <Button look="quiet" onClick={leave}>
          Not now
        </Button>
        <Button type="submit">Show what it would have done</Button>
        <Button disabled={!tried || !made.name.trim()} onClick={() => void keep(false)}>
          Keep, switched off
        </Button>
        <Button look="main" disabled={!tried || !made.name.trim()} onClick={() => void keep(true)}>
          Switch on
        </Button>
      </div>
    </form>
  );
}
