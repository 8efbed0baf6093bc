import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Merged, type MergedPart } from '../api/client';
import { Button } from './Button';
import { Dialog } from './Dialog';
import { Loading } from './States';

type Choice = 'mine' | 'theirs' | 'both';

/** What a stretch comes to, by what was chosen for it. */
const chosen = (part: MergedPart, choice: Choice): string => {
  if (part.by !== 'both') return part.by === 'theirs' ? part.theirs : part.mine;
  if (choice !== 'both') return choice === 'mine' ? part.mine : part.theirs;
  return part.theirs.endsWith('\n') ? `${part.theirs}\n${part.mine}` : `${part.theirs}\n\n${part.mine}`;
};

/**
 * Two texts that grew out of one, laid over each other: what only one side changed is in already; where both changed the same place the
 * writer sees the words and decides, place by place.
 */
export function TwoTexts({
  mine,
  theirs,
  origin,
  merged,
  onChoose,
}: {
  mine: string;
  theirs: string;
  origin?: string;
  /** When it has been worked out already. */
  merged?: Merged;
  onChoose: (text: string) => void;
}) {
  const asked = useQuery({
    queryKey: ['compare', origin, mine, theirs],
    queryFn: () => ask(api.POST('/api/texts/compare', { body: { origin, mine, theirs } })),
    enabled: !merged,
  });
  const parts = (merged ?? asked.data)?.parts;
  const [choices, setChoices] = useState<Record<number, Choice>>({});
  const open = parts?.flatMap((part, at) => (part.by === 'both' ? [at] : [])) ?? [];
  const all = (choice: Choice) => setChoices(Object.fromEntries(open.map((at) => [at, choice])));
  const text = parts?.map((part, at) => chosen(part, choices[at] ?? 'mine')).join('') ?? mine;
  return (
    <Dialog title="This text was changed in two places" open onClose={() => undefined} wide>
      {!parts && <Loading what="Comparing both" />}
      {parts && (
        <>
          <p className="mb-3 text-second">
            {open.length === 1 ? 'One place was' : `${open.length} places were`} changed here and elsewhere, each in
            another way. Everything else from both is in already.
          </p>
          <div
            className="max-h-[48vh] overflow-y-auto border border-hair"
            tabIndex={0}
            role="group"
            aria-label="Both texts"
          >
            {parts.map((part, at) =>
              part.by === 'both' ? (
                <Place
                  key={at}
                  part={part}
                  number={open.indexOf(at) + 1}
                  choice={choices[at] ?? 'mine'}
                  onChoose={(choice) => setChoices((before) => ({ ...before, [at]: choice }))}
                />
              ) : (
                <p key={at} className="written px-4 py-1 text-[14px] whitespace-pre-wrap text-second">
                  {shortened(part.by === 'theirs' ? part.theirs : part.mine)}
                </p>
              ),
            )}
          </div>
          <div className="mt-4 flex flex-wrap items-center gap-2">
            <Button onClick={() => all('mine')}>All as written here</Button>
            <Button onClick={() => all('theirs')}>All as saved elsewhere</Button>
            <Button look="main" className="ml-auto" onClick={() => onChoose(text)}>
              Keep it so
            </Button>
          </div>
        </>
      )}
    </Dialog>
  );
}

/** What is the same on both sides is there to find one's way, not to be read. */
function shortened(text: string): string {
  const lines = text.trim().split('\n');
  return lines.length <= 6 ? text.trim() : [...lines.slice(0, 2), '…', ...lines.slice(-2)].join('\n');
}

function Place({
  part,
  number,
  choice,
  onChoose,
}: {
  part: MergedPart;
  number: number;
  choice: Choice;
  onChoose: (choice: Choice) => void;
}) {
  const words = { mine: 'written here', theirs: 'saved elsewhere', both: 'both, one after the other' };
  return (
    <section aria-label={`Place ${number}`} className="my-1 border-l-[3px] border-blue bg-quiet px-4 py-2">
      <p className="written text-[15px] leading-relaxed whitespace-pre-wrap">
        {part.words.map((word, at) =>
          word.in === 'nobody' ? (
            <span key={at}>{word.text}</span>
          ) : word.in === 'mine' ? (
            <ins key={at} className="bg-wash text-blue decoration-blue" title="written here">
              {word.text}
            </ins>
          ) : (
            <del key={at} className="text-second decoration-second" title="saved elsewhere">
              {word.text}
            </del>
          ),
        )}
      </p>
      <fieldset className="mt-1.5 flex flex-wrap gap-x-5 gap-y-1 text-[12.5px]">
        <legend className="sr-only">What stands at place {number}</legend>
        {(['mine', 'theirs', 'both'] as const).map((one) => (
          <label key={one} className="flex min-h-6 items-center gap-1.5">
            <input type="radio" checked={choice === one} onChange={() => onChoose(one)} className="accent-blue" />
            {words[one]}
          </label>
        ))}
      </fieldset>
    </section>
  );
}
