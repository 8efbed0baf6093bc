import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask } from '../../api/client';
import type { components } from '../../api/schema';
import { Button } from '../../ui/Button';
import { Failed, Loading } from '../../ui/States';

type Kind = components['schemas']['CheckKind'];

const kinds: [Kind, string, string][] = [
  ['often', 'words said often', 'four times within 120 words'],
  ['lengthy', 'long sentences', 'more than 35 words'],
  ['openings', 'openings alike', 'three sentences in a row'],
  ['passive', 'passives', 'who does it?'],
  ['filler', 'fillers', 'words that could go'],
];

const place = 'nachlass.check.off';
const kept = (): Kind[] => JSON.parse(localStorage.getItem(place) ?? '[]') as Kind[];

/** A look over the draft, only when it is asked for. */
export function CheckView({
  piece,
  onGo,
  flush,
}: {
  piece: number;
  onGo: (from: number, to: number) => void;
  flush: () => Promise<unknown>;
}) {
  const [off, setOff] = useState<Kind[]>(kept);
  const looked = useQuery({
    queryKey: ['piece', piece, 'check', off],
    queryFn: async () => {
      await flush();
      return ask(
        api.GET('/api/pieces/{number}/check', {
          params: { path: { number: String(piece) }, query: { without: off.join(',') || undefined } },
        }),
      );
    },
    enabled: false,
    gcTime: 0,
  });
  const turn = (kind: Kind) => {
    const next = off.includes(kind) ? off.filter((one) => one !== kind) : [...off, kind];
    localStorage.setItem(place, JSON.stringify(next));
    setOff(next);
  };
  const ease = looked.data?.ease;
  return (
    <div className="px-3.5 py-3">
      <fieldset>
        <legend className="label text-second">Look for</legend>
        {kinds.map(([kind, name, about]) => {
          const count = looked.data?.notes.filter((note) => note.kind === kind).length;
          return (
            <label key={kind} className="flex min-h-6 items-baseline gap-2 text-[13px]" title={about}>
              <input type="checkbox" checked={!off.includes(kind)} onChange={() => turn(kind)} />
              <span className="flex-1">{name}</span>
              {looked.data && !off.includes(kind) && (
                <span className="figures text-[12px] text-second">
                  {looked.data.notLookedFor.includes(kind) ? 'no words of this language' : count}
                </span>
              )}
            </label>
          );
        })}
      </fieldset>
      <Button look="main" className="mt-2" onClick={() => void looked.refetch()}>
        {looked.data ? 'Look again' : 'Look it over'}
      </Button>
      {looked.isFetching && <Loading what="Looking it over" />}
      {looked.error && <Failed error={looked.error} />}
      {ease && (
        <dl className="mt-3 border-t border-hair pt-2 text-[12.5px] leading-snug">
          <div title="Björnsson 1968: words a sentence, and words of more than six letters in a hundred">
            <dt className="inline font-semibold">LIX {ease.lix}</dt>{' '}
            <dd className="inline text-second">{ease.lixSays}</dd>
          </div>
          {ease.flesch !== null && (
            <div title="Flesch 1948 (German: Amstad 1978): reading ease, 0 hard to 100 easy">
              <dt className="inline font-semibold">Flesch {ease.flesch}</dt>{' '}
              <dd className="inline text-second">{ease.fleschSays}</dd>
            </div>
          )}
          <div>
            <dt className="inline font-semibold">{ease.wordsASentence}</dt>{' '}
            <dd className="inline text-second">words a sentence, {ease.sentences.toLocaleString('en')} sentences</dd>
          </div>
        </dl>
      )}
      <ul className="mt-2">
        {looked.data?.notes.map((note) => (
          <li key={`${note.kind}${note.from}`}>
            <button
              type="button"
              onClick={() => onGo(note.from, note.to)}
              className="block w-full border-b border-rule py-1.5 text-left hover:bg-wash"
            >
              <span className="block text-[12px] text-second">{note.said}</span>
              <span className="written block text-[13.5px] leading-snug">{note.text}</span>
            </button>
          </li>
        ))}
      </ul>
      {looked.data && looked.data.notes.length === 0 && <p className="mt-2 text-second">Nothing to look at again.</p>}
      {looked.data && looked.data.more > 0 && <p className="text-second">and {looked.data.more} more places</p>}
    </div>
  );
}
