import { useState } from 'react';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ask, type Piece } from '../api/client';
import { keys, useFormats, usePieces } from '../api/queries';
import { FewIdeas } from '../choosing/Ideas';
import { Button } from '../ui/Button';
import { fieldSaid } from './fields';
import { StartPiece } from './StartPiece';
import { UsableList } from './Usable';
import { Empty, Failed, Loading } from '../ui/States';
import { TopicWords } from '../ui/TopicWord';
import { nearDay, shortDay, today } from '../ui/dates';

/** All pieces: those in hand first, by what is due. */
export function Bench() {
  const pieces = usePieces();
  const trashed = usePieces(true).data ?? [];
  const [starting, setStarting] = useState(false);
  const [showTrash, setShowTrash] = useState(false);
  if (pieces.error) return <Failed error={pieces.error} onRetry={() => void pieces.refetch()} />;
  if (!pieces.data) return <Loading what="Opening the bench" />;
  const inHand = pieces.data.filter((piece) => !piece.outOn);
  const out = pieces.data.filter((piece) => piece.outOn);

  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1160px] px-9 py-7 max-md:px-4">
        <header className="mb-4 flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <h1 className="written mr-auto text-[26px] font-semibold max-md:w-full">On the bench</h1>
          <Link to="/bench/ideas" className="link text-[13px]">
            more ideas
          </Link>
          <Link to="/bench/series" className="link text-[13px]">
            series
          </Link>
          <Link to="/bench/short" className="link text-[13px]">
            patterns
          </Link>
          <Link to="/shooting" className="link text-[13px]">
            to record
          </Link>
          <Link to="/bench/formats" className="link text-[13px]">
            formats
          </Link>
          <Link
            to="/library?query=in:pieces&as=table&columns=number,text,format,stage,due,words,fields"
            className="link text-[13px]"
          >
            as a table
          </Link>
          <Button look="main" className="max-md:ml-auto" onClick={() => setStarting(true)}>
            Start a piece
          </Button>
        </header>
        {inHand.length === 0 ? (
          <Empty title="Nothing is on the bench">
            A piece starts from what has gathered around an idea: in Sift, press S on a slip. Or start one here from its
            title alone.
          </Empty>
        ) : (
          <PieceTable pieces={inHand} />
        )}
        <NextFive />
        <UsableList />
        {out.length > 0 && (
          <section className="mt-10" aria-label="Out">
            <h2 className="label mb-1 text-second">Out</h2>
            <PieceTable pieces={out} />
          </section>
        )}
        {trashed.length > 0 && (
          <section className="mt-10" aria-label="In the trash">
            <button type="button" className="link text-[12.5px]" onClick={() => setShowTrash(!showTrash)}>
              {showTrash ? 'Hide the trash' : `${trashed.length} in the trash`}
            </button>
            {showTrash && <PieceTable pieces={trashed} />}
          </section>
        )}
      </div>
      <StartPiece open={starting} onClose={() => setStarting(false)} from={{}} />
    </div>
  );
}

/** The five ideas for which most speaks now. */
function NextFive() {
  const asked = { most: 5 };
  const ideas = useQuery({
    queryKey: keys.worth(asked),
    queryFn: () => ask(api.GET('/api/worth', { params: { query: asked } })),
  }).data;
  if (!ideas || ideas.length === 0) return null;
  return (
    <section aria-label="Next to begin" className="mt-10">
      <header className="flex items-baseline border-b border-ink pb-1">
        <h2 className="label text-second">Next to begin</h2>
        <Link to="/bench/begin" className="link ml-auto text-[12.5px]">
          all that could become a piece, and why
        </Link>
      </header>
      <FewIdeas ideas={ideas} />
    </section>
  );
}

function PieceTable({ pieces }: { pieces: readonly Piece[] }) {
  const formats = useFormats().data ?? [];
  return (
    <table className="figures w-full border-collapse md:table-fixed">
      <thead>
        <tr className="label border-b border-ink text-left text-second">
          <th className="w-14 py-1.5">No.</th>
          <th>Piece</th>
          <th className="w-[150px] px-4 max-md:hidden">Stage</th>
          <th className="w-[142px] px-4 max-md:hidden">Words</th>
          <th className="w-[118px] px-4">Date</th>
          <th className="w-[280px] max-lg:hidden">Next move</th>
        </tr>
      </thead>
      <tbody>
        {pieces.map((piece) => {
          const format = formats.find((f) => f.key === piece.format);
          const at = format?.stages.indexOf(piece.stage) ?? 0;
          const late = !piece.outOn && piece.due && piece.due < today();
          const over = piece.aim > 0 && piece.words > piece.aim * 1.1;
          return (
            <tr key={piece.number} className="border-b border-rule align-top hover:bg-quiet">
              <td className="narrow py-3 text-[12px] font-semibold text-second">P {piece.number}</td>
              <td className="max-w-[430px] py-2.5 pr-2">
                <Link
                  to={`/bench/${piece.number}`}
                  className="written line-clamp-2 text-[17px] leading-snug font-semibold hover:text-blue"
                >
                  {piece.title}
                </Link>
                <span className="mt-0.5 flex flex-wrap items-baseline gap-x-3 text-[12.5px] text-second">
                  {format?.name ?? piece.format} <TopicWords topics={piece.topics} />
                  {format?.fields
                    .filter((field) => field.onRow && piece.fields[field.key])
                    .map((field) => (
                      <span key={field.key}>
                        {field.name.toLowerCase()}{' '}
                        <b className="font-semibold text-ink">{fieldSaid(field, piece.fields[field.key]!)}</b>
                      </span>
                    ))}
                </span>
              </td>
              <td className="px-4 py-3 max-md:hidden">
                <span className="block whitespace-nowrap">
                  {piece.stage}
                  {piece.openSteps > 0 && !piece.outOn && (
                    <span className="narrow text-[11.5px] text-second"> · {piece.openSteps} open</span>
                  )}
                </span>
                <span aria-hidden className="mt-1 flex gap-[3px]">
                  {format?.stages.map((stage, i) => (
                    <span
                      key={stage}
                      className={`h-[4px] w-[12px] ${i <= at ? (piece.outOn ? 'bg-done' : 'bg-blue') : 'bg-hair/70'}`}
                    />
                  ))}
                </span>
              </td>
              <td className="px-4 py-3 whitespace-nowrap max-md:hidden">
                <b className={over ? 'text-red' : ''}>{piece.words.toLocaleString('en')}</b>
                <span className="text-second"> of {piece.aim.toLocaleString('en')}</span>
                <span aria-hidden className="mt-1 block h-[4px] w-24 bg-hair/60">
                  <span
                    className={`block h-full ${over ? 'bg-red' : 'bg-second'}`}
                    style={{ width: `${piece.aim ? Math.min(100, (100 * piece.words) / piece.aim) : 0}%` }}
                  />
                </span>
              </td>
              <td className={`px-4 py-3 whitespace-nowrap ${late ? 'font-semibold text-red' : ''}`}>
                {piece.outOn ? (
                  `out ${shortDay(piece.outOn)}`
                ) : piece.due ? (
                  nearDay(piece.due)
                ) : (
                  <span className="text-faint">none</span>
                )}
              </td>
              <td className="written max-w-[260px] py-2.5 text-[14.5px] leading-snug max-lg:hidden">
                {piece.nextMove ? (
                  <>
                    {piece.nextMove.text}{' '}
                    {piece.nextMove.due && (
                      <span
                        className={`font-sans text-[12px] ${piece.nextMove.due < today() ? 'text-red' : 'text-second'}`}
                      >
                        {nearDay(piece.nextMove.due)}
                      </span>
                    )}
                  </>
                ) : (
                  <span className="font-sans text-[13px] text-faint">none</span>
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
