import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { api, ask, done } from '../api/client';
import { keys, queryClient } from '../api/queries';
import type { components } from '../api/schema';
import { carryOut, say } from '../papers/notices';
import { useOutlets } from '../plan/planning';
import { ActionMenu } from '../ui/ActionMenu';
import { Button } from '../ui/Button';
import { DateField } from '../ui/DateField';
import { Prose } from '../ui/MarkdownText';
import { Failed, Loading } from '../ui/States';
import { TextField } from '../ui/TextField';
import { TopicWords } from '../ui/TopicWord';
import { longDay, nearDay, shortDay } from '../ui/dates';
import { useClosings } from './closing/closing';
import { FiguresPart } from './figures/FiguresPart';
import { CorrectDialog } from './CorrectDialog';
import { NoteRelease } from './NoteRelease';
import { useConnections } from './queue/queue';
import { RecordingLine } from './RecordingLine';
import { FamilyPart } from './reuse/FamilyPart';
import { SpeaksOf } from './SpeaksOf';
import { kinds, several, useCatalogue, type Release } from './catalogue';

export type ReleaseEdit = Omit<components['schemas']['ReleaseChange'], 'version'>;

/** One release: the text as it was sent, and all that is known of its going out. */
export default function ReleasePage() {
  const number = Number(useParams().number);
  const release = useQuery({
    queryKey: keys.release(number),
    queryFn: () => ask(api.GET('/api/releases/{number}', { params: { path: { number: String(number) } } })),
  });
  useEffect(() => {
    document.title = release.data ? `${release.data.title} · Nachlass` : 'Release · Nachlass';
  }, [release.data]);
  if (release.error) return <Failed error={release.error} onRetry={() => void release.refetch()} />;
  if (!release.data) return <Loading what="Opening the release" />;
  return <Opened release={release.data} />;
}

const ways: Record<Release['way'], string> = {
  stage: 'noted as its piece came to its last stage',
  hand: 'sent by hand',
  sent: 'sent from the queue',
  broughtIn: 'brought in',
};

function Opened({ release }: { release: Release }) {
  const outlets = useOutlets();
  const navigate = useNavigate();
  const row = useCatalogue().data?.rows.find((one) => one.piece === release.piece);
  const isFeed = useConnections().some((one) => one.outlet === release.outlet && one.kind === 'feed');
  const [noting, setNoting] = useState(false);
  const [correcting, setCorrecting] = useState(false);
  const closed = useClosings().data?.find((one) => one.piece === release.piece)?.closedAt;
  const outlet = outlets.find((one) => one.number === release.outlet);
  const path = { number: String(release.number) };
  const edit = async (body: ReleaseEdit, said?: string) => {
    await carryOut(
      done(api.PATCH('/api/releases/{number}', { params: { path }, body: { version: release.version, ...body } })),
      said,
      true,
    );
    await queryClient.invalidateQueries();
  };
  const files =
    useQuery({
      queryKey: keys.attachments('piece', release.piece),
      queryFn: () =>
        ask(
          api.GET('/api/attachments/{kind}/{number}', { params: { path: { kind: 'piece', number: release.piece } } }),
        ),
    }).data ?? [];
  const others = row?.releases.filter((one) => one.number !== release.number) ?? [];
  const remove = () =>
    void carryOut(done(api.DELETE('/api/releases/{number}', { params: { path } })), `Took R ${release.number} away.`)
      .then(() => navigate(others[0] ? `/catalogue/${others[0].number}` : '/catalogue'))
      .then(() => queryClient.invalidateQueries())
      .catch(() => undefined);
  const line = (name: string, what: React.ReactNode) => (
    <div className="flex items-baseline gap-4 border-b border-rule py-1.5">
      <dt className="w-20 shrink-0 text-[12.5px] text-second">{name}</dt>
      <dd className="min-w-0 flex-1">{what}</dd>
    </div>
  );
  return (
    <div className="flex h-full max-lg:block max-lg:overflow-y-auto">
      <article className="min-w-0 flex-1 overflow-y-auto px-9 py-6 max-lg:overflow-visible max-md:px-4">
        <header className="mb-5 max-w-[42rem]">
          <p className="figures flex flex-wrap items-baseline gap-x-4 text-[12.5px] text-second">
            <Link to="/catalogue" className="link">
              What went out
            </Link>
            <span className="narrow font-semibold">R {release.number}</span>
            <span>
              {longDay(release.outOn)}
              {outlet && `, ${outlet.name}`}
            </span>
          </p>
          <h1 className="written mt-1 text-[27px] leading-tight font-semibold break-words">{release.title}</h1>
          {row && (
            <p className="mt-1.5">
              <TopicWords topics={row.topics} linked />
            </p>
          )}
        </header>
        {release.picture && (
          <img
            src={`/api/releases/${release.number}/picture`}
            alt={release.picture.shows}
            className="mb-2 max-h-[26rem] max-w-full border border-rule"
          />
        )}
        {release.picture?.credit && <p className="mb-5 text-[12.5px] text-second">{release.picture.credit}</p>}
        <Prose html={release.html ?? ''} className="written max-w-[42rem] text-[17px] leading-[1.6]" />
        <p className="figures mt-8 max-w-[42rem] border-t border-hair pt-2 text-[12px] text-second">
          {several(release.words, 'word')} as sent · <span className="break-all">SHA-256 {release.hash}</span>
        </p>
      </article>
      <aside
        aria-label="About this release"
        className="w-[400px] shrink-0 overflow-y-auto border-l border-hair bg-quiet px-[26px] py-6 max-lg:w-auto max-lg:border-t max-lg:border-l-0 max-md:px-4"
      >
        <h2 className="label flex items-baseline border-b border-ink pb-2">
          How it went out
          <ActionMenu
            label="More about this release"
            className="link ml-auto text-[12.5px] font-semibold tracking-normal normal-case"
            actions={[
              { key: 'note', label: 'It went out elsewhere too', onChoose: () => setNoting(true) },
              { key: 'correct', label: 'Put an error right', onChoose: () => setCorrecting(true) },
              // What was sent from here was no mistake of noting; it is kept.
              ...(release.way === 'sent'
                ? []
                : [{ key: 'remove', label: 'Noted by mistake: take it away', onChoose: remove }]),
            ]}
          >
            more
          </ActionMenu>
        </h2>
        <dl className="text-[13.5px]">
          {line(
            'Piece',
            <Link to={`/bench/${release.piece}`} className="link">
              P {release.piece}
            </Link>,
          )}
          {line(
            'Learned',
            <Link to={`/catalogue/close/${release.piece}`} className="link">
              {closed ? `closed ${nearDay(closed.slice(0, 10))}` : 'close the piece'}
            </Link>,
          )}
          {line('Outlet', outlet?.name ?? 'not said')}
          {line(
            'On',
            <DateField
              label="The day it went out"
              needed
              value={release.outOn}
              onChange={(day) => {
                if (day && day !== release.outOn) void edit({ outOn: day }, 'Changed its day.').catch(() => undefined);
              }}
            />,
          )}
          {line(
            'Address',
            <>
              <TextField
                label="Address"
                shown={false}
                place={`release.${release.number}.address`}
                value={release.address}
                placeholder="https://…, where it can be read"
                onSave={(address) => edit({ address })}
              />
              {release.address && (
                <a href={release.address} target="_blank" rel="noreferrer" className="link text-[12.5px]">
                  read it there
                </a>
              )}
            </>,
          )}
          {line(
            'Summary',
            <TextField
              label="Summary line"
              shown={false}
              place={`release.${release.number}.summary`}
              value={release.summary}
              placeholder={row?.summary || 'made of what it speaks of'}
              onSave={(summary) => edit({ summary })}
            />,
          )}
          {files.length > 0 &&
            line(
              'Files',
              <ul aria-label="Files of its piece">
                {files.map((file) => (
                  <li key={file.number}>
                    <a
                      href={`/api/attachments/${file.number}/content`}
                      target="_blank"
                      rel="noreferrer"
                      className="link break-all"
                    >
                      {file.name}
                    </a>
                  </li>
                ))}
              </ul>,
            )}
          {line('How', ways[release.way])}
          {line(
            'Kind',
            <select
              aria-label="Kind"
              value={release.kind}
              onChange={(event) =>
                void edit({ kind: event.target.value as Release['kind'] }, 'Changed its kind.').catch(() => undefined)
              }
              className="-ml-1 bg-transparent py-0.5 outline-none focus:border-blue"
            >
              {(Object.keys(kinds) as Release['kind'][]).map((kind) => (
                <option key={kind} value={kind} className="bg-sheet">
                  {kinds[kind] || 'of the usual run'}
                </option>
              ))}
            </select>,
          )}
          {(release.recording || isFeed || release.kind === 'spoken') &&
            line('Recording', <RecordingLine release={release} />)}
        </dl>
        <SpeaksOf release={release} onEdit={edit} />
        <FamilyPart piece={release.piece} />
        <FiguresPart release={release} onEdit={edit} />
        {release.corrections.length > 0 && (
          <section aria-label="Put right" className="mt-6">
            <h2 className="label border-b border-hair pb-1.5">Put right</h2>
            <ul>
              {release.corrections.map((one) => (
                <li key={one.at} className="border-b border-rule py-2">
                  <p className="text-[13.5px]">{one.note}</p>
                  {one.thereAt ? (
                    <p className="text-[12.5px] text-second">
                      stands where it went out since {shortDay(one.thereAt.slice(0, 10))}
                    </p>
                  ) : (
                    one === release.corrections.at(-1) && <PutRightThere release={release} />
                  )}
                  <details className="mt-0.5 text-[12.5px] text-second">
                    <summary className="min-h-6 cursor-pointer hover:text-blue">
                      {shortDay(one.at.slice(0, 10))}; the text since then
                    </summary>
                    <pre className="written mt-1 max-h-64 overflow-y-auto text-[13px] whitespace-pre-wrap text-ink">
                      {one.text}
                    </pre>
                  </details>
                </li>
              ))}
            </ul>
          </section>
        )}
        {others.length > 0 && (
          <section aria-label="Elsewhere" className="mt-6">
            <h2 className="label border-b border-hair pb-1.5">Elsewhere</h2>
            <ul>
              {others.map((one) => (
                <li key={one.number} className="figures flex items-baseline gap-3 border-b border-rule py-1.5">
                  <Link to={`/catalogue/${one.number}`} className="link narrow text-[12px]">
                    R {one.number}
                  </Link>
                  <span className="flex-1">{outlets.find((o) => o.number === one.outlet)?.name ?? 'not said'}</span>
                  <span className="text-[12.5px] text-second">{shortDay(one.outOn)}</span>
                </li>
              ))}
            </ul>
          </section>
        )}
        <p className="mt-5">
          <Button onClick={() => setNoting(true)}>It went out elsewhere too</Button>
        </p>
      </aside>
      {noting && (
        <NoteRelease piece={release.piece} title={release.title} outlet={null} onClose={() => setNoting(false)} />
      )}
      {correcting && <CorrectDialog release={release} onClose={() => setCorrecting(false)} />}
    </div>
  );
}

/** Puts the last correction in where the release went out. */
function PutRightThere({ release }: { release: Release }) {
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState('');
  const put = async () => {
    setBusy(true);
    try {
      const answer = await ask(
        api.POST('/api/releases/{number}/corrections/there', { params: { path: { number: String(release.number) } } }),
      );
      setProblem(answer.problem);
      if (!answer.problem) say('It stands there put right.');
    } catch (error) {
      setProblem((error as Error).message);
    } finally {
      setBusy(false);
      await queryClient.invalidateQueries();
    }
  };
  return (
    <p className="mt-1 text-[12.5px]">
      <Button disabled={busy} onClick={() => void put()}>
        {busy ? 'Putting it right there …' : 'Put it right there too'}
      </Button>
      {problem && (
        <span role="alert" className="mt-1 block text-red">
          {problem}
        </span>
      )}
    </p>
  );
}
