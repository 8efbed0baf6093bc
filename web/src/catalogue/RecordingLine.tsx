import { useQuery } from '@tanstack/react-query';
import { api, ask, done } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';
import type { Release } from './catalogue';

/** Which recording went out with a release; listeners get it where the outlet is a feed. */
export function RecordingLine({ release }: { release: Release }) {
  const recordings = useQuery({
    queryKey: keys.recordings(release.piece),
    queryFn: () =>
      ask(api.GET('/api/pieces/{number}/recordings', { params: { path: { number: String(release.piece) } } })),
  }).data;
  const { recording } = release;
  if (!recordings) return null;
  const chosen = recordings.find((one) => one.hash === recording?.hash);
  const choose = (attachment: number | null) =>
    carryOut(
      done(
        api.PUT('/api/releases/{number}/recording', {
          params: { path: { number: String(release.number) } },
          body: { version: release.version, attachment },
        }),
      ),
      attachment ? 'It went out with this recording.' : 'It went out without a recording.',
    ).then(() => queryClient.invalidateQueries());
  return (
    <>
      <select
        aria-label="Recording"
        value={chosen?.attachment ?? (recording ? 'gone' : '')}
        onChange={(event) => void choose(event.target.value ? Number(event.target.value) : null).catch(() => undefined)}
        className="-ml-1 max-w-full bg-transparent py-0.5 outline-none focus:border-blue"
      >
        <option value="" className="bg-sheet">
          {recordings.length === 0 && !recording ? 'none is attached to its piece' : 'none'}
        </option>
        {recording && !chosen && (
          <option value="gone" className="bg-sheet">
            {recording.name}
          </option>
        )}
        {recordings.map((one) => (
          <option key={one.attachment} value={one.attachment} className="bg-sheet">
            {one.name}
            {one.length && `, ${one.length}`}
          </option>
        ))}
      </select>
      {chosen && (
        <audio
          controls
          preload="none"
          aria-label={`Listen to ${chosen.name}`}
          src={`/api/attachments/${chosen.attachment}/content`}
          className="mt-1 h-9 w-full"
        />
      )}
    </>
  );
}
