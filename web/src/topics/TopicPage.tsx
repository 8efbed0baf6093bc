import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { api, ask, done, type TopicColour } from '../api/client';
import type { components } from '../api/schema';
import { keys, useTopics } from '../api/queries';
import { carryOut } from '../papers/notices';
import { StartPiece } from '../bench/StartPiece';
import { FewIdeas } from '../choosing/Ideas';
import { BibliographyDialog } from '../sources/BibliographyDialog';
import { History, LinkedFrom } from '../sources/Connections';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { Empty, Failed, Loading } from '../ui/States';
import { TextField } from '../ui/TextField';
import { Found } from '../ui/Found';
import { addressOfEntry, idOf, kindOf, numberOf, titleOf } from '../sources/entries';
import { TopicWord } from '../ui/TopicWord';
import { Unlinked } from '../sources/Unlinked';
import { shortDay, today } from '../ui/dates';
import { Part, PieceLine, Slips } from './TopicParts';

const colours: TopicColour[] = ['teal', 'violet', 'brick', 'ochre', 'moss', 'slate', 'plum', 'umber'];

/** A search through this topic and those under it, of slips, sources and pieces. */
function SearchHere({ topic }: { topic: string }) {
  const [typed, setTyped] = useState('');
  const [asked, setAsked] = useState('');
  useEffect(() => {
    const timer = setTimeout(() => setAsked(typed.trim()), 150);
    return () => clearTimeout(timer);
  }, [typed]);
  const query = `topic:"${topic.replaceAll('"', '')}" ${asked}`;
  const found = useQuery({
    queryKey: keys.library({ query, state: 'all' }),
    queryFn: () => ask(api.GET('/api/library', { params: { query: { query, state: 'all' } } })),
    enabled: asked !== '',
    retry: false,
    placeholderData: (previous) => previous,
  });
  const entries = asked === '' ? [] : (found.data?.items ?? []);
  return (
    <section aria-label={`Search in ${topic}`} className="mt-5">
      <input
        type="search"
        aria-label={`Search in ${topic}`}
        value={typed}
        placeholder={`Search in ${topic}`}
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && setTyped('')}
        className="w-full max-w-[420px] border-b border-hair bg-transparent py-1 text-[14px] outline-none focus:border-blue"
      />
      {asked !== '' && found.error && <p className="mt-2 text-[13px] text-red">{(found.error as Error).message}</p>}
      {asked !== '' && found.data && (
        <>
          {entries.slice(0, 12).map((entry) => (
            <Link
              key={idOf(entry)}
              to={addressOfEntry(entry)}
              className="flex items-baseline gap-3 border-b border-rule py-1.5 hover:text-blue"
            >
              <span className="narrow figures w-8 shrink-0 text-[12px] text-faint">{numberOf(entry)}</span>
              <span className="written min-w-0 flex-1 truncate text-[14.5px]">
                {entry.excerpt ? <Found text={entry.excerpt} /> : titleOf(entry)}
              </span>
              <span className="text-[12px] text-second">{kindOf(entry)}</span>
            </Link>
          ))}
          <p className="mt-1 text-[12.5px] text-second">
            {found.data.total === 0 ? (
              'Nothing on this topic has these words.'
            ) : (
              <Link className="link" to={`/library?state=all&query=${encodeURIComponent(query)}`}>
                {found.data.total === 1 ? 'it' : `all ${found.data.total}`} in the library
              </Link>
            )}
          </p>
        </>
      )}
    </section>
  );
}

/** What of this topic could be made next. */
function BeginHere({ topic }: { topic: number }) {
  const asked = { topic, most: 3 };
  const ideas = useQuery({
    queryKey: keys.worth(asked),
    queryFn: () => ask(api.GET('/api/worth', { params: { query: asked } })),
  }).data;
  if (!ideas || ideas.length === 0) return null;
  return (
    <Part
      title="Next to begin"
      count={ideas.length}
      beside={
        <Link className="link" to={`/bench/begin?topic=${topic}`}>
          all, and why
        </Link>
      }
    >
      <FewIdeas ideas={ideas} />
    </Part>
  );
}

/** One topic: what a writer would open to start work on it. */
export function TopicPage() {
  const number = Number(useParams().number);
  const client = useQueryClient();
  const navigate = useNavigate();
  const [merging, setMerging] = useState(false);
  const [starting, setStarting] = useState(false);
  const [citing, setCiting] = useState(false);
  const path = { number: String(number) };
  const opened = useQuery({
    queryKey: keys.topic(number),
    queryFn: () => ask(api.GET('/api/topics/{number}', { params: { path } })),
  });
  const all = useTopics().data ?? [];
  if (opened.error) return <Failed error={opened.error} onRetry={() => void opened.refetch()} />;
  if (!opened.data) return <Loading what="Opening the topic" />;
  const { topic, slips, sources, pieces, narrower } = opened.data;

  const change = async (fields: components['schemas']['TopicChange']) => {
    const { command, answer } = await done(
      api.PATCH('/api/topics/{number}', { params: { path }, body: { ...fields, version: topic.version } }),
    );
    await client.invalidateQueries();
    return { command, answer };
  };
  const said = (fields: components['schemas']['TopicChange'], text: string) =>
    void carryOut(change(fields), text).catch(() => undefined);
  const merge = async (into: number, name: string) => {
    setMerging(false);
    await carryOut(
      done(api.POST('/api/topics/{number}/merge', { params: { path }, body: { into } })),
      `Merged ${topic.name} into ${name}.`,
    );
    await client.invalidateQueries();
    void navigate(`/topics/${into}`);
  };
  // Each slip stands in the first part it belongs to.
  const waits = slips.filter((slip) => slip.state === 'waiting' || (slip.heldUntil ?? '9') <= today());
  const held = slips.filter((slip) => slip.state === 'held' && !waits.includes(slip));
  const kept = slips.filter((slip) => slip.state === 'kept');
  const used = kept.filter((slip) => slip.used);
  const unused = kept.filter((slip) => !slip.used);
  const strong = unused.filter((slip) => (slip.pull ?? 0) >= 4 && slip.kind !== 'question' && slip.kind !== 'ask');
  const questions = unused.filter((slip) => slip.kind === 'question');
  const asks = unused.filter((slip) => slip.kind === 'ask');
  const rest = unused.filter((slip) => ![...strong, ...questions, ...asks].includes(slip));
  const inWork = pieces.filter((piece) => !piece.outOn);
  const out = pieces.filter((piece) => piece.outOn).sort((a, b) => b.outOn!.localeCompare(a.outOn!));

  if (topic.mergedInto)
    return (
      <Empty
        title={`${topic.name} was merged`}
        action={
          <Link className="link font-semibold" to={`/topics/${topic.mergedInto}`}>
            To the topic it went into
          </Link>
        }
      />
    );

  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1080px] px-9 py-7 max-md:px-4">
        <div className="flex flex-wrap items-center gap-2">
          <Link to="/topics" className="link mr-auto text-[12.5px]">
            ‹ all topics
          </Link>
          <Link
            to={`/sift?topic=${number}`}
            className="inline-flex min-h-[28px] items-center rounded-key border border-hair bg-sheet px-3 text-[12.5px] font-semibold whitespace-nowrap hover:border-second"
          >
            {opened.data.newSince > 0
              ? `Go through ${opened.data.newSince} kept ${opened.data.newSince === 1 ? 'slip' : 'slips'} again`
              : 'Nothing new to go through'}
          </Link>
          {opened.data.newSince > 0 && (
            <Button
              title="They stay as they are, and only what comes later is new"
              onClick={() =>
                void carryOut(
                  done(api.POST('/api/topics/{number}/passed', { params: { path } })),
                  (passed) => `Passed over ${passed} kept ${passed === 1 ? 'slip' : 'slips'}.`,
                ).then(
                  () => client.invalidateQueries(),
                  () => undefined,
                )
              }
            >
              Pass over them
            </Button>
          )}
          {waits.length > 0 && (
            <Link
              to={`/sift?on=${number}`}
              className="inline-flex min-h-[28px] items-center rounded-key border border-hair bg-sheet px-3 text-[12.5px] font-semibold whitespace-nowrap hover:border-second"
            >
              Sift the {waits.length} that {waits.length === 1 ? 'waits' : 'wait'}
            </Link>
          )}
          <Link
            to={`/topics/${number}/digest`}
            className="inline-flex min-h-[28px] items-center rounded-key border border-hair bg-sheet px-3 text-[12.5px] font-semibold whitespace-nowrap hover:border-second"
          >
            Digest
          </Link>
          <Button onClick={() => setMerging(true)}>Merge…</Button>
          <Button onClick={() => setStarting(true)}>Start a piece…</Button>
          <StartPiece open={starting} onClose={() => setStarting(false)} from={{ topic: number }} />
        </div>
        <header className="mt-1 flex items-end gap-6 border-b border-ink pb-4 max-md:block">
          <div className="min-w-0 flex-1">
            <TextField
              label="Name"
              shown={false}
              value={topic.name}
              onSave={(name) => carryOut(change({ name }), `Renamed to ${name}.`)}
              className="written text-[32px] leading-tight font-semibold"
            />
            <span className="mt-1 block h-[3px] w-16" style={{ background: `var(--${topic.colour})` }} />
          </div>
          <dl className="figures flex flex-wrap gap-x-6 gap-y-3 text-right max-md:mt-4 max-md:text-left">
            {(
              [
                ['waiting', topic.waiting],
                ['kept', topic.kept],
                ['used', topic.used],
                ['sources', topic.sources],
                ['pieces', topic.pieces],
              ] as const
            ).map(([name, value]) => (
              <div key={name}>
                <dd className="written text-[22px] leading-none font-semibold">{value}</dd>
                <dt className="text-[12px] text-second">{name}</dt>
              </div>
            ))}
            <div>
              <dd className="text-[14px] leading-[22px] font-semibold whitespace-nowrap">
                {topic.lastOut ? shortDay(topic.lastOut) : 'never'}
              </dd>
              <dt className="text-[12px] text-second">last out</dt>
            </div>
          </dl>
        </header>

        <div className="mt-4 flex flex-wrap items-end gap-x-8 gap-y-3">
          <div className="w-64">
            <TextField
              label="Also called"
              value={topic.aliases.join(', ')}
              placeholder="other names, with commas"
              onSave={(text) =>
                carryOut(
                  change({
                    aliases: text
                      .split(',')
                      .map((name) => name.trim())
                      .filter(Boolean),
                  }),
                  'Other names set.',
                )
              }
            />
          </div>
          <label>
            <span className="label block text-second">Under</span>
            <select
              value={topic.wider ?? ''}
              onChange={(event) =>
                said({ wider: event.target.value ? Number(event.target.value) : null }, 'Wider topic set.')
              }
              className="bg-transparent py-0.5"
            >
              <option value="">no wider topic</option>
              {all
                .filter((other) => other.number !== number)
                .map((other) => (
                  <option key={other.number} value={other.number}>
                    {other.name}
                  </option>
                ))}
            </select>
          </label>
          <fieldset>
            <legend className="label text-second">Colour</legend>
            <div className="flex gap-1.5 py-1">
              {colours.map((colour) => (
                <button
                  key={colour}
                  type="button"
                  aria-label={colour}
                  aria-pressed={colour === topic.colour}
                  onClick={() => said({ colour }, 'Colour set.')}
                  className={`h-4 w-6 border-b-[3px] ${colour === topic.colour ? 'bg-hair/50' : 'hover:bg-hair/30'}`}
                  style={{ borderColor: `var(--${colour})` }}
                />
              ))}
            </div>
          </fieldset>
        </div>

        <SearchHere topic={topic.name} />
        {opened.data.near.map((other) => (
          <p key={other.number} className="mt-4 border-l-2 border-blue bg-quiet px-4 py-2 text-second">
            Is <TopicWord topic={other} /> the same?{' '}
            <Link className="link" to="/topics">
              See what merging would change
            </Link>
          </p>
        ))}
        {narrower.length > 0 && (
          <p className="mt-4">
            <span className="label mr-3 text-second">Narrower</span>
            {narrower.map((child) => (
              <Link
                key={child.number}
                to={`/topics/${child.number}`}
                className="written mr-4 border-b-2 text-[15px] hover:text-blue"
                style={{ borderColor: `var(--${child.colour})` }}
              >
                {child.name}
              </Link>
            ))}
          </p>
        )}

        {slips.length + sources.length + pieces.length === 0 && (
          <Empty title="Nothing stands here yet">
            Slips, sources and pieces you give this topic are gathered on this page.
          </Empty>
        )}
        <div className="mt-2 grid gap-x-12 lg:grid-cols-2">
          <div>
            <BeginHere topic={number} />
            <Slips title="Waits to be decided" slips={waits} />
            <Slips title="High pull, not used yet" slips={strong} />
            {opened.data.claims.length > 0 && (
              <Part title="Claims" count={opened.data.claims.length}>
                {opened.data.claims.map((claim) => (
                  <Link
                    key={claim.slip}
                    to={`/library/slip/${claim.slip}`}
                    className="flex items-baseline gap-4 border-b border-rule py-2 hover:text-blue"
                  >
                    <span className="written min-w-0 flex-1 text-[15.5px]">{claim.title}</span>
                    <span className="text-[12px] whitespace-nowrap text-second">
                      {claim.for} for · {claim.against} against · {Math.round(100 * claim.ready)}% ready
                    </span>
                  </Link>
                ))}
              </Part>
            )}
            <Slips title="Open questions" slips={questions} />
            <Slips title="Asks" slips={asks} />
            <Slips title="Kept, not used yet" slips={rest} />
            <Slips title="Used" slips={used} folded />
            <Slips title="Held" slips={held} folded />
            {opened.data.slipsInAll > slips.length && (
              <Link className="link mt-3 inline-block" to={`/library?topic=${number}&state=all`}>
                all {opened.data.slipsInAll} slips in the library
              </Link>
            )}
          </div>
          <div>
            {inWork.length > 0 && (
              <Part title="Pieces in work" count={inWork.length}>
                {inWork.map((piece) => (
                  <PieceLine key={piece.number} piece={piece} />
                ))}
              </Part>
            )}
            {out.length > 0 && (
              <Part title="Went out" count={out.length}>
                {out.map((piece) => (
                  <PieceLine key={piece.number} piece={piece} />
                ))}
              </Part>
            )}
            {sources.length > 0 && (
              <Part
                title="What the sources say"
                count={sources.length}
                beside={
                  <>
                    <Link className="link" to={`/topics/${number}/digest`}>
                      digest
                    </Link>
                    <button type="button" className="link" onClick={() => setCiting(true)}>
                      bibliography
                    </button>
                  </>
                }
              >
                {sources.map((source) => (
                  <div key={source.number} className="border-b border-rule py-2">
                    <Link to={`/library/source/${source.number}`} className="flex items-baseline gap-3 hover:text-blue">
                      <span className="narrow figures w-9 shrink-0 text-[12px] text-faint">{source.number}</span>
                      <span className="written min-w-0 flex-1 text-[15.5px] font-semibold">{source.title}</span>
                      <span className="text-[12px] whitespace-nowrap text-second">{source.date.slice(0, 4)}</span>
                    </Link>
                    {opened.data.takeaways
                      .filter((slip) => slip.source === source.number)
                      .slice(0, 3)
                      .map((slip) => (
                        <Link
                          key={slip.number}
                          to={`/library/slip/${slip.number}`}
                          className="written mt-1 ml-12 line-clamp-2 block text-[14px] leading-snug text-second hover:text-blue"
                        >
                          {slip.title}
                          {slip.locator && <span className="font-sans text-[12px]"> {slip.locator}</span>}
                        </Link>
                      ))}
                  </div>
                ))}
              </Part>
            )}
            {opened.data.goesWith.length > 0 && (
              <Part title="Goes with" count={opened.data.goesWith.length}>
                <p className="flex flex-wrap gap-x-5 gap-y-1.5 py-2">
                  {opened.data.goesWith.map((pair) => {
                    const other = pair.first.number === number ? pair.second : pair.first;
                    return (
                      <Link
                        key={other.number}
                        to={`/topics/${other.number}`}
                        className="hover:text-blue"
                        title={`${pair.shared} slips, sources and pieces stand under both, ${pair.times.toFixed(1)} times what chance would give`}
                      >
                        <TopicWord topic={other} />{' '}
                        <span className="figures text-[12px] text-second">{pair.shared}</span>
                      </Link>
                    );
                  })}
                </p>
              </Part>
            )}
            <LinkedFrom lines={opened.data.linkedFrom} />
            <Unlinked kind="topic" number={number} />
          </div>
        </div>
        <History lines={opened.data.history} />
      </div>
      {citing && <BibliographyDialog topic={number} onClose={() => setCiting(false)} />}
      <Dialog title={`Merge ${topic.name} into`} open={merging} onClose={() => setMerging(false)}>
        <div className="max-h-[50vh] overflow-y-auto">
          {all
            .filter((other) => other.number !== number)
            .map((other) => (
              <button
                key={other.number}
                type="button"
                onClick={() => void merge(other.number, other.name).catch(() => undefined)}
                className="flex w-full items-baseline justify-between border-b border-rule py-2 text-left hover:bg-wash focus:bg-wash"
              >
                <span className="written border-b-2 text-[15px]" style={{ borderColor: `var(--${other.colour})` }}>
                  {other.name}
                </span>
                <span className="text-second">{other.kept + other.waiting} slips</span>
              </button>
            ))}
        </div>
        <p className="mt-3 text-second">
          Everything on it follows, and “{topic.name}” stays as another name. It can be taken back.
        </p>
      </Dialog>
    </div>
  );
}
