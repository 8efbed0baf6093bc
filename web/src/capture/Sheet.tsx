import { Link } from 'react-router';
import type { components } from '../api/schema';
import { usePieces } from '../api/queries';
import { nearDay } from '../ui/dates';
import { Aims } from './Aims';
import { DaySheet } from './DaySheet';
import { AddMove, MoveList } from './Moves';
import { Posts } from './Posts';
import { RuledLines } from './RuledLines';
import { SlipLine } from './SlipLine';
import { WrittenBlock } from './WrittenBlock';

type Day = components['schemas']['DayOnDesk'];
type Block = components['schemas']['SheetBlock'];

/** What stands on a day's sheet, block after block. */
export function Sheet({ desk }: { desk: Day }) {
  const { blocks } = desk;
  // What was written freely stays in sight, also when the plan has no place for it any more.
  const isHomeless = desk.sheet.text !== '' && !blocks.some((block) => block.kind === 'writing');
  const shown = isHomeless
    ? [...blocks, { block: 0, kind: 'writing', heading: 'Loose writing', prompt: '', text: '', size: null } as Block]
    : blocks;
  return (
    <>
      {shown.map((block) => (
        <section key={block.block} aria-label={block.heading || block.prompt || block.kind} className="mt-6">
          <Content block={block} desk={desk} />
        </section>
      ))}
      {desk.backFromHold.length > 0 && !blocks.some((block) => block.kind === 'caught') && (
        <section aria-label="Back from hold" className="mt-6">
          <h2 className="label mb-1 text-second">Back from hold</h2>
          {desk.backFromHold.map((slip) => (
            <SlipLine key={slip.number} slip={slip} />
          ))}
        </section>
      )}
      <Posts day={desk.sheet.day} />
      {shown.length === 0 && (
        <p className="mt-6 text-second">
          The plan has nothing for this day.{' '}
          <Link to="/desk/plan" className="link">
            Change the plan
          </Link>
        </p>
      )}
    </>
  );
}

function Content({ block, desk }: { block: Block; desk: Day }) {
  const day = desk.day;
  const onLine = new Set(desk.blocks.filter((b) => b.kind === 'lines').map((b) => b.block));
  const heading = (note?: string) =>
    block.heading && (
      <h2 className="label mb-1 text-second">
        {block.heading}
        {note && <span className="figures ml-2 font-medium tracking-normal normal-case">{note}</span>}
      </h2>
    );
  switch (block.kind) {
    case 'lines': {
      const own = desk.slips.filter((slip) => slip.block === block.block);
      return (
        <>
          {heading(own.length > 0 ? `${own.length} written` : undefined)}
          <RuledLines key={`${day}-${block.block}`} day={day} block={block} slips={own} />
        </>
      );
    }
    case 'writing':
      return <DaySheet key={day} day={day} sheet={desk.sheet} heading={block.heading} minutes={block.size} />;
    case 'moves':
      return (
        <>
          {heading()}
          <MoveList moves={desk.moves} />
          <AddMove day={day} />
        </>
      );
    case 'caught': {
      const caught = desk.slips.filter((slip) => slip.block === null || !onLine.has(slip.block));
      return (
        <>
          {heading(String(caught.length))}
          {caught.map((slip) => (
            <SlipLine key={slip.number} slip={slip} />
          ))}
          {desk.backFromHold.map((slip) => (
            <SlipLine key={`back-${slip.number}`} slip={slip} note="back from hold" />
          ))}
          {caught.length + desk.backFromHold.length === 0 && (
            <p className="text-[12.5px] text-second">What you catch in the strip, on the phone or while reading.</p>
          )}
        </>
      );
    }
    case 'aims':
      return <Aims block={block} />;
    case 'piece':
      return (
        <>
          {heading()}
          <PieceInHand />
        </>
      );
    default:
      return (
        <>
          {heading()}
          <WrittenBlock key={`${day}-${block.block}`} day={day} block={block} />
        </>
      );
  }
}

/** The piece that is due first, with what is next on it. */
function PieceInHand() {
  const pieces = usePieces().data;
  const piece = pieces?.find((one) => !one.outOn);
  if (!pieces) return null;
  if (!piece) return <p className="text-second">Nothing is on the bench.</p>;
  return (
    <p className="flex items-baseline gap-3">
      <Link to={`/bench/${piece.number}`} className="written text-[17px] font-semibold hover:text-blue">
        {piece.title}
      </Link>
      <span className="text-[12.5px] text-second">
        {[piece.stage, piece.due && `due ${nearDay(piece.due)}`, piece.nextMove && `next: ${piece.nextMove.text}`]
          .filter(Boolean)
          .join(' · ')}
      </span>
    </p>
  );
}
