import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask, Problem } from '../../api/client';
import { queryClient } from '../../api/queries';
import { say } from '../../papers/notices';
import { Button } from '../../ui/Button';
import { Failed, Loading } from '../../ui/States';
import { shortDay } from '../../ui/dates';
import { CatalogueHead } from '../CatalogueHead';
import { several, useCatalogue } from '../catalogue';
import { addressOf, hereOf, setDown, usePages, useSite, type PageShown } from './pages';

/** Pages of one's own: what is up, who reads it, and what waits for a word. */
export default function PagesPage() {
  const pages = usePages();
  const site = useSite().data;
  const newest = useCatalogue().data?.rows[0];
  if (pages.error) return <Failed error={pages.error} onRetry={() => void pages.refetch()} />;
  if (!pages.data || !site) return <Loading what="Opening your pages" />;
  const up = pages.data.filter((one) => !one.page.downAt);
  const down = pages.data.filter((one) => one.page.downAt);
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[980px] px-9 py-6 max-md:px-4">
        <CatalogueHead title="Your own pages" newest={newest && Number(newest.outOn.slice(0, 4))} />
        <SiteLine site={site} isAny={up.length > 0} />
        {pages.data.length === 0 && (
          <p className="mt-6 max-w-[38rem] text-[14px] leading-relaxed text-second">
            No piece is up as a page yet. Put one up from its page on the bench, under <i>Take out</i>: it is read at an
            address of your own, looks as you wrote it, and is taken down in a press. A series is put up from its page.
          </p>
        )}
        {up.length > 0 && <Table name="Up" pages={up} site={site} />}
        {down.length > 0 && <Table name="Taken down" pages={down} site={site} />}
      </div>
    </div>
  );
}

function Table({
  name,
  pages,
  site,
}: {
  name: string;
  pages: PageShown[];
  site: { address: string; servedAt: string };
}) {
  return (
    <section aria-label={name} className="mt-6">
      <h2 className="label flex items-baseline border-b border-ink pb-1.5">
        {name}
        <span className="ml-auto flex font-normal tracking-normal text-second normal-case max-md:hidden">
          <span className="w-24 text-right">this week</span>
          <span className="w-24 text-right">in all</span>
          <span className="w-36" />
        </span>
      </h2>
      <ul>
        {pages.map((one) => (
          <li
            key={one.page.number}
            className="grid grid-cols-[minmax(0,1fr)_96px_96px_144px] items-baseline border-b border-rule py-2.5 max-md:grid-cols-1"
          >
            <div className="min-w-0">
              <Link
                to={`/catalogue/pages/${one.page.number}`}
                className="written text-[17px] leading-snug font-semibold break-words hover:text-blue"
              >
                {one.page.title}
              </Link>
              <p className="text-[12.5px] leading-snug text-second">
                <span className="break-all">{addressOf(site.address, one)}</span>
                {' · '}
                {one.page.downAt
                  ? `down since ${shortDay(one.page.downAt.slice(0, 10))}`
                  : `up since ${shortDay(one.page.putUpAt.slice(0, 10))}`}
                {one.page.asksPassphrase && ' · with a passphrase'}
                {!one.page.isListed && !one.page.asksPassphrase && ' · not listed'}
                {one.page.follows && ' · goes along'}
              </p>
              <p className="flex flex-wrap gap-x-4 text-[12.5px]">
                {one.held > 0 && (
                  <Link to={`/catalogue/pages/${one.page.number}`} className="link inline-flex min-h-6 items-center">
                    {several(one.held, 'comment')} to read
                  </Link>
                )}
                {one.isBehind && (
                  <span className="inline-flex min-h-6 items-center text-red">the draft has changed since</span>
                )}
              </p>
            </div>
            <Readers count={one.week} label="this week" />
            <Readers count={one.all} label="in all" />
            <p className="flex justify-end gap-4 text-[12.5px] max-md:mt-1 max-md:justify-start">
              {!one.page.downAt && site.servedAt && (
                <a
                  className="link inline-flex min-h-6 items-center"
                  href={hereOf(site.servedAt, one)}
                  target="_blank"
                  rel="noreferrer"
                >
                  read it
                </a>
              )}
              <button type="button" className="link" onClick={() => void setDown(one, !one.page.downAt)}>
                {one.page.downAt ? 'put up again' : 'take down'}
              </button>
            </p>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Readers({ count, label }: { count: PageShown['week']; label: string }) {
  return (
    <p className="figures text-right text-[13px] max-md:text-left">
      {several(count.readers, 'reader')}
      <span className="block text-[12px] text-second">
        {several(count.views, 'view')}
        <span className="md:hidden"> {label}</span>
      </span>
    </p>
  );
}

function SiteLine({
  site,
  isAny,
}: {
  site: { name: string; address: string; ownAddress: string; servedAt: string; problem: string };
  isAny: boolean;
}) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState(site.name);
  const [address, setAddress] = useState(site.ownAddress);
  const [wrong, setWrong] = useState('');
  const save = async () => {
    setWrong('');
    try {
      await ask(api.PUT('/api/site', { body: { name, address } }));
      await queryClient.invalidateQueries();
      say('The site is changed.');
      setOpen(false);
    } catch (error) {
      setWrong(error instanceof Problem || error instanceof Error ? error.message : String(error));
    }
  };
  const field = 'border-b border-hair bg-transparent py-1 outline-none focus:border-blue';
  return (
    <div className="text-[13.5px]">
      <p className="flex flex-wrap items-baseline gap-x-4">
        <span className="written text-[16px]">{site.name}</span>
        <span className="min-w-0 break-all text-second">
          {site.address.replace(/^https?:\/\//, '').replace(/\/$/, '')}
        </span>
        {site.servedAt && (
          <a
            className="link inline-flex min-h-6 items-center text-[12.5px]"
            href={site.servedAt}
            target="_blank"
            rel="noreferrer"
          >
            open it
          </a>
        )}
        <button type="button" className="link text-[12.5px]" onClick={() => setOpen(!open)} aria-expanded={open}>
          name and address
        </button>
        {isAny && (
          <a className="link inline-flex min-h-6 items-center text-[12.5px]" href="/api/site.zip" download>
            all of it as files
          </a>
        )}
      </p>
      {site.problem && (
        <p role="alert" className="mt-1 text-red">
          {site.problem}
        </p>
      )}
      {open && (
        <form
          className="mt-2 grid max-w-[38rem] grid-cols-[76px_1fr] items-baseline gap-x-4 gap-y-2 border-l-2 border-hair pl-4"
          onSubmit={(event) => {
            event.preventDefault();
            void save();
          }}
        >
          <label htmlFor="site-name" className="label text-second">
            Name
          </label>
          <input id="site-name" className={field} value={name} onChange={(event) => setName(event.target.value)} />
          <label htmlFor="site-address" className="label text-second">
            Address
          </label>
          <input
            id="site-address"
            className={field}
            value={address}
            placeholder={site.servedAt}
            onChange={(event) => setAddress(event.target.value)}
          />
          <p className="col-span-2 text-[12.5px] leading-relaxed text-second">
            The address at which your readers find it, where a server of yours passes them on to{' '}
            {site.servedAt || 'this program'}, or where you put the files.
          </p>
          {wrong && (
            <p role="alert" className="col-span-2 text-[12.5px] text-red">
              {wrong}
            </p>
          )}
          <div className="col-span-2 flex gap-2">
            <Button look="main" type="submit">
              Save
            </Button>
            <Button onClick={() => setOpen(false)}>Cancel</Button>
          </div>
        </form>
      )}
    </div>
  );
}
