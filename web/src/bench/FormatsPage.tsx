import { useRef, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { api, done, type Format } from '../api/client';
import { useFormats, usePieces } from '../api/queries';
import { carryOut, complain } from '../papers/notices';
import { Button } from '../ui/Button';
import { Failed, Loading } from '../ui/States';
import { hoursSaid } from '../choosing/terms';
import { FormatEditor } from './FormatEditor';
import { refreshPiece } from './refreshPiece';

/** All formats of the papers, or one of them to be changed. */
export default function FormatsPage() {
  const key = useParams().key;
  return key ? <FormatEditor key={key} format={key} /> : <AllFormats />;
}

function AllFormats() {
  const formats = useFormats();
  const pieces = usePieces().data ?? [];
  const navigate = useNavigate();
  const file = useRef<HTMLInputElement>(null);
  const [error, setError] = useState('');
  if (formats.error) return <Failed error={formats.error} onRetry={() => void formats.refetch()} />;
  if (!formats.data) return <Loading what="Opening the formats" />;
  const all = formats.data;
  const free = (name: string) => {
    for (let more = 1; ; more++) {
      const next = more === 1 ? name : `${name} ${more}`;
      if (!all.some((f) => f.name.toLowerCase() === next.toLowerCase())) return next;
    }
  };
  const made = async (asked: Promise<{ command: number; answer: Format }>, said: (format: Format) => string) => {
    try {
      const format = await carryOut(asked, said);
      await refreshPiece();
      void navigate(`/bench/formats/${format.key}`);
    } catch {
      // It has been said already.
    }
  };
  const bringIn = async (chosen: File) => {
    setError('');
    try {
      const content = await chosen.text();
      const format = await carryOut(
        done(api.POST('/api/formats/file', { body: { name: chosen.name, content } })),
        (f) => `Brought in the format ${f.name}.`,
      );
      await refreshPiece();
      void navigate(`/bench/formats/${format.key}`);
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  const blank = {
    name: free('A new format'),
    stages: ['Gather', 'Draft', 'Ready', 'Out'],
    skeleton: [{ title: 'First section', beat: '', aim: null, depth: 1, number: 0 }],
  };
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1080px] px-9 py-7 max-md:px-4">
        <Link to="/bench" className="link text-[12.5px]">
          ‹ to the bench
        </Link>
        <header className="mt-1 mb-4 flex flex-wrap items-baseline gap-x-4 gap-y-2">
          <h1 className="written text-[26px] font-semibold">Formats</h1>
          <span className="text-second">kinds of piece: their stages, sections, steps and texts</span>
          <span className="ml-auto flex gap-2">
            <input
              ref={file}
              type="file"
              accept="application/json,.json"
              aria-label="A format as a file"
              className="hidden"
              onChange={(event) => {
                const [chosen] = event.target.files ?? [];
                if (chosen) void bringIn(chosen);
                event.target.value = '';
              }}
            />
            <Button onClick={() => file.current?.click()}>Bring in a file</Button>
            <Button
              look="main"
              onClick={() =>
                void made(done(api.POST('/api/formats', { body: blank })), (f) => `Made the format ${f.name}.`)
              }
            >
              New format
            </Button>
          </span>
        </header>
        {error && (
          <p role="alert" className="mb-3 border-l-[3px] border-red pl-3">
            {error} Nothing was brought in.
          </p>
        )}
        <table className="figures w-full border-collapse text-[13.5px]">
          <thead>
            <tr className="label border-b border-ink text-left text-second">
              <th className="py-1.5">Format</th>
              <th className="px-3 max-md:hidden">Stages</th>
              <th className="px-3 text-right max-md:hidden">Sections</th>
              <th className="px-3 text-right max-md:hidden">Steps</th>
              <th className="px-3 text-right">Takes</th>
              <th className="px-3 text-right">Pieces</th>
              <th className="w-[190px] max-md:w-[90px]" />
            </tr>
          </thead>
          <tbody>
            {all.map((format) => {
              const own = pieces.filter((piece) => piece.format === format.key).length;
              return (
                <tr key={format.key} className="border-b border-rule align-baseline hover:bg-quiet">
                  <td className="py-2.5">
                    <Link
                      to={`/bench/formats/${format.key}`}
                      className="written text-[17px] font-semibold hover:text-blue"
                    >
                      {format.name}
                    </Link>
                    {format.isPutAway && <span className="ml-2 text-[12px] text-second">put away</span>}
                  </td>
                  <td className="px-3 text-second max-md:hidden">{format.stages.join(' · ')}</td>
                  <td className="px-3 text-right max-md:hidden">{format.skeleton.length || '–'}</td>
                  <td className="px-3 text-right max-md:hidden">{format.steps.length || '–'}</td>
                  <td className="px-3 text-right whitespace-nowrap">
                    {format.usualHours > 0 ? hoursSaid(format.usualHours) : '–'}
                  </td>
                  <td className="px-3 text-right">{own || '–'}</td>
                  <td className="text-right text-[12.5px] whitespace-nowrap">
                    <button
                      type="button"
                      className="link mr-3 max-md:hidden"
                      onClick={() =>
                        void made(
                          done(
                            api.POST('/api/formats', {
                              body: { ...format, key: '', name: free(`${format.name}, another`), version: 0 },
                            }),
                          ),
                          (f) => `Made ${f.name} of ${format.name}.`,
                        )
                      }
                    >
                      copy
                    </button>
                    <a className="link mr-3 max-md:hidden" href={`/api/formats/${format.key}/file`} download>
                      take out
                    </a>
                    <button
                      type="button"
                      className="link"
                      onClick={() =>
                        void carryOut(
                          done(
                            api.PUT('/api/formats/{key}/away', {
                              params: { path: { key: format.key } },
                              body: { away: !format.isPutAway },
                            }),
                          ),
                          format.isPutAway ? `${format.name} is offered again.` : `${format.name} is put away.`,
                        ).then(refreshPiece, complain)
                      }
                    >
                      {format.isPutAway ? 'take up' : 'put away'}
                    </button>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </div>
  );
}
