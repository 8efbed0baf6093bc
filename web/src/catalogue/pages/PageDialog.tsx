import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { api, done, Problem } from '../../api/client';
import { queryClient } from '../../api/queries';
import { carryOut } from '../../papers/notices';
import { useOutlets } from '../../plan/planning';
import { Button } from '../../ui/Button';
import { Dialog } from '../../ui/Dialog';
import { useSite, type PageShown } from './pages';

const field = 'w-full border-b border-hair bg-transparent py-1 outline-none focus:border-blue';

/** Puts a piece or a series up as a page, or changes a page that is there. */
export function PageDialog({
  piece,
  series,
  title,
  shown,
  onClose,
}: {
  piece?: number;
  series?: number;
  title: string;
  shown?: PageShown;
  onClose: () => void;
}) {
  const site = useSite().data;
  const outlets = useOutlets().filter((one) => !one.isPutAway);
  const navigate = useNavigate();
  // As it was when this was opened: what another tab changed since is not written over unseen.
  const [page] = useState(shown?.page);
  const [named, setNamed] = useState(page?.title ?? title);
  const [slug, setSlug] = useState(page?.slug ?? '');
  const [summary, setSummary] = useState(page?.summary ?? '');
  const [follows, setFollows] = useState(page?.follows ?? false);
  const [asks, setAsks] = useState(page?.asksPassphrase ?? false);
  const [passphrase, setPassphrase] = useState('');
  const [comments, setComments] = useState(page?.takesComments ?? false);
  const [listed, setListed] = useState(page?.isListed ?? true);
  const [outlet, setOutlet] = useState('');
  const [wrong, setWrong] = useState<{ field: string; message: string }>();
  const [going, setGoing] = useState(false);
  const save = async () => {
    setWrong(undefined);
    if (asks && !passphrase && !page?.asksPassphrase) {
      setWrong({ field: 'passphrase', message: 'Say the passphrase its readers are to know.' });
      return;
    }
    setGoing(true);
    const body = {
      title: named,
      slug: slug || undefined,
      summary,
      follows,
      passphrase: !asks ? '' : passphrase || undefined,
      takesComments: comments,
      isListed: listed,
    };
    try {
      if (page)
        await carryOut(
          done(
            api.PATCH('/api/pages/{number}', {
              params: { path: { number: String(page.number) } },
              body: { ...body, version: page.version },
            }),
          ),
          'The page is changed.',
          true,
        );
      else {
        const made = await carryOut(
          done(
            api.POST('/api/pages', { body: { ...body, piece, series, outlet: outlet ? Number(outlet) : undefined } }),
          ),
          'It is up.',
          true,
        );
        void navigate(`/catalogue/pages/${made.page.number}`);
      }
      await queryClient.invalidateQueries();
      onClose();
    } catch (error) {
      setWrong({
        field: error instanceof Problem ? error.field : '',
        message: error instanceof Error ? error.message : String(error),
      });
    } finally {
      setGoing(false);
    }
  };
  const problem = (of: string) =>
    wrong?.field === of && (
      <p role="alert" className="col-start-2 -mt-1 text-[12.5px] text-red max-md:col-start-1">
        {wrong.message}
      </p>
    );
  const tick = (label: string, note: string, value: boolean, set: (now: boolean) => void, more?: ReactNode) => (
    <div>
      <label className="inline-flex min-h-6 items-baseline gap-2">
        <input
          type="checkbox"
          className="translate-y-0.5"
          checked={value}
          onChange={(event) => set(event.target.checked)}
        />
        <span>
          {label} <span className="text-[12.5px] text-second">{note}</span>
        </span>
      </label>
      {more}
    </div>
  );
  const isKnown = ['title', 'slug', 'summary', 'passphrase'].includes(wrong?.field ?? '');
  return (
    <Dialog open wide title={page ? `The page “${page.title}”` : `Put “${title}” up as a page`} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <div className="grid grid-cols-[92px_1fr] items-baseline gap-x-4 gap-y-3 text-[13.5px] max-md:grid-cols-1 max-md:gap-y-1">
          <label htmlFor="page-title" className="label text-second">
            Title
          </label>
          <input
            id="page-title"
            className={`${field} written text-[16px]`}
            value={named}
            onChange={(event) => setNamed(event.target.value)}
          />
          {problem('title')}
          <label htmlFor="page-slug" className="label text-second">
            Address
          </label>
          <span className="flex min-w-0 items-baseline">
            <span className="max-w-[55%] shrink-0 truncate text-second">
              {(site?.address ?? '').replace(/^https?:\/\//, '')}
            </span>
            <input
              id="page-slug"
              className={field}
              value={slug}
              placeholder="made of the title"
              spellCheck={false}
              onChange={(event) => setSlug(event.target.value)}
            />
          </span>
          {problem('slug')}
          <label htmlFor="page-summary" className="label text-second">
            In one line
          </label>
          <input
            id="page-summary"
            className={field}
            value={summary}
            placeholder="its first sentence, when nothing is said"
            onChange={(event) => setSummary(event.target.value)}
          />
          {problem('summary')}
          <span className="label text-second">Text</span>
          <div role="group" aria-label="Text" className="flex flex-col">
            <label className="inline-flex min-h-6 items-center gap-2">
              <input type="radio" name="follows" checked={!follows} onChange={() => setFollows(false)} />
              stays as it is now, until you renew it
            </label>
            <label className="inline-flex min-h-6 items-center gap-2">
              <input type="radio" name="follows" checked={follows} onChange={() => setFollows(true)} />
              {series || page?.series ? 'goes along with its pieces that are out' : 'goes along with the draft'}
            </label>
          </div>
          <span className="label text-second">Readers</span>
          <div className="flex flex-col">
            {tick('come upon it', 'in the list of pages, the feed and search engines', listed, setListed)}
            {tick('know a passphrase', 'and nobody else reads it', asks, setAsks)}
            {asks && (
              <input
                aria-label="Passphrase"
                className={`${field} my-1 max-w-80`}
                value={passphrase}
                autoComplete="off"
                placeholder={page?.asksPassphrase ? 'the one that is kept' : 'some words they are told'}
                onChange={(event) => setPassphrase(event.target.value)}
              />
            )}
            {tick('may comment', 'what they write is shown once you have read it', comments, setComments)}
          </div>
          {problem('passphrase')}
          {piece !== undefined && (
            <>
              <label htmlFor="page-outlet" className="label text-second">
                Gone out on
              </label>
              <select
                id="page-outlet"
                className={field}
                value={outlet}
                onChange={(event) => setOutlet(event.target.value)}
              >
                <option value="">no outlet; a page is all it is</option>
                {outlets.map((one) => (
                  <option key={one.number} value={one.number}>
                    {one.name}: noted as a release of today
                  </option>
                ))}
              </select>
              {problem('outlet')}
            </>
          )}
        </div>
        {wrong && !isKnown && (
          <p role="alert" className="mt-3 text-[13px] text-red">
            {wrong.message}
          </p>
        )}
        <div className="mt-5 flex gap-2">
          <Button look="main" type="submit" disabled={going}>
            {page ? 'Change it' : 'Put it up'}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}
