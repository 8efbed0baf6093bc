import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, ask, done, Problem, type Format, type FormatOpened } from '../api/client';
import { keys, usePieces } from '../api/queries';
import { FillInText } from '../capture/FillInText';
import { carryOut } from '../papers/notices';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { Failed, Loading } from '../ui/States';
import { Rows, Small } from './FormatRows';
import { refreshPiece } from './refreshPiece';

type Edited = FormatOpened & {
  /** What each stage was called when it was opened; empty for a new one. */
  was: string[];
};

const place = (key: string) => `nachlass.format.${key}`;

function keptFormat(key: string): Edited | undefined {
  try {
    return (JSON.parse(localStorage.getItem(place(key)) ?? 'null') as Edited | null) ?? undefined;
  } catch {
    return undefined;
  }
}

const kinds: [Format['fields'][number]['kind'], string][] = [
  ['text', 'a line'],
  ['longText', 'a text'],
  ['number', 'a number'],
  ['date', 'a day'],
  ['choice', 'one of several'],
  ['person', 'a person'],
  ['link', 'a link'],
  ['tick', 'a tick'],
];

/** One format: everything a piece of it begins with and goes through, and what that makes of a piece. */
export function FormatEditor({ format: key }: { format: string }) {
  const path = { key };
  const loaded = useQuery({
    queryKey: keys.format(key),
    queryFn: () => ask(api.GET('/api/formats/{key}', { params: { path } })),
  });
  const [changed, setChanged] = useState<Edited | undefined>(() => keptFormat(key));
  const [moving, setMoving] = useState<Record<string, string>>();
  const [error, setError] = useState('');
  const navigate = useNavigate();
  useEffect(() => {
    if (changed) localStorage.setItem(place(key), JSON.stringify(changed));
    else localStorage.removeItem(place(key));
  }, [changed, key]);
  if (loaded.error) return <Failed error={loaded.error} onRetry={() => void loaded.refetch()} />;
  if (!loaded.data) return <Loading what="Opening the format" />;
  const format: Edited = changed ?? { ...loaded.data, was: [...loaded.data.stages] };
  const set = (change: Partial<Edited>) => {
    setError('');
    setChanged({ ...format, ...change });
  };
  const setStages = (stages: string[], hours: number[], was: string[], steps = format.steps) =>
    set({ stages, hours, was, steps });

  /** Stages that go while pieces stand at them, and that no renamed stage stands for. */
  const going = () =>
    Object.keys(loaded.data.standing).filter((stage) => !format.stages.includes(stage) && !format.was.includes(stage));
  const keep = async (moved: Record<string, string> = {}) => {
    // A stage that was renamed keeps its pieces.
    for (const [at, was] of format.was.entries()) if (was && was !== format.stages[at]) moved[was] = format.stages[at]!;
    try {
      await carryOut(
        done(
          api.PUT('/api/formats/{key}', {
            params: { path },
            body: { ...bare(format), version: format.version, moved },
          }),
        ),
        `${format.name} is kept.`,
      );
      setMoving(undefined);
      setChanged(undefined);
      await refreshPiece();
    } catch (problem) {
      setMoving(undefined);
      setError(
        problem instanceof Problem && problem.status === 409
          ? 'The format was changed in another place since you began. Leave yours, or keep it over that one by pressing once more.'
          : (problem as Error).message,
      );
      if (problem instanceof Problem && problem.status === 409 && changed)
        setChanged({ ...changed, version: (problem.current as Format).version });
    }
  };
  const pressed = () => {
    const stages = going();
    if (stages.length > 0) setMoving(Object.fromEntries(stages.map((stage) => [stage, format.stages[0]!])));
    else void keep();
  };

  return (
    <div className="flex h-full max-lg:block max-lg:overflow-y-auto">
      <div className="min-w-0 flex-1 overflow-y-auto px-9 py-7 max-lg:overflow-visible max-md:px-4">
        <Link to="/bench/formats" className="link text-[12.5px]">
          ‹ all formats
        </Link>
        <header className="mt-1 mb-2 flex flex-wrap items-baseline gap-4">
          <input
            aria-label="Name of the format"
            value={format.name}
            maxLength={60}
            onChange={(event) => set({ name: event.target.value })}
            className="written min-w-0 flex-1 border-b border-transparent bg-transparent text-[26px] font-semibold outline-none hover:border-hair focus:border-blue"
          />
          <span className="flex gap-2">
            {changed && (
              <Button look="quiet" onClick={() => setChanged(undefined)}>
                Leave it as it was
              </Button>
            )}
            <Button look="main" disabled={!changed} onClick={pressed}>
              Keep this format
            </Button>
          </span>
        </header>
        <p className="max-w-prose text-second">
          {loaded.data.pieces === 0
            ? 'No piece has it yet.'
            : `${loaded.data.pieces === 1 ? 'One piece has it and keeps its' : `${loaded.data.pieces} pieces have it and keep their`} sections and steps; what is new is offered to those in work.`}
        </p>
        {error && (
          <p role="alert" className="mt-3 border-l-[3px] border-red pl-3">
            {error} What you changed is still here.
          </p>
        )}

        <Part title="Stages" note="in order; at the last one a piece is out">
          <Rows
            name="stage"
            items={format.stages.map((stage, at) => ({
              stage,
              hours: format.hours[at] ?? 0,
              was: format.was[at] ?? '',
            }))}
            labelOf={(row) => row.stage}
            blank={() => ({ stage: '', hours: 0, was: '' })}
            onChange={(rows) => {
              const stages = rows.map((row) => row.stage);
              // Steps of a stage that goes are those of the one in its place.
              const gone = format.stages.findIndex((stage) => !stages.includes(stage));
              const instead = stages[Math.min(gone, stages.length - 1)] ?? '';
              setStages(
                stages,
                rows.map((row) => row.hours),
                rows.map((row) => row.was),
                format.steps.map((step) => (stages.includes(step.stage) ? step : { ...step, stage: instead })),
              );
            }}
          >
            {(row, change, at) => (
              <>
                <input
                  aria-label={`Stage ${at + 1}`}
                  value={row.stage}
                  placeholder="what it is called"
                  onChange={(event) => {
                    const stage = event.target.value;
                    const stages = format.stages.map((s, i) => (i === at ? stage : s));
                    setStages(
                      stages,
                      [...format.hours],
                      format.was,
                      format.steps.map((step) => (step.stage === row.stage ? { ...step, stage } : step)),
                    );
                  }}
                  className={text}
                />
                <Small
                  label={`Usual hours at ${row.stage}`}
                  value={row.hours}
                  unit="hours"
                  onChange={(hours) => change({ ...row, hours: hours ?? 0 })}
                />
                <span className="w-24 text-[12px] text-second">
                  {at === format.stages.length - 1
                    ? 'out'
                    : (loaded.data.standing[row.was] ?? 0) > 0
                      ? `${loaded.data.standing[row.was]} here`
                      : ''}
                </span>
              </>
            )}
          </Rows>
        </Part>

        <Part title="Sections" note="a new piece begins with them">
          <Sections items={format.skeleton} beats={format.beats} onChange={(skeleton) => set({ skeleton })} />
        </Part>
        <Part title="Sections that can be laid in later" note="">
          <Sections items={format.later} beats={format.beats} onChange={(later) => set({ later })} />
        </Part>

        <Part title="Checklists" note="what is to be done at each stage, with how">
          {format.stages.map((stage) => (
            <div key={stage} className="mt-3">
              <h3 className="text-[12.5px] font-semibold text-second">{stage || 'a stage without a name'}</h3>
              <Rows
                name={`step of ${stage}`}
                items={format.steps.filter((step) => step.stage === stage)}
                labelOf={(step) => step.text}
                blank={() => ({ stage, text: '', instructions: '', address: '', who: '', number: 0 })}
                onChange={(own) =>
                  set({
                    steps: format.stages.flatMap((s) =>
                      s === stage ? own : format.steps.filter((step) => step.stage === s),
                    ),
                  })
                }
              >
                {(step, change, at) => (
                  <div className="min-w-0 flex-1">
                    <input
                      aria-label={`Step ${at + 1} of ${stage}`}
                      value={step.text}
                      placeholder="what is to be done"
                      onChange={(event) => change({ ...step, text: event.target.value })}
                      className={`${text} w-full`}
                    />
                    <details className="text-[12.5px] text-second" open={step.text === '' ? undefined : false}>
                      <summary className="cursor-pointer">
                        {[
                          step.who && `by ${step.who}`,
                          step.address && 'with a page',
                          step.instructions ? 'with how' : 'how, who, a page',
                        ]
                          .filter(Boolean)
                          .join(' · ')}
                      </summary>
                      <textarea
                        aria-label={`How: step ${at + 1} of ${stage}`}
                        value={step.instructions}
                        rows={3}
                        placeholder="how it is done, in Markdown"
                        onChange={(event) => change({ ...step, instructions: event.target.value })}
                        className="written mt-1 block w-full border border-hair bg-transparent px-2 py-1 text-[14.5px] text-ink outline-none focus:border-blue"
                      />
                      <span className="mt-1 flex gap-4">
                        <input
                          aria-label={`Who: step ${at + 1} of ${stage}`}
                          value={step.who}
                          placeholder="who does it"
                          onChange={(event) => change({ ...step, who: event.target.value })}
                          className={`${text} w-40`}
                        />
                        <input
                          aria-label={`Page: step ${at + 1} of ${stage}`}
                          value={step.address}
                          placeholder="https:// a page to open"
                          onChange={(event) => change({ ...step, address: event.target.value })}
                          className={`${text} min-w-0 flex-1`}
                        />
                      </span>
                    </details>
                  </div>
                )}
              </Rows>
            </div>
          ))}
        </Part>

        <Part title="Own fields" note="what else is to be known of such a piece">
          <Rows
            name="field"
            items={format.fields}
            labelOf={(field) => field.name}
            blank={() => ({ key: '', name: '', kind: 'text' as const, choices: null, onRow: false })}
            onChange={(fields) => set({ fields })}
          >
            {(field, change, at) => (
              <>
                <input
                  aria-label={`Field ${at + 1}`}
                  value={field.name}
                  placeholder="what it is called"
                  onChange={(event) => change({ ...field, name: event.target.value })}
                  className={text}
                />
                <select
                  aria-label={`What field ${at + 1} holds`}
                  value={field.kind}
                  onChange={(event) => change({ ...field, kind: event.target.value as typeof field.kind })}
                  className="bg-transparent"
                >
                  {kinds.map(([kind, said]) => (
                    <option key={kind} value={kind}>
                      {said}
                    </option>
                  ))}
                </select>
                {field.kind === 'choice' && (
                  <input
                    aria-label={`Choices of field ${at + 1}`}
                    value={(field.choices ?? []).join(', ')}
                    placeholder="asked, given, refused"
                    onChange={(event) =>
                      change({ ...field, choices: event.target.value.split(',').map((c) => c.trimStart()) })
                    }
                    className={`${text} w-40`}
                  />
                )}
                <label className="flex items-center gap-1.5 text-[12px] whitespace-nowrap text-second">
                  <input
                    type="checkbox"
                    checked={field.onRow}
                    onChange={(event) => change({ ...field, onRow: event.target.checked })}
                    className="accent-(--blue)"
                  />
                  on its row
                </label>
              </>
            )}
          </Rows>
        </Part>

        <Part title="Side texts" note="written beside the draft, each with its own limit">
          <Rows
            name="side text"
            items={format.sideTexts}
            labelOf={(side) => side.name}
            blank={() => ({ key: '', name: '', limit: null })}
            onChange={(sideTexts) => set({ sideTexts })}
          >
            {(side, change, at) => (
              <>
                <input
                  aria-label={`Side text ${at + 1}`}
                  value={side.name}
                  placeholder="description, show notes …"
                  onChange={(event) => change({ ...side, name: event.target.value })}
                  className={text}
                />
                <LimitField
                  label={`Limit of side text ${at + 1}`}
                  limit={side.limit}
                  onChange={(limit) => change({ ...side, limit })}
                />
              </>
            )}
          </Rows>
        </Part>

        <Part title="Limits" note="as an outlet counts">
          <div className="flex flex-wrap gap-x-8 gap-y-2 py-1 text-[13px]">
            <span className="flex items-baseline gap-2">
              one section{' '}
              <LimitField
                label="Limit of a section"
                limit={format.limits.part}
                onChange={(part) => set({ limits: { ...format.limits, part } })}
              />
            </span>
            <span className="flex items-baseline gap-2">
              the whole{' '}
              <LimitField
                label="Limit of the whole"
                limit={format.limits.whole}
                onChange={(whole) => set({ limits: { ...format.limits, whole } })}
              />
            </span>
            <span className="flex items-baseline gap-2">
              a link counts as
              <Small
                label="A link counts as"
                value={format.limits.linkLength}
                unit="characters"
                empty="as it stands"
                onChange={(linkLength) => set({ limits: { ...format.limits, linkLength } })}
              />
            </span>
            <select
              aria-label="How characters are counted"
              value={format.limits.countAs}
              onChange={(event) =>
                set({ limits: { ...format.limits, countAs: event.target.value as Format['limits']['countAs'] } })
              }
              className="bg-transparent text-second"
            >
              <option value="graphemes">characters as one sees them</option>
              <option value="codeUnits">characters as programs hold them</option>
            </select>
          </div>
        </Part>

        <Patterns format={format} onChange={set} />

        <Part title="Where its title is shown" note="with how many characters; the usual places when there are none">
          <Rows
            name="place"
            items={format.titlePlaces}
            labelOf={(row) => row.name}
            blank={() => ({ name: '', most: 60 })}
            onChange={(titlePlaces) => set({ titlePlaces })}
          >
            {(row, change, at) => (
              <span className="flex min-w-0 flex-1 items-baseline gap-3">
                <input
                  aria-label={`Place ${at + 1}`}
                  value={row.name}
                  placeholder="a mail on a phone …"
                  onChange={(event) => change({ ...row, name: event.target.value })}
                  className={text}
                />
                <input
                  type="number"
                  min={1}
                  aria-label={`Characters that ${row.name || `place ${at + 1}`} shows`}
                  value={row.most}
                  onChange={(event) => change({ ...row, most: Number(event.target.value) })}
                  className="figures w-16 border-b border-hair bg-transparent text-right outline-none focus:border-blue"
                />
                <span className="text-second">characters</span>
              </span>
            )}
          </Rows>
        </Part>

        <Part title="Folders" note="made on the disk for each piece, under its own">
          <Rows
            name="folder"
            items={format.folders.map((folder) => ({ folder }))}
            labelOf={(row) => row.folder}
            blank={() => ({ folder: '' })}
            onChange={(rows) => set({ folders: rows.map((row) => row.folder) })}
          >
            {(row, change, at) => (
              <input
                aria-label={`Folder ${at + 1}`}
                value={row.folder}
                placeholder="raw, final …"
                onChange={(event) => change({ folder: event.target.value })}
                className={text}
              />
            )}
          </Rows>
        </Part>

        <Part title="Afterwards" note="what becomes of it when it is out">
          <label className="flex min-h-8 cursor-pointer items-center gap-3 py-1.5">
            <input
              type="checkbox"
              checked={format.isReused}
              onChange={(event) => set({ isReused: event.target.checked })}
              className="accent-(--blue)"
            />
            <span>it is used again: passages, short ones, clips or cuts are made of it</span>
          </label>
        </Part>

        <p className="mt-8 mb-4 border-t border-hair pt-3 text-[12.5px]">
          <a className="link" href={`/api/formats/${key}/file`} download>
            take it out as a file
          </a>
          {loaded.data.pieces === 0 && (
            <button
              type="button"
              className="link ml-6 text-red"
              onClick={() =>
                void carryOut(
                  done(api.DELETE('/api/formats/{key}', { params: { path } })),
                  `${loaded.data.name} is taken out.`,
                ).then(
                  async () => {
                    setChanged(undefined);
                    await refreshPiece();
                    void navigate('/bench/formats');
                  },
                  (problem: Error) => setError(problem.message),
                )
              }
            >
              take this format out of the papers
            </button>
          )}
        </p>
      </div>
      <Trial format={format} />
      {moving && (
        <Dialog title="Where do they go?" open onClose={() => setMoving(undefined)}>
          <p className="text-second">
            Pieces stand at {Object.keys(moving).length === 1 ? 'a stage' : 'stages'} that will be gone.
          </p>
          {Object.entries(moving).map(([stage, to]) => (
            <label key={stage} className="flex items-baseline gap-3 border-b border-rule py-2">
              <span className="flex-1">
                <b>{stage}</b> <span className="text-second">· {loaded.data.standing[stage]} here</span>
              </span>
              <select
                aria-label={`Where those at ${stage} go`}
                value={to}
                onChange={(event) => setMoving({ ...moving, [stage]: event.target.value })}
              >
                {format.stages.map((one) => (
                  <option key={one}>{one}</option>
                ))}
              </select>
            </label>
          ))}
          <div className="mt-4 text-right">
            <Button look="main" onClick={() => void keep({ ...moving })}>
              Move them and keep the format
            </Button>
          </div>
        </Dialog>
      )}
    </div>
  );
}

const text =
  'written min-w-0 flex-1 max-md:min-w-[60%] border-b border-transparent bg-transparent text-[15px] outline-none placeholder:italic hover:border-hair focus:border-blue';

/** What goes to the server of what is edited: all but what is computed. */
function bare(edited: Edited) {
  const { key, name, stages, hours, skeleton, later, beats, limits, fields, steps, sideTexts } = edited;
  const { titlePattern, template, folders, isReused, isPutAway, version } = edited;
  return {
    ...{ key, name, stages, hours, skeleton, later, beats, limits, fields, steps, sideTexts },
    ...{ titlePattern, template, folders, isReused, isPutAway, version },
  };
}

function Part({ title, note, children }: { title: string; note: string; children: React.ReactNode }) {
  return (
    <section aria-label={title} className="mt-7">
      <h2 className="flex items-baseline gap-3 border-b border-ink pb-1">
        <span className="label">{title}</span>
        <span className="text-[12px] font-normal text-second">{note}</span>
      </h2>
      {children}
    </section>
  );
}

function Sections({
  items,
  beats,
  onChange,
}: {
  items: Format['skeleton'];
  beats: Format['beats'];
  onChange: (items: Format['skeleton']) => void;
}) {
  return (
    <Rows
      name="section"
      items={items}
      labelOf={(section) => section.title}
      blank={() => ({ title: '', beat: '', aim: null, depth: items.at(-1)?.depth ?? 1, number: 0 })}
      onChange={onChange}
    >
      {(section, change, at) => (
        <>
          <span
            className="flex min-w-0 flex-1 items-baseline max-md:min-w-full"
            style={{ paddingLeft: (section.depth - 1) * 18 }}
          >
            <input
              aria-label={`Section ${at + 1}`}
              value={section.title}
              placeholder="its heading"
              onChange={(event) => change({ ...section, title: event.target.value })}
              className={text}
            />
          </span>
          <input
            aria-label={`Beat of section ${at + 1}`}
            value={section.beat}
            list="beats"
            placeholder="beat"
            onChange={(event) => change({ ...section, beat: event.target.value })}
            className="w-24 border-b border-transparent bg-transparent text-[13px] text-second outline-none placeholder:italic hover:border-hair focus:border-blue"
          />
          <datalist id="beats">
            {beats.map((beat) => (
              <option key={beat} value={beat} />
            ))}
          </datalist>
          <Small
            label={`Words of section ${at + 1}`}
            value={section.aim}
            unit="words"
            onChange={(aim) => change({ ...section, aim })}
          />
          <span className="whitespace-nowrap">
            <button
              type="button"
              aria-label={`Section ${at + 1} one step out`}
              disabled={section.depth === 1}
              onClick={() => change({ ...section, depth: section.depth - 1 })}
              className="min-h-6 min-w-6 text-second hover:text-blue disabled:opacity-30"
            >
              ‹
            </button>
            <button
              type="button"
              aria-label={`Section ${at + 1} one step in`}
              disabled={at === 0 || section.depth > items[at - 1]!.depth || section.depth >= 5}
              onClick={() => change({ ...section, depth: section.depth + 1 })}
              className="min-h-6 min-w-6 text-second hover:text-blue disabled:opacity-30"
            >
              ›
            </button>
          </span>
        </>
      )}
    </Rows>
  );
}

type Limit = Format['limits']['part'];

function LimitField({ label, limit, onChange }: { label: string; limit: Limit; onChange: (limit: Limit) => void }) {
  return (
    <span className="flex items-baseline gap-2 text-[13px] text-second">
      <Small
        label={label}
        value={limit?.most ?? null}
        unit=""
        empty="no limit"
        onChange={(most) => onChange(most === null ? null : { most, in: limit?.in ?? 'characters' })}
      />
      {limit && (
        <select
          aria-label={`${label} is counted in`}
          value={limit.in}
          onChange={(event) => onChange({ ...limit, in: event.target.value as 'characters' | 'words' })}
          className="bg-transparent"
        >
          <option value="characters">characters</option>
          <option value="words">words</option>
        </select>
      )}
    </span>
  );
}

/** What is filled in when a piece begins: its title and the text before its first section. */
function Patterns({ format, onChange }: { format: Edited; onChange: (change: Partial<Edited>) => void }) {
  const offers = useTried(format, undefined)?.fillIns;
  if (!offers) return null;
  return (
    <>
      <Part title="Title" note="what a new one is called; empty leaves its title as it is">
        <FillInText
          label="Title pattern"
          value={format.titlePattern}
          placeholder="put its title and number in from the list"
          offers={offers}
          onChange={(titlePattern) => onChange({ titlePattern: titlePattern.replaceAll('\n', ' ') })}
        />
      </Part>
      <Part title="Text it begins with" note="before the first section; headings in it are sections too">
        <FillInText
          label="Text it begins with"
          value={format.template}
          placeholder="nothing"
          offers={offers}
          onChange={(template) => onChange({ template })}
        />
      </Part>
    </>
  );
}

function useTried(format: Edited, piece: number | undefined) {
  const [asked, setAsked] = useState(format);
  useEffect(() => {
    const timer = setTimeout(() => setAsked(format), 250);
    return () => clearTimeout(timer);
  }, [format]);
  const body = { format: bare(asked), piece: piece || undefined };
  return useQuery({
    queryKey: keys.tried(body),
    queryFn: () => ask(api.POST('/api/formats/tried', { body })),
    placeholderData: keepPreviousData,
  }).data;
}

/** The format as it would be, on a piece; nothing is changed. */
function Trial({ format }: { format: Edited }) {
  const pieces = (usePieces().data ?? [])
    .slice()
    .sort((a, b) => Number(b.format === format.key) - Number(a.format === format.key));
  const [chosen, setChosen] = useState<number>();
  const piece = chosen ?? pieces.find((p) => p.format === format.key)?.number;
  const tried = useTried(format, piece);
  const fault = (what: string, at: { line: number; column: number; reason: string } | null | undefined) =>
    at && (
      <p role="alert" className="mt-1 text-red">
        {what}
        {at.line > 0 ? `, line ${at.line}, character ${at.column}` : ''}: {at.reason}
      </p>
    );
  return (
    <aside
      aria-label="Tried on a piece"
      className="w-[420px] shrink-0 overflow-y-auto border-l border-hair bg-quiet px-7 py-7 max-lg:w-auto max-lg:border-t max-lg:border-l-0 max-md:px-4"
    >
      <h2 className="label border-b border-hair pb-1.5">Tried on a piece</h2>
      <select
        aria-label="The piece it is tried on"
        value={piece ?? ''}
        onChange={(event) => setChosen(Number(event.target.value) || 0)}
        className="mt-2 w-full bg-transparent text-second"
      >
        <option value="">a made-up piece</option>
        {pieces.slice(0, 60).map((one) => (
          <option key={one.number} value={one.number}>
            P {one.number} {one.title}
          </option>
        ))}
      </select>
      {tried && (
        <>
          {tried.problem && (
            <p role="alert" className="mt-3 border-l-[3px] border-red pl-3">
              It can’t be kept like this: {tried.problem}
            </p>
          )}
          <p className="written mt-4 text-[19px] leading-snug font-semibold">{tried.title}</p>
          {fault('Title', tried.titleFault)}
          {tried.text.trim() && <p className="written mt-3 text-[15px] whitespace-pre-wrap">{tried.text}</p>}
          {fault('Text', tried.textFault)}
          {format.skeleton.map((section, at) => (
            <p key={at} className="mt-2 flex items-baseline gap-3" style={{ paddingLeft: (section.depth - 1) * 18 }}>
              <span className="written min-w-0 flex-1 text-[16px] font-semibold">{section.title || '…'}</span>
              <span className="narrow figures text-[12px] text-second">
                {[section.beat, section.aim].filter(Boolean).join(' · ')}
              </span>
            </p>
          ))}
          {tried.over.length > 0 && (
            <div className="mt-5">
              <h3 className="label border-b border-hair pb-1 text-second">Over a limit</h3>
              {tried.over.map((part, at) => (
                <p key={at} className="flex items-baseline gap-3 border-b border-rule py-1.5">
                  <span className="min-w-0 flex-1 truncate">{part.title}</span>
                  <b className="figures text-red">
                    {part.measured.has} of {part.measured.most} {part.measured.in}
                  </b>
                </p>
              ))}
            </div>
          )}
        </>
      )}
    </aside>
  );
}
