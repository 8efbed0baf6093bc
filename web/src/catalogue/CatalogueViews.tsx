import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { api, ask, done } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';
import { useHeld } from '../ui/useField';
import type { CatalogueBy } from './catalogue';

/** Ways of looking at the catalogue that were kept, and the one that is open to be kept. */
export function CatalogueViews({ looked, by }: { looked: string; by: CatalogueBy }) {
  const [, setParams] = useSearchParams();
  const [naming, setNaming] = useState(false);
  const [name, setName] = useHeld('catalogue.view.name');
  const [wrong, setWrong] = useState('');
  const views =
    useQuery({ queryKey: keys.catalogueViews, queryFn: () => ask(api.GET('/api/catalogue/views')) }).data ?? [];
  const open = views.find((view) => view.with === looked && view.by === by);
  const show = (view: { with: string; by: CatalogueBy }) =>
    setParams({ ...(view.with ? { with: view.with } : {}), ...(view.by === 'year' ? {} : { by: view.by }) });
  const keep = async () => {
    try {
      await carryOut(
        done(api.POST('/api/catalogue/views', { body: { name, with: looked, by } })),
        (view) => `Kept the view ${view.name}.`,
        true,
      );
      setName('');
      setNaming(false);
      setWrong('');
      await queryClient.invalidateQueries({ queryKey: keys.catalogueViews });
    } catch (error) {
      setWrong((error as Error).message);
    }
  };
  const canKeep = !open && (looked !== '' || by !== 'year');
  if (views.length === 0 && !canKeep && !naming) return null;
  return (
    <div className="mb-2 flex flex-wrap items-baseline gap-x-4 gap-y-1 text-[12.5px]">
      {views.length > 0 && <span className="text-second">views</span>}
      {views.map((view) =>
        view === open ? (
          <span key={view.number} className="inline-flex min-h-6 items-center gap-2">
            <b className="text-blue">{view.name}</b>
            <button
              type="button"
              className="link min-h-6"
              onClick={() =>
                void carryOut(
                  done(
                    api.DELETE('/api/catalogue/views/{number}', { params: { path: { number: String(view.number) } } }),
                  ),
                  'Took the view away.',
                )
                  .then(() => queryClient.invalidateQueries({ queryKey: keys.catalogueViews }))
                  .catch(() => undefined)
              }
            >
              take away
            </button>
          </span>
        ) : (
          <button key={view.number} type="button" className="link min-h-6" onClick={() => show(view)}>
            {view.name}
          </button>
        ),
      )}
      {open && (
        <button type="button" className="link min-h-6" onClick={() => show({ with: '', by: 'year' })}>
          all of it
        </button>
      )}
      {canKeep && !naming && (
        <button type="button" className="link min-h-6 font-semibold" onClick={() => setNaming(true)}>
          keep this view
        </button>
      )}
      {naming && (
        <form
          className="inline-flex flex-wrap items-baseline gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void keep();
          }}
        >
          <input
            autoFocus
            aria-label="Name of the view"
            value={name}
            maxLength={80}
            placeholder="what is it called?"
            onChange={(event) => setName(event.target.value)}
            onKeyDown={(event) => event.key === 'Escape' && setNaming(false)}
            className="w-44 border-b border-hair bg-transparent py-0.5 outline-none focus:border-blue"
          />
          <button type="submit" disabled={!name.trim()} className="link min-h-6 font-semibold disabled:opacity-50">
            keep
          </button>
          {wrong && (
            <span role="alert" className="text-red">
              {wrong}
            </span>
          )}
        </form>
      )}
    </div>
  );
}
