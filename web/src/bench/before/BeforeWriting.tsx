import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask, done, type BriefChange, type BriefShown, type Done, type Draft, type Piece } from '../../api/client';
import { keys, queryClient } from '../../api/queries';
import { carryOut } from '../../papers/notices';
import { Failed, Loading } from '../../ui/States';
import { TextField } from '../../ui/TextField';
import { Stage } from '../StepsPart';
import { CoverIdea } from './CoverIdea';
import { FindOut } from './FindOut';
import { Heap } from './Heap';
import { References } from './References';
import { Titles } from './Titles';
import { Openings } from './Variants';
import { refreshPiece } from '../refreshPiece';

export type Settle = (edit: BriefChange, said?: string) => Promise<unknown>;

/** What is settled before a word of the draft is written, and can be looked at again at any time after. */
export function BeforeWriting({
  piece,
  sections,
  onDraft,
}: {
  piece: Piece;
  sections: Draft['sections'];
  /** Runs a command that changes the draft, once all that was typed is at the server. */
  onDraft: <T extends { draft: Draft }>(run: () => Promise<Done<T>>) => Promise<Done<T>>;
}) {
  const path = { number: String(piece.number) };
  const brief = useQuery({
    queryKey: keys.brief(piece.number),
    queryFn: () => ask(api.GET('/api/pieces/{number}/brief', { params: { path } })),
  });
  const steps = useQuery({
    queryKey: keys.steps(piece.number),
    queryFn: () => ask(api.GET('/api/pieces/{number}/steps', { params: { path } })),
  }).data;
  if (brief.error) return <Failed error={brief.error} onRetry={() => void brief.refetch()} />;
  if (!brief.data) return <Loading />;
  const settle: Settle = async (edit, said) => {
    const made = await carryOut(done(api.PUT('/api/pieces/{number}/brief', { params: { path }, body: edit })), said);
    queryClient.setQueryData(keys.brief(piece.number), made);
    await refreshPiece();
    return made;
  };
  return (
    <div
      className="min-h-0 flex-1 overflow-y-auto px-6 pb-12 max-md:flex-none max-md:overflow-visible max-md:px-4"
      tabIndex={-1}
    >
      <div className="mx-auto max-w-[76rem]">
        <Purpose shown={brief.data} onSettle={settle} />
        <div className="grid gap-x-14 lg:grid-cols-[7fr_5fr]">
          <div className="min-w-0">
            <Settled shown={brief.data} onSettle={settle} />
            <Titles piece={piece.number} />
            <Openings piece={piece.number} onSettle={settle} />
            <CoverIdea piece={piece} brief={brief.data.brief} onSettle={settle} />
            <References piece={piece.number} sections={sections} />
          </div>
          <div className="min-w-0">
            <Heap piece={piece.number} brief={brief.data.brief} sections={sections} onDraft={onDraft} />
            <FindOut piece={piece.number} />
            {steps && (
              <>
                <Stage
                  name={steps.stage}
                  isHere
                  isPast={false}
                  steps={steps.steps.filter((step) => step.stage === steps.stage)}
                  piece={piece.number}
                />
                <p className="mt-2 text-[12.5px] text-second">
                  {piece.openSteps === 0
                    ? 'Nothing would be left open by moving on.'
                    : `Moving on now would leave ${piece.openSteps === 1 ? 'one step' : `${piece.openSteps} steps`} open; nothing forbids it.`}
                </p>
              </>
            )}
          </div>
        </div>
      </div>
    </div>
  );
}

/** The purpose of the papers, and whether this piece serves it, in the writer's own words. */
function Purpose({ shown, onSettle }: { shown: BriefShown; onSettle: Settle }) {
  const { brief, purpose } = shown;
  // The place for the reason stays once it was opened, so that nothing moves while it is typed.
  const [isOpen, setOpen] = useState(brief.serves || brief.servesWhy !== '');
  return (
    <section aria-label="Purpose" className="mt-5 border-l-[3px] border-blue bg-quiet px-5 py-3">
      {purpose ? (
        <p className="written text-[17px] italic">{purpose}</p>
      ) : (
        <p className="text-second">
          These papers have no purpose yet; it is written on the{' '}
          <Link className="link" to="/">
            Desk
          </Link>
          .
        </p>
      )}
      <div className="mt-1.5 flex items-baseline gap-3">
        <label className="flex shrink-0 cursor-pointer items-baseline gap-2">
          <input
            type="checkbox"
            checked={brief.serves}
            onChange={(event) => {
              setOpen(true);
              void onSettle(
                { serves: event.target.checked },
                event.target.checked ? 'It serves the purpose.' : 'Left open whether it serves the purpose.',
              ).catch(() => undefined);
            }}
            className="h-[15px] w-[15px] translate-y-[2px] accent-(--done)"
          />
          <span className="font-semibold">This piece serves it</span>
        </label>
        {isOpen && (
          <div className="min-w-0 flex-1">
            <TextField
              label="In what way it serves the purpose"
              shown={false}
              place={`piece.${shown.piece}.servesWhy`}
              value={brief.servesWhy}
              placeholder="in what way? In your own words"
              onSave={(servesWhy) => onSettle({ servesWhy }, 'Kept.')}
              className="written text-[15px]"
            />
          </div>
        )}
      </div>
    </section>
  );
}

const fields = [
  ['forWhom', 'For whom', 'somebody in particular'],
  ['know', 'They know after', 'what they did not know before'],
  ['feel', 'They feel', 'and how it leaves them'],
  ['do', 'They do', 'what becomes of it'],
  ['angle', 'Angle', 'from where it is looked at, and what is left out'],
  ['callToAction', 'Call to action', 'what the text asks its reader for, as it will say it'],
] as const;

function Settled({ shown, onSettle }: { shown: BriefShown; onSettle: Settle }) {
  return (
    <section aria-label="Settled" className="mt-6">
      <h2 className="label border-b border-ink pb-1">To settle first</h2>
      {fields.map(([key, name, hint]) => (
        <div
          key={key}
          className="grid grid-cols-[112px_minmax(0,1fr)] items-baseline gap-3 border-b border-rule py-1.5"
        >
          <span className="text-second">{name}</span>
          <div>
            <TextField
              label={name}
              shown={false}
              lines
              place={`piece.${shown.piece}.${key}`}
              value={shown.brief[key]}
              placeholder={hint}
              onSave={(text) => onSettle({ [key]: text }, `${name}: kept.`)}
              className="written text-[16px] leading-snug"
            />
            {key === 'callToAction' && shown.brief.callToAction && (
              <p className="text-[12.5px]">
                {shown.held ? (
                  <span className="text-second">
                    the draft holds it: <i className="written">{shown.held.sentence}</i>
                  </span>
                ) : (
                  <span className="text-red">no sentence of the draft holds it yet</span>
                )}
              </p>
            )}
          </div>
        </div>
      ))}
    </section>
  );
}
