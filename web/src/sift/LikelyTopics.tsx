import { Link } from 'react-router';
import type { Advice } from '../api/client';
import { addressOf } from '../sources/Connections';
import { Figure } from '../ui/Figure';

/** Topics that a text seems to belong to, each with its figure and what that is made of; a press gives it. */
export function LikelyTopics({
  likely,
  onTake,
  onRefuse,
  className = 'mt-1.5',
}: {
  likely: Advice['topics'];
  onTake: (name: string) => void;
  onRefuse?: (topic: number) => void;
  className?: string;
}) {
  if (likely.length === 0) return null;
  return (
    <p className={`text-[12.5px] leading-[1.7] text-second ${className}`}>
      likely:{' '}
      {likely.map((l, at) => (
        <span key={l.topic.number}>
          {at > 0 && ' · '}
          <span className="whitespace-nowrap">
            <button
              type="button"
              className="min-h-6 hover:text-blue"
              title="Give it this topic"
              aria-label={`Likely topic ${l.topic.name}`}
              onClick={() => onTake(l.topic.name)}
            >
              {l.topic.name}
            </button>{' '}
            <Figure shown={l.figure.toFixed(2)} of={`How likely ${l.topic.name} is`}>
              <Because likely={l} onRefuse={onRefuse && (() => onRefuse(l.topic.number))} />
            </Figure>
          </span>
        </span>
      ))}
    </p>
  );
}

/** What a likely topic's figure is made of: the votes of the near things, and how often such a vote was right. */
function Because({ likely, onRefuse }: { likely: Advice['topics'][number]; onRefuse?: () => void }) {
  return (
    <>
      <p className="mb-1.5">
        {likely.isCalibrated
          ? `${Math.round(100 * likely.figure)} of 100 guesses as sure as this were right, among your own decisions.`
          : 'Not learnt yet: the more you sort, the better it knows how often it is right.'}{' '}
        What carries <b className="text-ink">{likely.topic.name}</b>: words by what you decided about them, things by
        how near they are.
      </p>
      {likely.because.slice(0, 7).map((term, at) => (
        <p key={at} className="flex justify-between border-t border-rule py-1">
          {term.sorted ? (
            <Link className="link" to={addressOf(term.sorted)}>
              {term.sorted.kind === 'piece' ? `P ${term.sorted.number}` : `${term.sorted.kind} ${term.sorted.number}`}
              {term.figure < 0 && ' (refused there)'}
            </Link>
          ) : term.word ? (
            <span>
              “{term.word}”{term.figure < 0 && ' (speaks against it)'}
            </span>
          ) : (
            <span>the text names it</span>
          )}
          <span className="figures">{term.figure.toFixed(2)}</span>
        </p>
      ))}
      {likely.because.length > 7 && <p className="border-t border-rule pt-1">and {likely.because.length - 7} more</p>}
      {onRefuse && (
        <button type="button" className="link mt-2 font-semibold" onClick={onRefuse}>
          not this topic
        </button>
      )}
    </>
  );
}
