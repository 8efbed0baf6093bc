import { Link } from 'react-router';
import type { components } from '../api/schema';
import { KeyOf } from '../ui/KeyOf';
import { Empty } from '../ui/States';

/** A pile that is done with, and where to go from there. */
export function NothingWaits({
  again,
  sitting,
  onBack,
}: {
  /** Whether a topic or a piece was gone through again. */
  again: boolean;
  sitting: components['schemas']['Sitting'];
  /** Takes the last decision back; not given when there is none. */
  onBack?: () => void;
}) {
  return (
    <Empty
      title={
        again
          ? `Nothing new for ${sitting.name}`
          : sitting.settled > 0
            ? `All settled: ${sitting.settled} today`
            : sitting.name
              ? `Nothing waits in “${sitting.name}”`
              : 'Nothing waits'
      }
      action={
        onBack ? (
          <button type="button" className="link inline-flex items-center gap-2 font-semibold" onClick={onBack}>
            Take the last decision back <KeyOf act="sift.back" />
          </button>
        ) : (
          <button
            type="button"
            className="link font-semibold"
            onClick={() => document.getElementById('strip')?.focus()}
          >
            Write something down
          </button>
        )
      }
    >
      {again || sitting.name ? (
        <Link className="link" to="/sift">
          Go to all that waits
        </Link>
      ) : (
        <>
          What you catch waits here until you decide about it once: keep it, start a piece from it, hold it, or drop it.{' '}
          <Link className="link" to="/sift/flow">
            How the sifting goes
          </Link>
        </>
      )}
    </Empty>
  );
}
