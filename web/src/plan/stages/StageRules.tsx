import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { api, ask, done, Problem } from '../../api/client';
import type { components } from '../../api/schema';
import { keys } from '../../api/queries';
import { carryOut } from '../../papers/notices';
import { QueryField } from '../../text/QueryField';
import { Button } from '../../ui/Button';
import { shortDay } from '../../ui/dates';
import { RuleRow } from '../../sift/RuleRow';
import { useHeld } from '../../ui/useField';
import type { StagesOf } from './stages';

type Rule = components['schemas']['StageRule'];
type Change = components['schemas']['StageRuleChange'];
type Act = { act: 'steps' | 'move' | 'sideText' | 'folders' | 'another' } & Record<string, unknown>;
type ActName = Act['act'];
type Made = { name: string; format: string; stage: string; query: string; acts: ActMade[] };

/** One thing that follows, as it is typed. */
type ActMade = { act: ActName; lines: string; days: string; name: string; format: string };

const actNames: Record<ActName, string> = {
  steps: 'lay steps into its checklist',
  move: 'make a move',
  sideText: 'begin a text beside its draft',
  folders: 'make folders for its files',
  another: 'start another piece that follows it',
};
const blankAct = (act: ActName): ActMade => ({ act, lines: '', days: '', name: '', format: '' });

const linesOf = (text: string) =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean);

const actFrom = (act: Act): ActMade => ({
  ...blankAct(act.act),
  lines:
    act.act === 'steps'
      ? (act.steps as string[]).join('\n')
      : act.act === 'folders'
        ? (act.names as string[]).join('\n')
        : ((act.text as string | undefined) ?? ''),
  days: act.days === null || act.days === undefined ? '' : String(act.days as number),
  name: (act.name as string | undefined) ?? '',
  format: (act.format as string | undefined) ?? '',
});

const actTo = (made: ActMade): Act => {
  switch (made.act) {
    case 'steps':
      return { act: 'steps', steps: linesOf(made.lines) };
    case 'folders':
      return { act: 'folders', names: linesOf(made.lines) };
    case 'move':
      return { act: 'move', text: made.lines, days: made.days.trim() === '' ? null : Number(made.days) };
    case 'sideText':
      return { act: 'sideText', name: made.name, text: made.lines };
    default:
      return { act: 'another', format: made.format };
  }
};

const madeFrom = (rule: Rule): Made => ({
  name: rule.name,
  format: rule.format ?? '',
  stage: rule.stage,
  query: rule.query,
  acts: (rule.acts as unknown as Act[]).map(actFrom),
});

const changeOf = (made: Made): Change => ({
  name: made.name,
  format: made.format || null,
  stage: made.stage,
  query: made.query,
  acts: made.acts.map(actTo) as unknown as Change['acts'],
});

/** What follows by itself when a piece comes to a stage. */
export function StageRules({ formats }: { formats: readonly StagesOf[] }) {
  const rules = useQuery({ queryKey: keys.stageRules, queryFn: () => ask(api.GET('/api/stage-rules')) });
  const [editing, setEditing] = useState<number | 'new' | null>(null);
  return (
    <section className="mt-10" aria-label="What follows from a stage">
      <header className="flex items-baseline justify-between border-b border-ink pb-1.5">
        <h2 className="written text-[19px] font-semibold">What follows from a stage</h2>
        {editing === null && <Button onClick={() => setEditing('new')}>New rule</Button>}
      </header>
      {editing === 'new' && <Editor formats={formats} onClose={() => setEditing(null)} />}
      {rules.data?.length === 0 && editing === null && (
        <p className="max-w-[44rem] py-3 text-second">
          No rules yet. One says what follows when a piece comes to a stage: steps laid into its checklist, a move made,
          a side text or a piece for another outlet begun, folders made. It shows first what it would have done, and
          follows once for each piece.
        </p>
      )}
      {rules.data?.map(({ rule, ran }) =>
        editing === rule.number ? (
          <Editor key={rule.number} formats={formats} rule={rule} onClose={() => setEditing(null)} />
        ) : (
          <Line key={rule.number} formats={formats} rule={rule} ran={ran} onEdit={() => setEditing(rule.number)} />
        ),
      )}
    </section>
  );
}

const saidAct = (act: Act, formats: readonly StagesOf[]): string => {
  const made = actFrom(act);
  const count = linesOf(made.lines).length;
  switch (made.act) {
    case 'steps':
      return count === 1 ? `lay in the step “${linesOf(made.lines)[0]}”` : `lay in ${count} steps`;
    case 'move':
      return `make the move “${made.lines}”${made.days === '' ? '' : `, due ${made.days === '0' ? 'that day' : `${made.days} days after`}`}`;
    case 'sideText':
      return `begin its ${made.name.toLowerCase()}`;
    case 'folders':
      return `make the folders ${linesOf(made.lines).join(', ')}`;
    default:
      return `start ${formats.find((one) => one.key === made.format)?.name.toLowerCase() ?? made.format} that follows it`;
  }
};

function Line({
  formats,
  rule,
  ran,
  onEdit,
}: {
  formats: readonly StagesOf[];
  rule: Rule;
  ran: readonly number[];
  onEdit: () => void;
}) {
  const params = { path: { number: String(rule.number) } };
  const format = formats.find((one) => one.key === rule.format)?.name;
  return (
    <RuleRow
      name={rule.name}
      isOn={rule.isOn}
      onSwitch={(isOn) => api.PATCH('/api/stage-rules/{number}', { params, body: { isOn, version: rule.version } })}
      onEdit={onEdit}
      onRemove={() => api.DELETE('/api/stage-rules/{number}', { params })}
    >
      <p className="text-second">
        When {format ? `a piece (${format})` : 'a piece'} comes to {rule.stage}
        {rule.query && (
          <>
            {' '}
            and meets <span className="font-mono text-[12px] text-ink">{rule.query}</span>
          </>
        )}
        : {(rule.acts as unknown as Act[]).map((act) => saidAct(act, formats)).join('; ')}.
      </p>
      {ran.length > 0 && (
        <p className="text-[12.5px] text-second">
          It followed for{' '}
          {ran.map((piece, at) => (
            <span key={piece}>
              {at > 0 && ', '}
              <Link to={`/bench/${piece}`} className="link">
                P {piece}
              </Link>
            </span>
          ))}
          .
        </p>
      )}
    </RuleRow>
  );
}

function Editor({ formats, rule, onClose }: { formats: readonly StagesOf[]; rule?: Rule; onClose: () => void }) {
  const client = useQueryClient();
  const first = formats[0];
  const blank: Made = {
    name: '',
    format: '',
    stage: first?.stages.at(-2) ?? '',
    query: '',
    acts: [blankAct('steps')],
  };
  // What is being made is held in this browser until it is kept or left.
  const [held, setHeld] = useHeld(`stage-rule.${rule?.number ?? 'new'}`);
  const made = useMemo<Made>(
    () => (held ? (JSON.parse(held) as Made) : rule ? madeFrom(rule) : blank),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- a blank one is the same each time
    [held, rule],
  );
  const [wrong, setWrong] = useState<Problem>();
  const [tried, setTried] = useState<components['schemas']['StageRuleTried']>();
  const set = (changed: Partial<Made>) => {
    setHeld(JSON.stringify({ ...made, ...changed }));
    setTried(undefined);
    setWrong(undefined);
  };
  const setAct = (at: number, changed: Partial<ActMade>) =>
    set({ acts: made.acts.map((act, i) => (i === at ? { ...act, ...changed } : act)) });
  const leave = () => {
    setHeld('');
    onClose();
  };
  const attempt = async (act: () => Promise<void>) => {
    try {
      await act();
    } catch (error) {
      if (error instanceof Problem) setWrong(error);
    }
  };
  const tryIt = () =>
    attempt(async () => setTried(await ask(api.POST('/api/stage-rules/try', { body: changeOf(made) }))));
  const keep = (isOn: boolean) =>
    attempt(async () => {
      const body = { ...changeOf(made), isOn, version: rule?.version ?? null };
      const answered = await done(
        rule
          ? api.PATCH('/api/stage-rules/{number}', { params: { path: { number: String(rule.number) } }, body })
          : api.POST('/api/stage-rules', { body }),
      );
      await carryOut(Promise.resolve(answered), isOn ? 'The rule is on.' : 'The rule is kept, switched off.');
      await client.invalidateQueries();
      leave();
    });
  const stages = made.format
    ? (formats.find((one) => one.key === made.format)?.stages ?? [])
    : [...new Set(formats.flatMap((one) => one.stages))];
  const choice = 'border-b border-hair bg-transparent py-1 font-semibold';
  const plain = 'w-full border-b border-hair bg-transparent py-1 outline-none focus:border-blue';
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
      <p className="mt-4 flex flex-wrap items-baseline gap-x-2">
        When a piece{' '}
        <select
          aria-label="Of which format"
          value={made.format}
          onChange={(event) => set({ format: event.target.value })}
          className={choice}
        >
          <option value="">of any format</option>
          {formats.map((one) => (
            <option key={one.key} value={one.key}>
              ({one.name})
            </option>
          ))}
        </select>{' '}
        comes to{' '}
        <select
          aria-label="To which stage"
          value={made.stage}
          onChange={(event) => set({ stage: event.target.value })}
          className={choice}
        >
          {!stages.includes(made.stage) && <option value={made.stage}>{made.stage || 'choose a stage'}</option>}
          {stages.map((stage) => (
            <option key={stage} value={stage}>
              {stage}
            </option>
          ))}
        </select>{' '}
        that meets (empty for all)
      </p>
      <QueryField
        label="Which pieces"
        placeholder="topic:tolls"
        value={made.query}
        onChange={(query) => set({ query })}
      />
      <ol aria-label="What follows" className="mt-3">
        {made.acts.map((act, at) => (
          <li key={at} className="border-t border-rule py-2">
            <span className="flex flex-wrap items-baseline gap-x-3">
              {at === 0 ? 'then' : 'and'}
              <select
                aria-label={`What follows, ${at + 1}`}
                value={act.act}
                onChange={(event) => setAct(at, blankAct(event.target.value as ActName))}
                className={choice}
              >
                {(Object.keys(actNames) as ActName[]).map((name) => (
                  <option key={name} value={name}>
                    {actNames[name]}
                  </option>
                ))}
              </select>
              {act.act === 'move' && (
                <label className="inline-flex items-baseline gap-1.5">
                  due
                  <input
                    aria-label="Due so many days after"
                    inputMode="numeric"
                    value={act.days}
                    onChange={(event) => setAct(at, { days: event.target.value.replace(/\D/g, '') })}
                    className="figures w-10 border-b border-hair bg-transparent py-1 text-center"
                  />
                  days after
                </label>
              )}
              {act.act === 'sideText' && (
                <input
                  aria-label="Name of the side text"
                  placeholder="Summary line"
                  value={act.name}
                  onChange={(event) => setAct(at, { name: event.target.value })}
                  className="w-48 border-b border-hair bg-transparent py-1"
                />
              )}
              {act.act === 'another' && (
                <select
                  aria-label="As which format"
                  value={act.format}
                  onChange={(event) => setAct(at, { format: event.target.value })}
                  className={choice}
                >
                  <option value="">choose a format</option>
                  {formats.map((one) => (
                    <option key={one.key} value={one.key}>
                      as {one.name.toLowerCase()}
                    </option>
                  ))}
                </select>
              )}
              {made.acts.length > 1 && (
                <button
                  type="button"
                  className="link ml-auto text-[12.5px]"
                  onClick={() => set({ acts: made.acts.filter((_, i) => i !== at) })}
                >
                  leave out
                </button>
              )}
            </span>
            {act.act === 'move' && (
              <input
                aria-label="The move"
                placeholder="Send “{{ title }}” to Pell"
                value={act.lines}
                onChange={(event) => setAct(at, { lines: event.target.value })}
                className={plain}
              />
            )}
            {(act.act === 'steps' || act.act === 'folders' || act.act === 'sideText') && (
              <textarea
                aria-label={
                  act.act === 'steps'
                    ? 'Steps, one a line'
                    : act.act === 'folders'
                      ? 'Folders, one a line'
                      : 'How it begins'
                }
                placeholder={
                  act.act === 'steps'
                    ? 'one step a line'
                    : act.act === 'folders'
                      ? 'one folder a line'
                      : '{{ title }}: '
                }
                rows={Math.min(8, Math.max(2, act.lines.split('\n').length))}
                value={act.lines}
                onChange={(event) => setAct(at, { lines: event.target.value })}
                className={`${plain} resize-none`}
              />
            )}
          </li>
        ))}
      </ol>
      <button
        type="button"
        className="link text-[12.5px]"
        onClick={() => set({ acts: [...made.acts, blankAct('move')] })}
      >
        and one thing more
      </button>
      {wrong && (
        <p role="alert" className="mt-3 text-red">
          {wrong.message}
        </p>
      )}
      {tried && (
        <section aria-label="What it would have done" className="mt-4 border-t border-hair pt-3">
          <p>
            {tried.looked === 0
              ? `No piece has come to ${made.stage} yet.`
              : `Of the last ${tried.looked} pieces that came to ${made.stage}, ${tried.met.length} would have met it.`}
          </p>
          <div className="max-h-56 overflow-y-auto">
            {tried.met.map(({ piece, title, on, would }) => (
              <p key={piece} className="flex items-baseline gap-3 border-b border-rule py-1.5">
                <span className="narrow figures w-10 shrink-0 text-[12px] text-second">P {piece}</span>
                <span className="written min-w-0 flex-1 truncate text-[14.5px]">{title}</span>
                <span className="figures shrink-0 text-[12px] text-second">{shortDay(on)}</span>
                <span className="min-w-0 flex-1 text-[12.5px] text-second">{would.join('; ')}</span>
              </p>
            ))}
          </div>
        </section>
      )}
      <div className="mt-4 flex flex-wrap justify-end gap-3">
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
