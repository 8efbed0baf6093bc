import type { Advice, Format, Slip, SlipChange } from '../api/client';
import { Link } from 'react-router';
import { addressOf } from '../sources/Connections';
import { Figure } from '../ui/Figure';
import { Steps } from '../ui/Steps';
import { TopicField } from '../ui/TopicField';

/** Topics, pull, effort and format of the slip in hand; none of them has to be filled in. */
export function Sorting({
  slip,
  likely,
  formats,
  onChange,
}: {
  slip: Slip;
  likely: Advice['topics'];
  formats: readonly Format[];
  onChange: (fields: SlipChange) => void;
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
                  <Because likely={l} />
                </Figure>
              </span>
            </span>
          ))}
        </p>
      )}
      <div className="mt-4 grid grid-cols-[auto_auto_1fr] gap-x-5">
        <div>
          <h3 className="label text-second">Pull</h3>
          <Steps label="Pull" value={slip.pull} onChange={(pull) => onChange({ pull })} />
        </div>
        <div>
          <h3 className="label text-second">Effort</h3>
          <Steps label="Effort" value={slip.effort} onChange={(effort) => onChange({ effort })} />
        </div>
        <label>
          <span className="label block text-second">As</span>
          <select
            value={slip.format ?? ''}
            onChange={(event) => {
              onChange({ format: event.target.value || null });
              event.target.blur();
            }}
            className="w-full bg-transparent py-0.5 text-[13px]"
          >
            <option value="">open</option>
            {formats.map((format) => (
              <option key={format.key} value={format.key}>
                {format.name.toLowerCase()}
              </option>
            ))}
          </select>
        </label>
      </div>
    </section>
  );
}

/** What a likely topic's figure is made of: how like the text is to each thing sorted there before. */
function Because({ likely }: { likely: Advice['topics'][number] }) {
  return (
    <>
      <p className="mb-1.5">
        Reasons for <b className="text-ink">{likely.topic.name}</b>; each is how alike the two are, and together they
        are 1 − ∏(1 − reason).
      </p>
      {likely.because.slice(0, 8).map((term, at) => (
        <p key={at} className="flex justify-between border-t border-rule py-1">
          {term.sorted ? (
            <Link className="link" to={addressOf(term.sorted)}>
              {term.sorted.kind === 'piece' ? `P ${term.sorted.number}` : `${term.sorted.kind} ${term.sorted.number}`}
            </Link>
          ) : (
            <span>the text names it</span>
          )}
          <span className="figures">{term.figure.toFixed(2)}</span>
        </p>
      ))}
      {likely.because.length > 8 && <p className="border-t border-rule pt-1">and {likely.because.length - 8} more</p>}
    </>
  );
}
