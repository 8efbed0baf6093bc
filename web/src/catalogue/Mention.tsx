import { useQuery, keepPreviousData } from '@tanstack/react-query';
import { useDeferredValue } from 'react';
import { Link } from 'react-router';
import { api, ask, done, type Piece } from '../api/client';
import { keys, usePieces } from '../api/queries';
import { carryOut } from '../papers/notices';
import { refreshPiece } from '../bench/refreshPiece';
import { ActionMenu } from '../ui/ActionMenu';
import { shortDay } from '../ui/dates';
import { several, type Mentions } from './catalogue';
import { useAddressText } from './useAddressText';

const times = ['Never', 'Once', 'Twice'];

/** “Did I mention …?”, answered with the very sentences while one types. */
export function Mention() {
  const [typed, setTyped] = useAddressText('mention');
  const asked = useDeferredValue(typed.trim());
  const found = useQuery({
    queryKey: keys.mentioned(asked),
    queryFn: () => ask(api.GET('/api/catalogue/mentions', { params: { query: { query: asked } } })),
    enabled: asked.length > 1,
    placeholderData: keepPreviousData,
  });
  return (
    <section aria-label="Did I mention" className="mb-4">
      <label className="written flex items-baseline gap-2 border-b border-ink pb-1.5 text-[20px]">
        <span className="shrink-0">Did I mention</span>
        <input
          aria-label="Did I mention"
          value={typed}
          maxLength={500}
          placeholder="the night bell"
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Escape' && typed) {
              event.stopPropagation();
              setTyped('');
            }
          }}
          className="min-w-0 flex-1 border-b-2 border-hair bg-transparent outline-none placeholder:text-faint placeholder:italic focus:border-blue"
        />
        <span aria-hidden>?</span>
      </label>
      <div aria-live="polite">
        {asked.length > 1 && found.error && (
          <p role="alert" className="mt-2 text-red">
            {found.error.message}
          </p>
        )}
        {asked.length > 1 && found.data && <Found found={found.data} />}
      </div>
    </section>
  );
}

function Found({ found }: { found: Mentions }) {
  const inHand = (usePieces().data ?? []).filter((piece) => piece.outOn === null);
  const callBack = (release: Mentions['releases'][number], into: number) =>
    void carryOut(
      done(
        api.POST('/api/releases/{number}/call-back', {
          params: { path: { number: String(release.number) } },
          body: { into, sentence: release.sentences[0]!.text },
        }),
      ),
      `It stands at the end of P ${into}, with its sentence.`,
    )
      .then(refreshPiece)
      .catch(() => undefined);
  if (found.times === 0)
    return (
      <div className="mt-3 border-l-[3px] border-hair bg-quiet px-4 py-2.5">
        <p className="text-[12.5px] text-second">
          <strong className="font-semibold text-ink">Not in these words.</strong>{' '}
          {found.near.length > 0 ? 'What comes nearest:' : 'Nothing that went out comes near them.'}
        </p>
        <Sentences releases={found.near} inHand={inHand} onCallBack={callBack} />
      </div>
    );
  return (
    <div className="mt-3 max-h-[46vh] overflow-y-auto border-l-[3px] border-done bg-quiet px-4 py-2.5">
      <p className="text-[12.5px] text-second">
        <strong className="font-semibold text-done">
          {found.isAll ? (times[found.times] ?? `${found.times} times`) : `In ${found.times} at least`}.
        </strong>{' '}
        {found.times > found.releases.length && `The ${found.releases.length} that say most of it:`}
      </p>
      <Sentences releases={found.releases} inHand={inHand} onCallBack={callBack} />
      {!found.isAll && (
        <p className="mt-1 text-[12px] text-second">
          These words are common; the {several(300, 'release')} that say most of them were read.
        </p>
      )}
    </div>
  );
}

function Sentences({
  releases,
  inHand,
  onCallBack,
}: {
  releases: Mentions['releases'];
  inHand: readonly Piece[];
  onCallBack: (release: Mentions['releases'][number], into: number) => void;
}) {
  return (
    <ul>
      {releases.map((release) => (
        <li key={release.number} className="border-t border-rule py-2 first:border-0">
          <p className="figures flex flex-wrap items-baseline gap-x-3 text-[12.5px] text-second">
            <Link to={`/catalogue/${release.number}`} className="font-semibold text-ink hover:text-blue">
              {release.title}
            </Link>
            <span>
              {shortDay(release.outOn)}
              {release.outletName && `, ${release.outletName}`}
            </span>
            {release.again.length > 0 && (
              <span>
                in words that stand again in{' '}
                {release.again.map((piece, at) => (
                  <span key={piece}>
                    {at > 0 && ', '}
                    <Link to={`/bench/${piece}`} className="link">
                      P {piece}
                    </Link>
                  </span>
                ))}
              </span>
            )}
            {inHand.length > 0 && (
              <ActionMenu
                label={`Put a reference to “${release.title}” into a piece`}
                actions={inHand.slice(0, 12).map((piece) => ({
                  key: String(piece.number),
                  label: `in P ${piece.number} ${piece.title}`,
                  onChoose: () => onCallBack(release, piece.number),
                }))}
              >
                call back
              </ActionMenu>
            )}
          </p>
          {release.sentences.map((sentence) => (
            <p key={sentence.text} className="written mt-0.5 max-w-[46rem] text-[15.5px] leading-snug">
              “{sentence.text}”
            </p>
          ))}
        </li>
      ))}
    </ul>
  );
}
