import { useQuery } from '@tanstack/react-query';
import { api, ask, type BeforeOutNote } from '../api/client';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';

/** What a writer should know before the piece goes out; each place can be gone to. */
export function BeforeOut({
  number,
  onGo,
  onShow,
  onClose,
}: {
  number: number;
  onGo: () => void;
  onShow: (note: BeforeOutNote) => void;
  onClose: () => void;
}) {
  const notes =
    useQuery({
      queryKey: ['piece', number, 'before-out'],
      queryFn: () => ask(api.GET('/api/pieces/{number}/before-out', { params: { path: { number: String(number) } } })),
      staleTime: 0,
    }).data ?? [];
  return (
    <Dialog open title="Before it goes out" onClose={onClose}>
      <ul className="max-h-[45vh] overflow-y-auto">
        {notes.map((note) => (
          <li
            key={`${note.kind}${note.at}${note.said}`}
            className="flex items-baseline gap-4 border-b border-rule py-2"
          >
            <span
              className={`min-w-0 flex-1 break-words ${['hole', 'nothing', 'over', 'noNote'].includes(note.kind) ? 'text-red' : ''}`}
            >
              {note.said}
            </span>
            <button type="button" className="link min-h-6 whitespace-nowrap" onClick={() => onShow(note)}>
              go there
            </button>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex gap-2">
        <Button look="main" onClick={onGo}>
          Go on as it is
        </Button>
        <Button onClick={onClose}>Back to the draft</Button>
      </div>
    </Dialog>
  );
}
