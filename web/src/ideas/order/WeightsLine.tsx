import { Steps } from '../../ui/Steps';
import { terms, useTopicWeights, type Term } from './order';

const order = Object.keys(terms) as Term[];

/** How much each term counts; each press counts at once, and is a step of undo. */
export function WeightsLine() {
  const { weights, weigh } = useTopicWeights();
  if (!weights) return null;
  return (
    <div
      role="group"
      aria-label="What counts"
      className="flex flex-wrap items-center gap-x-6 gap-y-1 pt-2.5 text-[13px]"
    >
      <span className="text-second">counting</span>
      {order.map((term) => (
        <span key={term} className="inline-flex items-center gap-2" title={terms[term].about}>
          {terms[term].name}
          <Steps
            label={`How much ${terms[term].name} counts`}
            value={Math.round(weights[term]) || null}
            onChange={(value) => void weigh({ ...weights, [term]: value ?? 0 })}
          />
        </span>
      ))}
    </div>
  );
}
