import { useQuery } from '@tanstack/react-query';
import { api, ask } from '../../api/client';
import { keys } from '../../api/queries';

const soon = 2_000;

/** How much of what came by thousands is still to be read closely; nothing when all is. */
export function ReadClosely() {
  const left = useQuery({
    queryKey: keys.asksReading,
    queryFn: () => ask(api.GET('/api/asks/reading')),
    refetchInterval: (query) => (query.state.data?.left ? soon : false),
  }).data?.left;
  if (!left) return null;
  return (
    <p role="status" className="mb-3 border-l-[3px] border-hair bg-wash px-3 py-1.5 text-[13px] text-second">
      {left.toLocaleString('en')} {left === 1 ? 'wish is' : 'wishes are'} still to be read closely. Until then these are
      joined by their words alone; the same in other words comes together after.
    </p>
  );
}
