import type { Advice, Slip, SlipChange } from '../api/client';
import { FormatsField } from '../ui/FormatsField';
import { Link } from 'react-router';
import { Figure } from '../ui/Figure';
import { Steps } from '../ui/Steps';
import { TopicField } from '../ui/TopicField';
import { LikelyTopics } from './LikelyTopics';

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
      <LikelyTopics likely={likely} onTake={(name) => onChange({ topics: [...names, name] })} onRefuse={onRefuse} />
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
