import { useQuery } from '@tanstack/react-query';
import { api, ask } from '../../api/client';
import { keys } from '../../api/queries';
import { several } from '../catalogue';

/** Where the audio feed of an outlet lies, and what is in it. */
export function FeedAddress({ outlet, counted = false }: { outlet: number; counted?: boolean }) {
  const feed = useQuery({
    queryKey: keys.audioFeed(outlet),
    queryFn: () => ask(api.GET('/api/outlets/{number}/feed', { params: { path: { number: String(outlet) } } })),
  }).data;
  if (!feed) return null;
  return (
    <span className="text-[12.5px]">
      {feed.problem ? (
        <span role="alert" className="text-red">
          {feed.problem}
        </span>
      ) : (
        <>
          <a href={feed.address} target="_blank" rel="noreferrer" className="link break-all">
            {feed.address.replace(/^https?:\/\//, '')}
          </a>
          {counted && <span className="figures text-second"> · {several(feed.episodes, 'episode')}</span>}
        </>
      )}
    </span>
  );
}
