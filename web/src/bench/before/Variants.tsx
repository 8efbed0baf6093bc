import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, done, type BriefShown } from '../../api/client';
import { keys, queryClient } from '../../api/queries';
import type { components } from '../../api/schema';
import { carryOut, complain, say } from '../../papers/notices';
import { Failed, Loading } from '../../ui/States';
import { refreshPiece } from '../refreshPiece';
import type { Settle } from './BeforeWriting';
import { LookOf } from './Titles';

type Shown = components['schemas']['VariantsShown'];

const useVariants = (piece: number) =>
  useQuery({
    queryKey: keys.variants(piece),
    queryFn: () => ask(api.GET('/api/pieces/{number}/variants', { params: { path: { number: String(piece) } } })),
  });

/** Those of a shape together, in the order in which the shapes come. */
const byShape = <T extends { shape: string }>(some: readonly T[]): [string, T[]][] => {
  const shapes = new Map<string, T[]>();
  for (const one of some) shapes.set(one.shape, [...(shapes.get(one.shape) ?? []), one]);
  return [...shapes];
};

/** Titles made of what the piece says, to be laid beside the others. */
export function TitlesOffered({ piece }: { piece: number }) {
  const variants = useVariants(piece);
  const lay = (text: string) =>
    void carryOut(
      done(api.POST('/api/pieces/{number}/titles', { params: { path: { number: String(piece) } }, body: { text } })),
      'Title laid beside.',
    )
      .then(refreshPiece)
      .catch(() => undefined);
  if (variants.error) return <Failed error={variants.error} onRetry={() => void variants.refetch()} />;
  if (!variants.data) return <Loading what="Reading the piece" />;
  const { titles } = variants.data;
  if (titles.length === 0) return <Nothing of="titles" />;
  return (
    <section aria-label="Titles from its own words" className="mt-2 border-t border-ink">
      {byShape(titles).map(([shape, some]) => (
        <Shape key={shape} name={shape}>
          {some.map((one) => (
            <li key={one.text} className="border-b border-rule py-1.5">
              <div className="flex items-baseline gap-4">
                <p className="written min-w-0 flex-1 text-[16px] leading-snug">{one.text}</p>
                <button
                  type="button"
                  aria-label={`Lay beside: ${one.text}`}
                  className="link min-h-6 text-[12.5px] whitespace-nowrap"
                  onClick={() => lay(one.text)}
                >
                  lay beside
                </button>
              </div>
              <details className="text-[12.5px]">
                <summary className="min-h-6 cursor-pointer text-second hover:text-ink">{seen(one.look)}</summary>
                <LookOf look={one.look} />
              </details>
            </li>
          ))}
        </Shape>
      ))}
    </section>
  );
}

/** What is to be known of a title at a glance. */
function seen(look: Shown['titles'][number]['look']): React.ReactNode {
  const cut = look.places.filter((place) => place.cut);
  return (
    <>
      {look.length} characters
      {cut.length > 0 && <>, cut off in {cut.map((place) => place.place).join(' and ')}</>}
      {look.alike.length > 0 ? (
        <span className="text-red">, much like “{look.alike[0]!.title}”</span>
      ) : (
        look.shared.length > 0 && <>, {look.shared.map((word) => word.word).join(', ')} stood in earlier ones</>
      )}
    </>
  );
}

/** Sentences of the piece with which it could open. None goes into the draft by itself. */
export function Openings({ piece, onSettle }: { piece: number; onSettle: Settle }) {
  const [open, setOpen] = useState(false);
  return (
    <section aria-label="Openings" className="mt-8">
      <h2 className="label flex items-baseline gap-4 border-b border-ink pb-1">
        Openings
        <button
          type="button"
          aria-expanded={open}
          className="link min-h-6 text-[12.5px] font-normal tracking-normal normal-case"
          onClick={() => setOpen(!open)}
        >
          from its own words
        </button>
      </h2>
      {open && <OpeningsOffered piece={piece} onSettle={onSettle} />}
    </section>
  );
}

function OpeningsOffered({ piece, onSettle }: { piece: number; onSettle: Settle }) {
  const variants = useVariants(piece);
  const onHeap = async (text: string) => {
    const shown =
      queryClient.getQueryData<BriefShown>(keys.brief(piece)) ??
      (await ask(api.GET('/api/pieces/{number}/brief', { params: { path: { number: String(piece) } } })));
    const heap = shown.brief.heap.trimEnd();
    await onSettle(
      { heap: heap ? `${heap}\n${text}` : text, version: shown.brief.version },
      'It lies on the heap, and can go over to a section from there.',
    );
  };
  const copy = (text: string) => navigator.clipboard.writeText(text).then(() => say('Copied.'), complain);
  if (variants.error) return <Failed error={variants.error} onRetry={() => void variants.refetch()} />;
  if (!variants.data) return <Loading what="Reading the piece" />;
  if (variants.data.openings.length === 0) return <Nothing of="openings" />;
  return (
    <>
      {byShape(variants.data.openings).map(([shape, some]) => (
        <Shape key={shape} name={shape}>
          {some.map((one) => (
            <li key={one.text} className="border-b border-rule py-1.5">
              <p className="written text-[16px] leading-snug">{one.text}</p>
              <p className="flex flex-wrap items-baseline gap-x-4 text-[12.5px] text-second">
                <span className="min-w-0">
                  {one.where}, {one.text.split(/\s+/).length} words
                </span>
                <button
                  type="button"
                  aria-label={`To the heap: ${one.text}`}
                  className="link min-h-6"
                  onClick={() => void onHeap(one.text).catch(() => undefined)}
                >
                  to the heap
                </button>
                <button
                  type="button"
                  aria-label={`Copy: ${one.text}`}
                  className="link min-h-6"
                  onClick={() => void copy(one.text)}
                >
                  copy
                </button>
              </p>
            </li>
          ))}
        </Shape>
      ))}
    </>
  );
}

function Shape({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <section aria-label={name} className="grid grid-cols-[128px_minmax(0,1fr)] gap-x-4 max-md:grid-cols-1">
      <h3 className="narrow pt-2.5 text-[12px] leading-tight text-second">{name}</h3>
      <ul>{children}</ul>
    </section>
  );
}

function Nothing({ of }: { of: string }) {
  return (
    <p className="py-2 text-[13.5px] text-second">
      There are no sentences yet to make {of} of. What you write, and the slips you lay beside the piece, are read for
      them.
    </p>
  );
}
