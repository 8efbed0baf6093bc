import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ask } from '../api/client';
import { keys } from '../api/queries';
import { complain, say } from '../papers/notices';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { Failed, Loading } from '../ui/States';

/** The sources of a topic or a piece as a list to put at the end of a text. */
export function BibliographyDialog({ topic, piece, onClose }: { topic?: number; piece?: number; onClose: () => void }) {
  const of = { topic, piece };
  const list = useQuery({
    queryKey: keys.bibliography(of),
    queryFn: () =>
      ask(api.GET('/api/bibliography', { params: { query: { topic: topic?.toString(), piece: piece?.toString() } } })),
  });
  const copy = async () => {
    const lines = list.data!;
    await navigator.clipboard.write([
      new ClipboardItem({
        'text/html': new Blob([lines.map((line) => line.html).join('\n')], { type: 'text/html' }),
        'text/plain': new Blob([lines.map((line) => line.text).join('\n\n')], { type: 'text/plain' }),
      }),
    ]);
    say('Copied the bibliography.');
  };
  return (
    <Dialog title="Bibliography" open onClose={onClose} wide>
      {list.error ? (
        <Failed error={list.error} />
      ) : !list.data ? (
        <Loading />
      ) : list.data.length === 0 ? (
        <p className="text-second">
          {topic
            ? 'No source has this topic yet.'
            : 'The piece draws on no source yet: lay one beside it, or slips that point into one.'}
        </p>
      ) : (
        <>
          <div className="max-h-[55vh] overflow-y-auto">
            {list.data.map((line) => (
              <div key={line.source.number} className="flex gap-4 border-b border-rule py-2">
                {/* The server has put this through its sanitiser. */}
                <div
                  className="prose min-w-0 flex-1 text-[15px] leading-snug"
                  dangerouslySetInnerHTML={{ __html: line.html }}
                />
                <Link
                  className="link text-[12px] whitespace-nowrap"
                  to={`/library/source/${line.source.number}`}
                  onClick={onClose}
                >
                  source {line.source.number}
                </Link>
              </div>
            ))}
          </div>
          <p className="mt-4 flex items-center gap-5">
            <Button look="main" onClick={() => void copy().catch(complain)}>
              Copy {list.data.length === 1 ? 'it' : `all ${list.data.length}`}
            </Button>
            {topic &&
              (['bib', 'ris', 'json'] as const).map((format) => (
                <a key={format} className="link" href={`/api/exports/sources.${format}?topic=${topic}`} download>
                  {{ bib: 'BibTeX', ris: 'RIS', json: 'CSL-JSON' }[format]}
                </a>
              ))}
          </p>
        </>
      )}
    </Dialog>
  );
}
