import { useQuery } from '@tanstack/react-query';
import { useRef, useState, type ClipboardEvent, type DragEvent } from 'react';
import { useNavigate, useParams } from 'react-router';
import { Problem, api, ask, type ImportState } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { complain, takeBack } from '../papers/notices';
import { clock, shortDay } from '../ui/dates';
import { Button } from '../ui/Button';
import { Failed, Loading } from '../ui/States';
import { Doors } from './Doors';
import { Importing } from './Importing';
import { useHeld } from '../ui/useField';

/** A file with the name it has in the folder it came from. */
type Named = { name: string; file: Blob };

/** The place where everything that exists elsewhere comes in. */
export default function BringIn() {
  const { id } = useParams();
  return (
    <div className="flex h-full max-lg:block max-lg:overflow-y-auto">
      <div className="min-w-0 flex-1 overflow-y-auto px-9 py-6 max-lg:overflow-visible max-md:px-4">
        <h1 className="written text-[27px] leading-tight font-semibold">Bring in</h1>
        {id ? <Known id={id} /> : <Choose />}
      </div>
      <Doors />
    </div>
  );
}

function Known({ id }: { id: string }) {
  const navigate = useNavigate();
  const state = useQuery({
    queryKey: keys.import(id),
    queryFn: () => ask(api.GET('/api/imports/{id}', { params: { path: { id } } })),
    refetchInterval: (query) => {
      const phase = query.state.data?.phase;
      return phase === 'looking' || phase === 'running' ? 250 : false;
    },
  });
  if (state.error)
    return (
      <>
        <Failed error={state.error} />
        <Button onClick={() => void navigate('/bring-in')}>Choose files</Button>
      </>
    );
  return state.data ? <Importing state={state.data} /> : <Loading what="Looking for it" />;
}

function Choose() {
  const navigate = useNavigate();
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const [busy, setBusy] = useState(false);
  const [pasted, setPasted] = useHeld('pasted');
  const [error, setError] = useState('');

  const take = async (chosen: Named[]) => {
    if (chosen.length === 0) return;
    setBusy(true);
    setError('');
    try {
      const state = await upload(chosen);
      queryClient.setQueryData(keys.import(state.id), state);
      await navigate(`/bring-in/${state.id}`);
    } catch (problem) {
      setError((problem as Error).message);
    } finally {
      setBusy(false);
    }
  };
  const chosen = (list: FileList | null) =>
    void take([...(list ?? [])].map((file) => ({ name: file.webkitRelativePath || file.name, file })));
  const dropped = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    void inside(event.dataTransfer).then(take, complain);
  };
  const pastedFiles = (event: ClipboardEvent) => {
    if (event.clipboardData.files.length === 0) return;
    event.preventDefault();
    chosen(event.clipboardData.files);
  };

  return (
    <>
      <p className="mt-1 mb-4 max-w-[40rem] text-[14px] text-second">
        Lists, notes, tables, outlines, references, bookmarks, feeds, transcripts, mail, calendars and documents. You
        see what would come of it before anything does.
      </p>
      <div
        onDragOver={(event) => {
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={dropped}
        className={`border-b-2 border-dashed px-6 py-7 ${over ? 'border-blue bg-wash' : 'border-manila-edge bg-manila'}`}
      >
        <p className="written text-[18px] text-manila-ink italic">Drop files, a folder or a zip here</p>
        <span className="mt-4 flex flex-wrap gap-3">
          <Button look="main" onClick={() => files.current?.click()}>
            Choose files…
          </Button>
          <Button onClick={() => folder.current?.click()}>Choose a folder…</Button>
        </span>
        <input
          ref={files}
          type="file"
          multiple
          aria-label="Files to bring in"
          className="sr-only"
          onChange={(event) => chosen(event.target.files)}
        />
        <input
          ref={folder}
          type="file"
          multiple
          aria-label="A folder to bring in"
          className="sr-only"
          {...{ webkitdirectory: '' }}
          onChange={(event) => chosen(event.target.files)}
        />
      </div>
      <form
        className="mt-6"
        onSubmit={(event) => {
          event.preventDefault();
          void take([{ name: 'pasted text', file: new Blob([pasted]) }]);
        }}
      >
        <label htmlFor="pasted" className="label text-second">
          Or paste a text
        </label>
        <textarea
          id="pasted"
          rows={7}
          value={pasted}
          onChange={(event) => setPasted(event.target.value)}
          onPaste={pastedFiles}
          placeholder={'One slip a line; a line that ends with a colon is the topic of those below it.'}
          className="written mt-1 block w-full resize-y border border-hair bg-sheet p-3 text-[15px] leading-[1.5] outline-none focus:border-blue"
        />
        <Button type="submit" className="mt-2" disabled={!pasted.trim() || busy}>
          Look through it
        </Button>
      </form>
      {busy && <Loading what="Taking the files in" />}
      {error && (
        <p role="alert" className="mt-4 border-l-[3px] border-red bg-quiet px-4 py-3 text-[13.5px]">
          {error} Nothing was brought in.
        </p>
      )}
      <CameIn />
      <TakeOut />
    </>
  );
}

/** What came in before, to look where it stands or to take it back. */
function CameIn() {
  const past = useQuery({ queryKey: keys.imports, queryFn: () => ask(api.GET('/api/imports')) }).data ?? [];
  const [whole, setWhole] = useState(false);
  if (past.length === 0) return null;
  return (
    <section aria-label="Came in before" className="mt-9">
      <h2 className="label border-b border-hair pb-1 text-second">Came in before</h2>
      <ul>
        {past.slice(0, whole ? undefined : 6).map((line) => (
          <li key={line.command} className="flex items-baseline gap-4 border-b border-rule py-1.5">
            <span className="w-36 shrink-0 text-second">
              {shortDay(line.at.slice(0, 10))}, {clock(line.at)}
            </span>
            <span
              className={`min-w-0 flex-1 [overflow-wrap:anywhere] ${line.undone ? 'text-second line-through' : ''}`}
            >
              {line.what}
            </span>
            {line.undone ? (
              <span className="text-second">taken back</span>
            ) : (
              <Button look="quiet" onClick={() => void takeBack(line.command)}>
                Take it back
              </Button>
            )}
          </li>
        ))}
      </ul>
      {past.length > 6 && (
        <Button look="quiet" className="mt-2" aria-expanded={whole} onClick={() => setWhole(!whole)}>
          {whole ? 'Only the latest' : `All ${past.length}`}
        </Button>
      )}
    </section>
  );
}

/** The same formats the other way. */
function TakeOut() {
  const out: [string, [string, string][]][] = [
    [
      'Slips',
      [
        ['slips.csv', 'table'],
        ['slips.json', 'JSON'],
        ['slips.opml', 'outline'],
        ['slips.txt', 'list'],
      ],
    ],
    [
      'Sources',
      [
        ['sources.bib', 'BibTeX'],
        ['sources.ris', 'RIS'],
        ['sources.json', 'CSL-JSON'],
        ['sources.html', 'bookmarks'],
      ],
    ],
    ['Moves and occasions', [['calendar.ics', 'calendar']]],
  ];
  return (
    <section aria-label="Take out" className="mt-9">
      <h2 className="label border-b border-hair pb-1 text-second">Take out in the same formats</h2>
      {out.map(([what, formats]) => (
        <p key={what} className="flex flex-wrap gap-x-4 border-b border-rule py-2">
          <span className="w-44 max-md:w-full">{what}</span>
          {formats.map(([file, name]) => (
            <a key={file} className="link" href={`/api/exports/${file}`} download>
              {name}
            </a>
          ))}
        </p>
      ))}
    </section>
  );
}

async function upload(chosen: Named[]): Promise<ImportState> {
  const form = new FormData();
  // The folders of a name would be cut off on the way, were they not disguised.
  for (const { name, file } of chosen) form.append('files', file, encodeURIComponent(name));
  let response: Response;
  try {
    response = await fetch('/api/imports', { method: 'POST', body: form });
  } catch {
    throw new Problem(0, 'The server can’t be reached.');
  }
  const answer = (await response.json()) as ImportState & { detail?: string };
  if (!response.ok) throw new Problem(response.status, answer.detail ?? `The server answered ${response.status}.`);
  return answer;
}

/** What was dropped, with all that is in its folders. */
async function inside(transfer: DataTransfer): Promise<Named[]> {
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry()).filter((entry) => entry !== null);
  if (entries.length === 0) return [...transfer.files].map((file) => ({ name: file.name, file }));
  const found: Named[] = [];
  const walk = async (entry: FileSystemEntry, path: string): Promise<void> => {
    if (entry.isFile) {
      const file = await new Promise<File>((give, fail) => (entry as FileSystemFileEntry).file(give, fail));
      found.push({ name: path + entry.name, file });
      return;
    }
    const reader = (entry as FileSystemDirectoryEntry).createReader();
    // A folder is read in portions; an empty one is the last.
    for (;;) {
      const portion = await new Promise<FileSystemEntry[]>((give, fail) => reader.readEntries(give, fail));
      if (portion.length === 0) return;
      for (const child of portion) await walk(child, `${path}${entry.name}/`);
    }
  };
  for (const entry of entries) await walk(entry, '');
  return found;
}
