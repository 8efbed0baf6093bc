import { useDroppable } from '@dnd-kit/core';
import { useQuery } from '@tanstack/react-query';
import { memo, type ReactNode } from 'react';
import { Link } from 'react-router';
import { api, ask, type WorthLine } from '../api/client';
import { keys } from '../api/queries';
import { carry } from './Carry';
import { undatedId } from './carryingDays';
import { MixPart } from './MixPart';
import { hours, type Outlet, type PlanShown, type Undated } from './planning';

const strong = { most: 6 };

/** What could be put on a day: pieces without one, and the ideas for which most speaks. */
export const ReadyColumn = memo(function ReadyColumn({
  plan,
  outlets,
}: {
  plan: PlanShown;
  outlets: ReadonlyMap<number, Outlet>;
}) {
  const { undated } = plan;
  const open = plan.entries.filter((entry) => entry.kind === 'open').length;
  const ideas = useQuery({
    queryKey: keys.worth(strong),
    queryFn: () => ask(api.GET('/api/worth', { params: { query: strong } })),
  }).data;
  const sum = undated.reduce((all, piece) => all + piece.hours, 0);
  return (
    <WithoutDay>
      <header className="mb-2.5 flex items-baseline justify-between">
        <h2 className="label">Ready to place</h2>
        {undated.length > 0 && (
          <span className="figures text-[12px] text-second">
            {undated.length === 1 ? '1 piece' : `${undated.length} pieces`} · {hours(sum)} h
          </span>
        )}
      </header>
      {undated.length === 0 ? (
        <p className="text-[12.5px] text-second">Every piece in hand has its day. What is dropped here loses it.</p>
      ) : (
        <ul className="space-y-2">
          {undated.map((piece) => (
            <li key={piece.number}>
              <UndatedCard piece={piece} outlet={piece.outlet === null ? undefined : outlets.get(piece.outlet)} />
            </li>
          ))}
        </ul>
      )}
      {open > 0 && (
        <Link
          to={`/plan/filling?from=${plan.from < plan.today ? plan.today : plan.from}&to=${plan.to}`}
          className="mt-3 flex min-h-[30px] items-center justify-center rounded-key bg-blue px-3 text-[12.5px] font-semibold text-sheet hover:brightness-110"
        >
          Fill the open dates
        </Link>
      )}
      {open > 0 && (
        <Link
          to={`/plan/sitting?from=${plan.from < plan.today ? plan.today : plan.from}&to=${plan.to}`}
          className="link mt-2 flex min-h-6 items-center justify-center text-[12.5px]"
        >
          or choose one by one
        </Link>
      )}
      <Link to="/topics?as=order" className="link mt-1 flex min-h-6 items-center justify-center text-[12.5px]">
        or propose a month from topics
      </Link>
      <MixPart from={plan.from} to={plan.to} />
      {ideas && ideas.length > 0 && (
        <section aria-label="Ideas" className="mt-6">
          <header className="mb-1.5 flex items-baseline justify-between">
            <h2 className="label">Ideas, by worth</h2>
            <Link to="/bench/begin" className="link text-[12px]">
              all
            </Link>
          </header>
          <ul>
            {ideas
              .filter((idea) => idea.slip !== null)
              .map((idea) => (
                <li key={idea.slip} className="border-t border-hair">
                  <IdeaLine idea={idea} />
                </li>
              ))}
          </ul>
        </section>
      )}
    </WithoutDay>
  );
});

/** Where what is dropped loses its day; what it holds is not drawn anew for each that passes over it. */
function WithoutDay({ children }: { children: ReactNode }) {
  const { setNodeRef, isOver } = useDroppable({ id: undatedId });
  return (
    <div
      ref={setNodeRef}
      className={`min-h-full px-4 py-5 ${isOver ? 'bg-wash outline-2 -outline-offset-2 outline-blue' : ''}`}
    >
      {children}
    </div>
  );
}

function UndatedCard({ piece, outlet }: { piece: Undated; outlet: Outlet | undefined }) {
  return (
    <Link
      {...carry({ kind: 'undated', piece })}
      to={`/bench/${piece.number}`}
      className="flex cursor-grab border border-hair bg-sheet hover:border-second"
    >
      <span className="narrow figures w-[38px] shrink-0 px-2 py-2 text-[11.5px] font-semibold">P {piece.number}</span>
      <span aria-hidden className="w-[4px] shrink-0" style={{ background: `var(--${outlet?.colour ?? 'hair'})` }} />
      <span className="min-w-0 px-2.5 py-1.5">
        <span className="written line-clamp-3 block text-[14.5px] leading-[19px]">{piece.title}</span>
        <span className="figures block text-[12px] text-second">
          {piece.format} · {hours(piece.hours)} h
        </span>
      </span>
    </Link>
  );
}

function IdeaLine({ idea }: { idea: WorthLine }) {
  return (
    <Link
      {...carry({ kind: 'idea', slip: idea.slip!, title: idea.title, formats: idea.formats })}
      to={`/bench/begin?open=${encodeURIComponent(`slip ${idea.slip}`)}`}
      className="flex min-h-6 cursor-grab items-baseline gap-2 py-1.5 hover:text-blue"
    >
      <span className="written line-clamp-2 min-w-0 flex-1 text-[13.5px] leading-[18px]">{idea.title}</span>
      <span className="figures shrink-0 text-[12px] text-second">{Math.round(idea.score)}</span>
    </Link>
  );
}
