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
  onBringBack,
}: {
  advice: Advice | undefined;
  loading: boolean;
  onMerge: (into: number) => void;
  onPut: (piece: number, title: string, section?: { number: number; title: string }) => void;
  onBringBack: (slip: number) => void;
}) {
  const like = advice?.readsLike ?? [];
  const fits = advice?.wouldFit ?? [];
  const said = advice?.said ?? [];
  const dropped = advice?.dropped ?? [];
  if (loading || !advice) return null;
  if (!like.length && !fits.length && !said.length && !dropped.length)
    return <p className="mt-6 text-[12.5px] text-second">Nothing here reads like it yet.</p>;
  return (
    <>
      {said.length > 0 && (
        <section aria-label="Said already" className="mt-6 border-l-2 border-done pl-4">
          <h2 className="label text-done">Said already</h2>
          {said.map((release) => (
            <p key={release.piece} className="mt-1.5">
              <Link to={`/bench/${release.piece}`} className="written text-[15px] font-semibold hover:text-blue">
                {release.title}
              </Link>{' '}
              <span className="text-[12px] text-second">
                out {release.outOn && shortDay(release.outOn)} ·{' '}
                <Figure
                  shown={`${Math.round(100 * release.saying.share)}%`}
                  of={`How much of it ${release.title} says`}
                >
                  So much of what this slip says stands in one passage, its rare words counting most:{' '}
                  <i>{release.saying.words.join(', ')}</i>.
                </Figure>
              </span>
              <span className="written mt-0.5 block text-[14px] leading-snug text-second">
                {release.saying.passage}
              </span>
            </p>
          ))}
        </section>
      )}
      <div className={`mt-6 grid gap-x-8 gap-y-6 ${fits.length ? 'xl:grid-cols-2' : ''}`}>
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
                    {fit.section && (
                      <button
                        type="button"
                        className="link block"
                        onClick={() => onPut(fit.thing.number, fit.title, fit.section!)}
                      >
                        into “{fit.section.title}”
                      </button>
                    )}
                  </span>
                </div>
                <button
                  type="button"
                  aria-label={`${at + 1}: Put into ${fit.title}`}
                  onClick={() => onPut(fit.thing.number, fit.title)}
                >
                  <Key>{String(at + 1)}</Key>
                </button>
              </div>
            ))}
          </section>
        )}
      </div>
      {dropped.length > 0 && (
        <section aria-label="Dropped before" className="mt-6">
          <h2 className="label border-b border-hair pb-1.5 text-second">Dropped before, and reads like it</h2>
          {dropped.map((slip) => (
            <div key={slip.thing.number} className="flex items-start gap-3 border-b border-rule py-2.5">
              <Link
                to={`/library/slip/${slip.thing.number}`}
                className="written line-clamp-2 min-w-0 flex-1 text-[15px] leading-snug text-second hover:text-blue"
              >
                {slip.title}
              </Link>
              <Button onClick={() => onBringBack(slip.thing.number)}>Bring back</Button>
            </div>
          ))}
        </section>
      )}
    </>
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
        {alike.differences && (
          <details className="mt-1 text-[12.5px]">
            <summary className="cursor-pointer font-semibold text-blue">says nearly the same: what differs</summary>
            <p className="written mt-1 text-[14px] leading-snug whitespace-pre-wrap">
              {alike.differences.map((stretch, at) =>
                stretch.in === 'both' ? (
                  stretch.text
                ) : stretch.in === 'first' ? (
                  <ins key={at} className="bg-wash no-underline" title="only in this slip">
                    {stretch.text}
                  </ins>
                ) : (
                  <del key={at} className="text-second" title={`only in slip ${number}`}>
                    {stretch.text}
                  </del>
                ),
              )}
            </p>
          </details>
        )}
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
