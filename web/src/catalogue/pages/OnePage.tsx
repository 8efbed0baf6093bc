import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useParams } from 'react-router';
import { api, ask } from '../../api/client';
import { keys } from '../../api/queries';
import { Button } from '../../ui/Button';
import { Failed, Loading } from '../../ui/States';
import { longDay, shortDay } from '../../ui/dates';
import { several } from '../catalogue';
import { whenSaid } from '../queue/queue';
import { PageDialog } from './PageDialog';
import { addressOf, decide, hereOf, look, renew, setDown, useSite, type PageComment, type PageShown } from './pages';

/** One page: who reads it, and what they write under it. */
export default function OnePage() {
  const number = Number(useParams().number);
  const shown = useQuery({
    queryKey: keys.page(number),
    queryFn: () => ask(api.GET('/api/pages/{number}', { params: { path: { number: String(number) } } })),
  });
  useEffect(() => {
    document.title = shown.data ? `${shown.data.page.title} · Nachlass` : 'Page · Nachlass';
  }, [shown.data]);
  if (shown.error) return <Failed error={shown.error} onRetry={() => void shown.refetch()} />;
  if (!shown.data) return <Loading what="Opening the page" />;
  return <Opened shown={shown.data} />;
}

function Opened({ shown }: { shown: PageShown }) {
  const site = useSite().data;
  const [changing, setChanging] = useState(false);
  const { page } = shown;
  const held = shown.comments.filter((comment) => comment.state === 'held');
  const settled = shown.comments.filter((comment) => comment.state !== 'held');
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[860px] px-9 py-6 max-md:px-4">
        <Link to="/catalogue/pages" className="link text-[12.5px]">
          ‹ your own pages
        </Link>
        <h1 className="written mt-1 text-[27px] leading-tight font-semibold break-words">{page.title}</h1>
        <p className="mt-1 text-[13px] text-second">
          {page.downAt ? (
            <span className="text-red">
              down since {longDay(page.downAt.slice(0, 10))}; its address says that it is gone
            </span>
          ) : (
            <>
              <span className="break-all">{site && addressOf(site.address, shown)}</span>, up since{' '}
              {longDay(page.putUpAt.slice(0, 10))}
            </>
          )}
        </p>
        {site?.problem && (
          <p role="alert" className="mt-1 text-[13px] text-red">
            {site.problem}
          </p>
        )}
        <p className="mt-1 text-[13px] text-second">
          {page.piece ? (
            <Link to={`/bench/${page.piece}`} className="link">
              P {page.piece} {shown.of}
            </Link>
          ) : (
            <Link to={`/bench/series/${page.series}`} className="link">
              the series {shown.of}
            </Link>
          )}
          {' · '}
          {page.follows ? 'goes along with it' : `as it was on ${shortDay(page.renewedAt.slice(0, 10))}`}
          {page.asksPassphrase && ' · with a passphrase'}
          {!page.isListed && ' · not listed'}
          {page.takesComments && ' · takes comments'}
        </p>
        <div className="mt-3 flex flex-wrap items-center gap-2">
          {!page.downAt && site?.servedAt && (
            <a
              className="inline-flex min-h-[30px] items-center rounded-key border border-blue px-3 text-[12.5px] font-semibold text-blue hover:bg-wash"
              href={hereOf(site.servedAt, shown)}
              target="_blank"
              rel="noreferrer"
            >
              Read it
            </a>
          )}
          {shown.isBehind && (
            <Button look="main" onClick={() => void renew(shown)}>
              Show the text as it stands now
            </Button>
          )}
          <Button onClick={() => setChanging(true)}>Change…</Button>
          <Button onClick={() => void setDown(shown, !page.downAt)}>
            {page.downAt ? 'Put it up again' : 'Take it down'}
          </Button>
        </div>
        <Reading shown={shown} />
        {(page.takesComments || shown.comments.length > 0) && (
          <section aria-label="Comments" className="mt-8">
            <h2 className="label border-b border-ink pb-1.5">Comments</h2>
            {shown.comments.length === 0 && (
              <p className="mt-2 text-[13px] text-second">Nobody has written anything under it yet.</p>
            )}
            {held.length > 0 && (
              <ul aria-label="To read">
                {held.map((comment) => (
                  <Comment key={comment.number} comment={comment} />
                ))}
              </ul>
            )}
            {settled.length > 0 && (
              <ul aria-label="Read" className={held.length > 0 ? 'mt-4' : ''}>
                {settled.map((comment) => (
                  <Comment key={comment.number} comment={comment} />
                ))}
              </ul>
            )}
          </section>
        )}
        {changing && <PageDialog title={page.title} shown={shown} onClose={() => setChanging(false)} />}
      </div>
    </div>
  );
}

const stands: Record<PageComment['state'], string> = {
  held: 'nobody else sees it yet',
  shown: 'stands on the page',
  kept: 'a message, not on the page',
  refused: 'refused',
};

function Comment({ comment }: { comment: PageComment }) {
  const act = (state: PageComment['state'], label: string) =>
    comment.state !== state && (
      <button type="button" className="link text-[12.5px]" onClick={() => void decide(comment, state)}>
        {label}
      </button>
    );
  return (
    <li className="border-b border-rule py-3">
      <p className="text-[12.5px] text-second">
        <b className="text-ink">{comment.person}</b> · {whenSaid(comment.at)} ·{' '}
        <span className={comment.state === 'shown' ? 'text-done' : ''}>{stands[comment.state]}</span>
      </p>
      <p className="written mt-1 max-w-[40rem] text-[15px] leading-relaxed break-words whitespace-pre-line">
        {comment.text}
      </p>
      {comment.source && (
        <p className="mt-0.5 text-[12.5px]">
          <a href={comment.source} target="_blank" rel="noreferrer nofollow" className="link break-all">
            {comment.source}
          </a>
        </p>
      )}
      <p className="mt-1 flex flex-wrap gap-x-4">
        {comment.source && comment.state === 'held' && (
          <button
            type="button"
            className="link text-[12.5px] font-semibold"
            title={`Asks ${new URL(comment.source).host} for the page`}
            onClick={() => void look(comment)}
          >
            look what it says
          </button>
        )}
        {act('shown', 'show it')}
        {act('kept', comment.state === 'shown' ? 'take it off the page' : 'keep it as a message')}
        {act('refused', 'refuse it')}
      </p>
    </li>
  );
}

const shownDays = 28;

/** Views and readers by day. */
function Reading({ shown }: { shown: PageShown }) {
  const now = new Date();
  const by = new Map(shown.days.map((day) => [day.day, day]));
  const days = Array.from({ length: shownDays }, (_, back) => {
    const at = new Date(now.getFullYear(), now.getMonth(), now.getDate() - (shownDays - 1 - back));
    const key = `${at.getFullYear()}-${String(at.getMonth() + 1).padStart(2, '0')}-${String(at.getDate()).padStart(2, '0')}`;
    return by.get(key) ?? { day: key, views: 0, readers: 0 };
  });
  const most = Math.max(1, ...days.map((day) => day.views));
  return (
    <section aria-label="How it is read" className="mt-7">
      <h2 className="label flex items-baseline border-b border-ink pb-1.5">
        How it is read
        <span className="figures ml-auto font-normal tracking-normal text-second normal-case">
          {several(shown.all.readers, 'reader')}, {several(shown.all.views, 'view')} in all
        </span>
      </h2>
      {shown.all.views === 0 ? (
        <p className="mt-2 text-[13px] text-second">Nobody has read it yet.</p>
      ) : (
        <>
          <svg
            viewBox={`0 0 ${shownDays * 10} 64`}
            preserveAspectRatio="none"
            className="mt-3 h-16 w-full"
            role="img"
            aria-label={`Views by day over four weeks, ${most} at most`}
          >
            {days.map((day, at) => (
              <g key={day.day}>
                <title>{`${shortDay(day.day)}: ${several(day.views, 'view')}, ${several(day.readers, 'reader')}`}</title>
                <rect x={at * 10} y={0} width={10} height={64} fill="transparent" />
                <rect
                  x={at * 10 + 1}
                  y={63 - (day.views / most) * 60}
                  width={8}
                  height={(day.views / most) * 60 + 1}
                  className={day.views > 0 ? 'fill-hair' : 'fill-rule'}
                />
                <rect
                  x={at * 10 + 1}
                  y={63 - (day.readers / most) * 60}
                  width={8}
                  height={(day.readers / most) * 60}
                  className="fill-blue"
                />
              </g>
            ))}
          </svg>
          <p className="figures flex justify-between text-[12px] text-second">
            <span>{shortDay(days[0]!.day)}</span>
            <span>
              <span aria-hidden className="mr-1 inline-block size-2 bg-blue" />
              readers <span aria-hidden className="mr-1 ml-3 inline-block size-2 bg-hair" />
              views, {most} on the day with most
            </span>
            <span>today</span>
          </p>
          <p className="mt-2 text-[12.5px] text-second">
            Counted without cookies: who reads it twice on a day counts once, who comes back tomorrow counts anew.
          </p>
        </>
      )}
    </section>
  );
}
