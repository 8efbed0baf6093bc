import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { api, ask, done } from '../api/client';
import { keys, queryClient } from '../api/queries';
import type { components } from '../api/schema';
import { carryOut } from '../papers/notices';
import { GrowingText } from '../capture/GrowingText';
import { Button } from '../ui/Button';
import { Failed, Loading } from '../ui/States';
import { useHeld } from '../ui/useField';

type Angle = components['schemas']['Angle'];
type Kind = Angle['for'];

const kinds: [Kind, string][] = [
  ['term', 'on a term that a topic’s texts say more than others'],
  ['ask', 'on something readers want'],
  ['question', 'on a question of yours that is open'],
  ['opposed', 'on two passages that speak against each other'],
  ['occasion', 'on an occasion ahead'],
  ['pair', 'on two topics that stand together'],
  ['sequel', 'on something that went out'],
  ['empty', 'on a format that a topic never had'],
  ['dropped', 'on a dropped slip that something new reads like'],
];

/** What stands in a place in the line below a wording. */
const samples: Record<string, string> = {
  term: 'the ferry',
  any: 'a ferry',
  word: 'ferry',
  topic: 'tolls',
  ask: 'Who paid for the bell?',
  question: 'Who paid for the bell?',
  first: 'the toll doubled',
  second: 'the toll did not double',
  occasion: 'the night of lanterns',
  month: 'December',
  other: 'bread',
  release: 'Seven tolls nobody paid',
  year: '2025',
  format: 'a letter',
  form: 'letter',
  slip: 'Toll paid in eels.',
};

const laid = (wording: string) => {
  const text = wording.replace(/\{\{-?\s*(\w+)[^}]*\}\}/g, (whole, place: string) => samples[place] ?? whole);
  return text.charAt(0).toUpperCase() + text.slice(1);
};

/** The ways ideas are looked at: the writer's to word, add and turn off. */
export default function AnglesPage() {
  const shown = useQuery({ queryKey: keys.angles, queryFn: () => ask(api.GET('/api/angles')) });
  // What is being changed is held in this browser until it is kept.
  const [held, setHeld] = useHeld('angles');
  const [error, setError] = useState<{ field?: string; text: string }>();
  useEffect(() => {
    document.title = 'Angles · Nachlass';
  }, []);
  if (shown.error) return <Failed error={shown.error} onRetry={() => void shown.refetch()} />;
  if (!shown.data) return <Loading what="Opening the angles" />;
  const { version, places, areReady } = shown.data;
  const angles = held ? (JSON.parse(held) as Angle[]) : shown.data.angles;
  const set = (next: readonly Angle[]) => setHeld(JSON.stringify(next));
  const change = (at: number, fields: Partial<Angle>) =>
    set(angles.map((angle, i) => (i === at ? { ...angle, ...fields } : angle)));
  const keep = async (next: readonly Angle[], said: string) => {
    try {
      await carryOut(done(api.PUT('/api/angles', { body: { angles: [...next], version } })), said, true);
      setHeld('');
      setError(undefined);
      await queryClient.invalidateQueries({ queryKey: keys.angles });
    } catch (problem) {
      setError({ field: (problem as { field?: string }).field, text: (problem as Error).message });
    }
  };
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1060px] px-9 py-7 max-md:px-4">
        <header className="flex flex-wrap items-baseline gap-x-5 gap-y-1 pb-3">
          <h1 className="written text-[30px] leading-tight font-semibold">Angles</h1>
          <span className="text-[13px] text-second">the ways ideas are laid, in your words</span>
          <span className="ml-auto flex flex-wrap items-baseline gap-x-4 text-[13px] max-md:ml-0">
            {!areReady && (
              <button
                type="button"
                className="link min-h-6"
                onClick={() => void keep([], 'The angles papers begin with are back.')}
              >
                bring the ready ones back
              </button>
            )}
            <Link to="/bench/ideas" className="link">
              to the ideas
            </Link>
          </span>
        </header>
        {held && (
          <p className="sticky top-0 z-10 flex flex-wrap items-center gap-x-4 gap-y-1 border-y border-blue bg-wash px-2 py-1.5 text-[13px]">
            <span>What you changed is not kept yet.</span>
            <Button look="main" onClick={() => void keep(angles, 'The angles are kept.')}>
              Keep the angles
            </Button>
            <button type="button" className="link min-h-6" onClick={() => setHeld('')}>
              leave them as they were
            </button>
          </p>
        )}
        {error && !error.field?.startsWith('angles[') && (
          <p role="alert" className="pt-2 text-red">
            {error.text}
          </p>
        )}
        {kinds.map(([kind, what]) => (
          <section key={kind} aria-label={what} className="mt-6">
            <h2 className="border-b border-ink pb-1 text-[13px]">
              <span className="font-semibold">{what}</span>
              <span className="ml-3 text-second">
                places: {(places[kind] ?? []).map((place) => `{{ ${place} }}`).join(' ')}
              </span>
            </h2>
            <ul>
              {angles.map((angle, at) =>
                angle.for !== kind ? null : (
                  <li
                    key={at}
                    className="grid grid-cols-[24px_190px_minmax(0,1fr)_28px] items-start gap-x-3 border-b border-rule py-1.5 max-md:grid-cols-[24px_minmax(0,1fr)_28px]"
                  >
                    <input
                      type="checkbox"
                      aria-label={`Use “${angle.shape}”`}
                      checked={!angle.isOff}
                      onChange={() => change(at, { isOff: !angle.isOff })}
                      className="mt-1.5 ml-1 h-3.5 w-3.5 accent-(--blue)"
                    />
                    <input
                      aria-label="What it is called"
                      value={angle.shape}
                      onChange={(event) => change(at, { shape: event.target.value })}
                      className="narrow w-full border-b border-transparent bg-transparent py-0.5 text-[13px] outline-none hover:border-hair focus:border-blue"
                    />
                    <div className="min-w-0 max-md:col-start-2 max-md:row-start-2">
                      <GrowingText
                        label={`Wording of “${angle.shape}”`}
                        value={angle.wording}
                        least={26}
                        onChange={(wording) => change(at, { wording: wording.replace(/\s*\n\s*/g, ' ') })}
                      />
                      {error?.field?.startsWith(`angles[${at}]`) ? (
                        <p role="alert" className="text-[12.5px] text-red">
                          {error.text}
                        </p>
                      ) : (
                        <p className="written truncate text-[13px] text-second italic">{laid(angle.wording)}</p>
                      )}
                    </div>
                    <button
                      type="button"
                      aria-label={`Take “${angle.shape}” away`}
                      title="Take it away"
                      className="min-h-7 min-w-7 text-second hover:text-red"
                      onClick={() => set(angles.filter((_, i) => i !== at))}
                    >
                      ×
                    </button>
                  </li>
                ),
              )}
            </ul>
            <button
              type="button"
              className="link mt-1 ml-9 min-h-6 text-[12.5px]"
              onClick={() =>
                set([
                  ...angles,
                  { shape: '', for: kind, wording: `{{ ${(places[kind] ?? ['topic'])[0]} }}`, isOff: false },
                ])
              }
            >
              another angle
            </button>
          </section>
        ))}
      </div>
    </div>
  );
}
