import { Link } from 'react-router';
import type { Advice, Alike } from '../api/client';
import { addressOf } from '../sources/Connections';
import { Button } from '../ui/Button';
import { Figure } from '../ui/Figure';
import { Key } from '../ui/Key';
import { TopicWords } from '../ui/TopicWord';
import { shortDay } from '../ui/dates';

/** What is already there about the slip in hand. Says nothing where it knows nothing. */
export function AdviceLists({
  advice,
  loading,
  onMerge,
  onPut,
}: {
  advice: Advice | undefined;
  loading: boolean;
  onMerge: (into: number) => void;
  onPut: (piece: number, title: string) => void;
}) {
  const like = advice?.readsLike ?? [];
  const fits = advice?.wouldFit ?? [];
  if (loading || !advice) return null;
  if (!like.length && !fits.length)
    return <p className="mt-6 text-[12.5px] text-second">Nothing here reads like it yet.</p>;
  return (
    <div className="mt-6 grid gap-x-8 gap-y-6 xl:grid-cols-2">
      <section aria-label="Reads like">
        <h2 className="label border-b border-hair pb-1.5 text-second">Reads like</h2>
        {like.map((alike) => (
          <Row key={`${alike.thing.kind}${alike.thing.number}`} alike={alike} onMerge={onMerge} />
        ))}
        {like.length === 0 && <p className="py-2.5 text-second">Nothing yet.</p>}
      </section>
      {fits.length > 0 && (
        <section aria-label="Would fit">
          <h2 className="label border-b border-hair pb-1.5 text-second">Would fit</h2>
          {fits.map((fit, at) => (
            <div key={fit.thing.number} className="flex items-start gap-3 border-b border-rule py-2.5">
              <div className="min-w-0 flex-1">
                <Link
                  to={`/bench/${fit.thing.number}`}
                  className="written line-clamp-2 text-[15px] leading-snug hover:text-blue"
                >
                  {fit.title}
                </Link>
                <span className="text-[12px] text-second">
                  P {fit.thing.number} · {fit.note} ·{' '}
                  <Figure shown={percent(fit)} of={`How alike ${fit.title} is`}>
                    <Alikeness alike={fit} />
                  </Figure>{' '}
                  · <i>{fit.words.join(', ')}</i>
                </span>
              </div>
              <button
                type="button"
                aria-label={`Put into ${fit.title}`}
                onClick={() => onPut(fit.thing.number, fit.title)}
              >
                <Key>{String(at + 1)}</Key>
              </button>
            </div>
          ))}
        </section>
      )}
    </div>
  );
}

const percent = (alike: Alike) => `${Math.round(alike.likeness * 100)}%`;

/** What a likeness is made of. */
function Alikeness({ alike }: { alike: Alike }) {
  return (
    <p>
      The cosine of the two texts: 0% shares nothing, 100% has the same words. Rare words and pairs of words weigh more
      than common ones. Here it is carried, the heaviest first, by <i>{alike.words.join(', ')}</i>.
    </p>
  );
}

function Row({ alike, onMerge }: { alike: Alike; onMerge: (into: number) => void }) {
  const { kind, number } = alike.thing;
  return (
    <div className="flex items-start gap-3 border-b border-rule py-2.5">
      <span className="w-12 shrink-0">
        <Figure shown={percent(alike)} of={`How alike ${alike.title} is`} className="text-[15px] font-bold">
          <Alikeness alike={alike} />
        </Figure>
      </span>
      <div className="min-w-0 flex-1">
        <Link to={addressOf(alike.thing)} className="written line-clamp-2 text-[15px] leading-snug hover:text-blue">
          {alike.title}
        </Link>
        <span className="text-[12px] text-second">
          {kind === 'piece' ? `P ${number}` : `${kind} ${number}`} ·{' '}
          {alike.outOn ? <span className="text-red">already out, {shortDay(alike.outOn)}</span> : alike.note} ·{' '}
          <i>{alike.words.join(', ')}</i>
        </span>
        {alike.topics.length > 0 && (
          <span className="mt-0.5 block">
            <TopicWords topics={alike.topics} />
          </span>
        )}
      </div>
      {kind === 'slip' && (
        <Button onClick={() => onMerge(number)} aria-label={`Merge into slip ${number}`}>
          Merge
        </Button>
      )}
    </div>
  );
}
