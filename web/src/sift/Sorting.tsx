import type { Advice, Slip, SlipChange } from '../api/client';
import { FormatsField } from '../ui/FormatsField';
import { Link } from 'react-router';
import { addressOf } from '../sources/Connections';
import { Figure } from '../ui/Figure';
import { Steps } from '../ui/Steps';
import { TopicField } from '../ui/TopicField';

/** Topics, pull, effort and format of the slip in hand; none of them has to be filled in. */
export function Sorting({
  slip,
  likely,
  kind,
  effort,
  onChange,
  onRefuse,
}: {
  slip: Slip;
  likely: Advice['topics'];
  kind?: Advice['kind'];
  effort?: Advice['effort'];
  onChange: (fields: SlipChange) => void;
  onRefuse: (topic: number) => void;
}) {
  const names = slip.topics.map((topic) => topic.name);
  return (
    <section
      aria-label="Sorting"
      className="mb-5 border-b border-hair pb-4 max-md:order-2 max-md:mx-4 max-md:mt-5 max-md:mb-0"
    >
      <h2 className="label mb-1.5 text-second">Topics</h2>
      <TopicField
        id="sift-topics"
        topics={slip.topics}
        likely={likely.map((l) => l.topic)}
        onChange={(topics) => onChange({ topics })}
      />
      {likely.length > 0 && (
        <p className="mt-1.5 text-[12.5px] leading-[1.7] text-second">
          likely:{' '}
          {likely.map((l, at) => (
            <span key={l.topic.number}>
              {at > 0 && ' · '}
              <span className="whitespace-nowrap">
                <button
                  type="button"
                  className="hover:text-blue"
                  title="Give it this topic"
                  aria-label={`Likely topic ${l.topic.name}`}
                  onClick={() => onChange({ topics: [...names, l.topic.name] })}
                >
                  {l.topic.name}
                </button>{' '}
                <Figure shown={l.figure.toFixed(2)} of={`How likely ${l.topic.name} is`}>
                  <Because likely={l} onRefuse={() => onRefuse(l.topic.number)} />
                </Figure>
              </span>
            </span>
          ))}
        </p>
      )}
      <div className="mt-4 grid grid-cols-[auto_auto_1fr] gap-x-5">
        <div>
          <h3 className="label text-second" title="F makes it the strongest, and takes that back">
            Pull
          </h3>
          <Steps label="Pull" value={slip.pull} onChange={(pull) => onChange({ pull })} />
        </div>
        <div>
          <h3 className="label text-second">Effort</h3>
          <Steps label="Effort" value={slip.effort} onChange={(value) => onChange({ effort: value })} />
        </div>
        <div className="min-w-0">
          <h3 className="label text-second">As</h3>
          <FormatsField value={slip.formats} onChange={(formats) => onChange({ formats })} className="text-[13px]" />
        </div>
      </div>
      {(kind || effort) && (
        <p className="mt-2.5 text-[12.5px] leading-[1.7] text-second">
          seems:{' '}
          {kind && (
            <span className="whitespace-nowrap">
              <button type="button" className="hover:text-blue" onClick={() => onChange({ kind: kind.kind })}>
                a {kind.kind}
              </button>{' '}
              <Figure shown={kind.figure.toFixed(2)} of={`How likely it is a ${kind.kind}`}>
                {kind.because.length === 0
                  ? 'The text says so itself, by its quotation marks or its question mark.'
                  : `Of the near slips that were kept, ${kind.because.length} are of this kind: ${kind.because.map((slip) => slip.number).join(', ')}.`}
              </Figure>
            </span>
          )}
          {kind && effort && ' · '}
          {effort && (
            <span className="whitespace-nowrap">
              <button type="button" className="hover:text-blue" onClick={() => onChange({ effort: effort.effort })}>
                effort {effort.effort}
              </button>{' '}
              <Figure shown="why" of="The likely effort">
                <p className="mb-1.5">From finished pieces that read like it, by their words and days:</p>
                {effort.because.map((piece) => (
                  <p key={piece.piece} className="border-t border-rule py-1">
                    <Link className="link" to={`/bench/${piece.piece}`}>
                      {piece.title}
                    </Link>{' '}
                    – {piece.words} words in {piece.days} {piece.days === 1 ? 'day' : 'days'}
                  </p>
                ))}
              </Figure>
            </span>
          )}
        </p>
      )}
    </section>
  );
}

/** What a likely topic's figure is made of: the votes of the near things, and how often such a vote was right. */
function Because({ likely, onRefuse }: { likely: Advice['topics'][number]; onRefuse: () => void }) {
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
      <button type="button" className="link mt-2 font-semibold" onClick={onRefuse}>
        not this topic
      </button>
    </>
  );
}
