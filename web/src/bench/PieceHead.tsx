import { memo, useState } from 'react';
import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { DateField } from '../ui/DateField';
import { api, ask, done, type Piece, type PieceChange } from '../api/client';
import { keys, queryClient, useFormats } from '../api/queries';
import { carryOut } from '../papers/notices';
import { TextField } from '../ui/TextField';
import { TopicField } from '../ui/TopicField';
import { nearDay, today } from '../ui/dates';
import { PieceOnItsWay } from '../catalogue/queue/OnItsWay';
import { PinButton } from '../plan/Pinned';
import { GoesOut } from '../plan/stages/GoesOut';
import { OutMenu } from './OutMenu';
import { StageLine } from './StageLine';
import { refreshPiece } from './refreshPiece';

/** Title, format, brief, topics, stage and date of a piece. */
export const PieceHead = memo(function PieceHead({
  piece,
  words,
  aim,
  beforeOut,
  onGoing,
}: {
  piece: Piece;
  words: number;
  aim: number;
  /** Says what would go missing, and goes on when there is nothing or the writer says so. */
  beforeOut: (go: () => void, isForGood?: boolean) => Promise<unknown>;
  /** Brings everything that was typed to the server. */
  onGoing: () => Promise<unknown>;
}) {
  const formats = useFormats().data ?? [];
  const format = formats.find((f) => f.key === piece.format);
  const navigate = useNavigate();
  const [goesOut, setGoesOut] = useState(false);
  const change = async (fields: PieceChange) => {
    const made = await done(
      api.PATCH('/api/pieces/{number}', {
        params: { path: { number: String(piece.number) } },
        body: { ...fields, version: piece.version },
      }),
    );
    queryClient.setQueryData(['piece', piece.number], made.answer);
    await refreshPiece();
    return made;
  };
  const said = (fields: PieceChange, text: string) => carryOut(change(fields), text).catch(() => undefined);
  const late = piece.due !== null && !piece.outOn && piece.due < today();

  return (
    <header className="flex items-center gap-5 border-b border-hair bg-sheet px-6 py-2.5 max-lg:flex-wrap max-md:px-4">
      <span className="narrow shrink-0 border border-ink px-1.5 py-0.5 text-[11px] font-bold whitespace-nowrap">
        P {piece.number}
      </span>
      <div className="min-w-0 flex-1 max-md:basis-[75%]">
        <TextField
          label="Title"
          place={`piece.${piece.number}.title`}
          shown={false}
          value={piece.title}
          onSave={(title) => carryOut(change({ title }), 'Title changed.')}
          className="written max-h-[55px] text-[21px] leading-[1.3] font-semibold"
        />
        <div className="flex items-baseline gap-2 text-[12.5px] text-second max-xl:flex-wrap max-xl:gap-y-0">
          <select
            aria-label="Format"
            value={piece.format}
            onChange={(event) => void said({ format: event.target.value }, 'Format changed.')}
            className="field-sizing-content bg-transparent"
          >
            {formats
              .filter((f) => !f.isPutAway || f.key === piece.format)
              .map((f) => (
                <option key={f.key} value={f.key}>
                  {f.name}
                </option>
              ))}
          </select>
          <InSeries piece={piece.number} />
          {!piece.outOn && <PinButton piece={piece.number} />}
          <span>·</span>
          <div className="min-w-24 flex-1 max-xl:basis-1/3 max-md:basis-3/5">
            <TextField
              label="Brief"
              place={`piece.${piece.number}.brief`}
              shown={false}
              value={piece.brief}
              placeholder="for whom, and what it is to do"
              onSave={(brief) => carryOut(change({ brief }), 'Brief changed.')}
              className="max-h-[24px] leading-6 italic max-md:whitespace-nowrap"
            />
          </div>
          <div className="max-w-[50%] shrink-0 max-xl:max-w-full">
            <TopicField
              quiet
              label="Topics of the piece"
              topics={piece.topics}
              onChange={(topics) => void said({ topics }, 'Topics changed.')}
            />
          </div>
        </div>
      </div>
      {format && (
        <StageLine
          stages={format.stages}
          stage={piece.stage}
          isOut={piece.outOn !== null}
          onMove={(stage) => {
            const on = format.stages.indexOf(stage) > format.stages.indexOf(piece.stage);
            const left =
              on && piece.openSteps > 0
                ? ` ${piece.openSteps === 1 ? 'One step' : `${piece.openSteps} steps`} of ${piece.stage} ${piece.openSteps === 1 ? 'is' : 'are'} left open.`
                : '';
            const go = () => void said({ stage }, `Moved to ${stage}.${left}`);
            if (stage === format.stages.at(-1) && !piece.outOn) void beforeOut(() => setGoesOut(true), true);
            else go();
          }}
        />
      )}
      {goesOut && format && (
        <GoesOut
          title={piece.title}
          format={piece.format}
          outlet={piece.outlet}
          onClose={() => setGoesOut(false)}
          onGo={(out) => carryOut(change({ stage: format.stages.at(-1)!, ...out }), `P ${piece.number} is out.`, true)}
        />
      )}
      <div className="shrink-0 text-right">
        <p className="figures text-[13px] whitespace-nowrap">
          <b className={aim > 0 && words > aim * 1.1 ? 'text-red' : ''}>{words.toLocaleString('en')}</b>{' '}
          <span className="text-second">of {aim.toLocaleString('en')} words</span>
        </p>
        <div className={`text-[13px] whitespace-nowrap ${late ? 'font-semibold text-red' : 'text-second'}`}>
          {piece.outOn ? (
            <>
              out {nearDay(piece.outOn)}
              <ReleasesOf piece={piece.number} />
              {' · '}
              <Link to={`/catalogue/close/${piece.number}`} className="link">
                what was learned
              </Link>
              {piece.outAddress && (
                <>
                  {' · '}
                  <a href={piece.outAddress} target="_blank" rel="noreferrer" className="link">
                    read it there
                  </a>
                </>
              )}
            </>
          ) : (
            <>
              {piece.due && 'due '}
              <DateField
                label="Due date"
                empty="no due date"
                value={piece.due}
                onChange={(due) => void said({ due }, due ? 'Due date set.' : 'Without a due date.')}
              />
            </>
          )}
        </div>
        <PieceOnItsWay piece={piece.number} />
      </div>
      <OutMenu
        piece={piece}
        beforeOut={beforeOut}
        onGoing={onGoing}
        onTrash={() =>
          void said(
            { trashed: piece.trashedAt === null },
            piece.trashedAt ? 'Taken out of the trash.' : 'Put into the trash.',
          ).then(() => piece.trashedAt === null && navigate('/bench'))
        }
      />
    </header>
  );
});

/** Where it stands in its series. */
function InSeries({ piece }: { piece: number }) {
  const its = useQuery({
    queryKey: keys.inSeries(piece),
    queryFn: () => ask(api.GET('/api/pieces/{number}/series', { params: { path: { number: String(piece) } } })),
  }).data?.in;
  if (!its) return null;
  return (
    <Link
      to={`/bench/series/${its.series}`}
      className="link min-h-6 max-w-40 truncate leading-6 whitespace-nowrap"
      title={`${its.name}, ${its.nth} of ${its.of}`}
    >
      {its.nth} of {its.of} in {its.name}
    </Link>
  );
}

/** Where it stands in the catalogue. */
function ReleasesOf({ piece }: { piece: number }) {
  const releases =
    useQuery({
      queryKey: keys.releasesOf(piece),
      queryFn: () => ask(api.GET('/api/pieces/{number}/releases', { params: { path: { number: String(piece) } } })),
    }).data ?? [];
  return releases.slice(0, 4).map((release) => (
    <span key={release.number}>
      {' · '}
      <Link to={`/catalogue/${release.number}`} className="link">
        R {release.number}
      </Link>
    </span>
  ));
}
