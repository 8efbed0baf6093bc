import { Link } from 'react-router';
import type { components } from '../../api/schema';

type Offered = components['schemas']['PictureOffered'];

/** Which picture goes out above the text, and what it shows. */
export function PictureChoice({
  piece,
  pictures,
  chosen,
  shows,
  problem,
  onChoose,
  onShows,
  onLeave,
}: {
  piece: number;
  pictures: readonly Offered[];
  chosen: number | undefined;
  shows: string;
  problem: string;
  onChoose: (attachment: number | undefined) => void;
  onShows: (shows: string) => void;
  onLeave: () => void;
}) {
  const tile = (isChosen: boolean) =>
    `flex h-14 w-[74px] cursor-pointer items-center justify-center overflow-hidden border text-[12.5px] focus-within:outline-2 focus-within:outline-offset-1 focus-within:outline-blue ${isChosen ? 'border-blue ring-1 ring-blue' : 'border-hair text-second hover:border-blue'}`;
  return (
    <section aria-label="Its picture">
      <h3 className="label border-b border-hair pb-1">Its picture</h3>
      {pictures.length === 0 ? (
        <p className="mt-1.5 text-[12.5px] text-second">
          None lies with the piece. It goes out with one that is{' '}
          <Link to={`/bench/${piece}/kept`} className="link" onClick={onLeave}>
            kept with it
          </Link>
          .
        </p>
      ) : (
        <>
          <div
            role="radiogroup"
            aria-label="Its picture"
            className="mt-2 flex max-h-36 flex-wrap gap-2 overflow-y-auto p-1"
          >
            <label className={tile(chosen === undefined)}>
              <input
                type="radio"
                name="picture"
                className="sr-only"
                checked={chosen === undefined}
                onChange={() => onChoose(undefined)}
              />
              none
            </label>
            {pictures.map((one) => (
              <label key={one.attachment} className={tile(chosen === one.attachment)} title={one.name}>
                <input
                  type="radio"
                  name="picture"
                  className="sr-only"
                  aria-label={one.name}
                  checked={chosen === one.attachment}
                  onChange={() => onChoose(one.attachment)}
                />
                <img
                  src={`/api/attachments/${one.attachment}/content`}
                  alt=""
                  loading="lazy"
                  className="h-full w-full object-cover"
                />
              </label>
            ))}
          </div>
          {chosen !== undefined && (
            <label className="mt-2 block text-[12.5px] text-second">
              What it shows, for those who can’t see it
              <input
                className="w-full border-b border-hair bg-transparent py-1 text-[13.5px] text-ink outline-none focus:border-blue"
                value={shows}
                onChange={(event) => onShows(event.target.value)}
              />
            </label>
          )}
          {problem && (
            <p role="alert" className="mt-1 text-[12.5px] text-red">
              {problem}
            </p>
          )}
        </>
      )}
    </section>
  );
}
