import { useState } from 'react';
import type { Piece } from '../api/client';
import { Button } from '../ui/Button';
import { HowItGoesOut } from './HowItGoesOut';
import { Dialog } from '../ui/Dialog';

/** The files a finished text is taken out as: as what it is asked for, what it is called, and what it is for. */
const files = [
  ['docx', 'Word file', '.docx', 'for an editor or an office'],
  ['epub', 'Book', '.epub', 'for reading devices'],
  ['pdf-html', 'Paper or PDF', '', 'opens pages to be printed'],
  ['html', 'One HTML file', '.html', 'with its pictures inside'],
  ['markdown', 'Markdown', '.md', 'without our numbers'],
  ['text', 'Plain text', '.txt', 'without any marks'],
  ['fountain', 'Script', '.fountain', '“Pell: …” is said by Pell'],
  ['srt', 'Subtitles', '.srt', 'at a pace'],
  ['vtt', 'Subtitles for the web', '.vtt', 'at a pace'],
  ['opml', 'The outline', '.opml', 'the sections'],
] as const;

export type FileKind = (typeof files)[number][0];

const place = 'nachlass.file';

/** Asks as what kind of file a piece goes out. */
export function AsFile({
  open,
  onClose,
  onTake,
  piece,
}: {
  open: boolean;
  onClose: () => void;
  onTake: (kind: FileKind, how: Record<string, string>) => void;
  piece: Piece;
}) {
  const [kind, setKind] = useState<FileKind>(
    () => files.find(([one]) => one === localStorage.getItem(place))?.[0] ?? 'docx',
  );
  const [pace, setPace] = useState('183');
  const [how, setHow] = useState<Record<string, string>>({});
  const isSpoken = kind === 'srt' || kind === 'vtt';
  const wrong = isSpoken && !(Number(pace) >= 60 && Number(pace) <= 400);
  return (
    <Dialog title="Take it out as a file" open={open} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (wrong) return;
          localStorage.setItem(place, kind);
          onClose();
          onTake(kind, { ...(isSpoken ? { pace } : {}), ...how });
        }}
      >
        <fieldset>
          <legend className="sr-only">Kind of file</legend>
          {files.map(([key, name, ending, about]) => (
            <label
              key={key}
              className={`flex min-h-8 cursor-pointer items-baseline gap-3 border-b border-rule py-1.5 pr-2 ${kind === key ? 'bg-wash' : ''}`}
            >
              <input
                type="radio"
                name="kind"
                checked={kind === key}
                onChange={() => setKind(key)}
                className="ml-2 self-center accent-(--blue)"
              />
              <span className="w-36 shrink-0 font-semibold">{name}</span>
              <span className="min-w-0 flex-1 text-[12.5px] text-second max-md:hidden">{about}</span>
              <span className="narrow shrink-0 text-[12px] text-second">{ending}</span>
            </label>
          ))}
        </fieldset>
        {isSpoken && (
          <label className="mt-3 flex items-baseline gap-2 text-[13px]">
            read at
            <input
              type="number"
              value={pace}
              onChange={(event) => setPace(event.target.value)}
              aria-invalid={wrong}
              className="w-16 border-b border-ink bg-transparent text-right outline-none"
            />
            words a minute
          </label>
        )}
        {kind !== 'opml' && <HowItGoesOut piece={piece} isBook={kind === 'epub'} how={how} onChange={setHow} />}
        {wrong && (
          <p role="alert" className="mt-1 text-red">
            A pace is between 60 and 400 words a minute.
          </p>
        )}
        <div className="mt-4 flex justify-end gap-3">
          <Button type="button" look="quiet" onClick={onClose}>
            Leave it
          </Button>
          <Button type="submit" look="main">
            {kind === 'pdf-html' ? 'Open the pages' : 'Take it out'}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
