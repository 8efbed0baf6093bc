import type { Advice, Format, Slip, SlipChange } from '../api/client';
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
    <section aria-label="Sorting" className="mb-5 border-b border-hair pb-4">
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
              <button
                type="button"
                className="whitespace-nowrap hover:text-blue"
                title={because(l)}
                aria-label={`Likely topic ${l.topic.name}, ${l.figure.toFixed(2)}`}
                onClick={() => onChange({ topics: [...names, l.topic.name] })}
              >
                {l.topic.name} <span className="figures">{l.figure.toFixed(2)}</span>
              </button>
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

/** What a likely topic's figure is made of. */
function because(likely: Advice['topics'][number]): string {
  const terms = likely.because
    .slice(0, 6)
    .map((term) =>
      term.sorted
        ? `${term.sorted.kind} ${term.sorted.number} ${term.figure.toFixed(2)}`
        : `the text names it ${term.figure.toFixed(2)}`,
    );
  return `Sorted there before: ${terms.join(', ')}`;
}
