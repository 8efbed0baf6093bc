import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, done, type Checklist, type Piece, type PieceStep } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';
import { AddLine } from '../ui/AddLine';
import { Button } from '../ui/Button';
import { DateField } from '../ui/DateField';
import { Prose } from '../ui/MarkdownText';
import { Failed, Loading } from '../ui/States';
import { nearDay } from '../ui/dates';
import { refreshPiece } from './refreshPiece';

/** The checklist of a piece: the stage it stands at first, with how each step is done. */
export function StepsPart({ piece }: { piece: Piece }) {
  const path = { number: String(piece.number) };
  const list = useQuery({
    queryKey: keys.steps(piece.number),
    queryFn: () => ask(api.GET('/api/pieces/{number}/steps', { params: { path } })),
  });
  if (list.error) return <Failed error={list.error} onRetry={() => void list.refetch()} />;
  if (!list.data) return <Loading />;
  const { steps, stages, stage } = list.data;
  // A stage that the format has no more still has its steps.
  const shown = [...stages, ...new Set(steps.map((step) => step.stage).filter((name) => !stages.includes(name)))];
  return (
    <div
      className="min-h-0 flex-1 overflow-y-auto px-6 pb-10 max-md:flex-none max-md:overflow-visible max-md:px-4"
      tabIndex={-1}
    >
      <div className="mx-auto max-w-[46rem]">
        <Offered piece={piece.number} list={list.data} />
        {steps.length === 0 && (
          <p className="mt-6 text-second">
            No steps. A format’s checklist comes along when a piece is started; here any step can be added for this
            piece alone.
          </p>
        )}
        {shown
          .filter((name) => name === stage || steps.some((step) => step.stage === name))
          .map((name) => (
            <Stage
              key={name}
              name={name}
              isHere={name === stage}
              isPast={stages.indexOf(name) < stages.indexOf(stage)}
              steps={steps.filter((step) => step.stage === name)}
              piece={piece.number}
            />
          ))}
        <Later piece={piece.number} later={list.data.later} />
      </div>
    </div>
  );
}

/** The steps of one stage. */
export function Stage({
  name,
  isHere,
  isPast,
  steps,
  piece,
}: {
  name: string;
  isHere: boolean;
  isPast: boolean;
  steps: readonly PieceStep[];
  piece: number;
}) {
  const open = steps.filter((step) => !step.doneAt).length;
  return (
    <section aria-label={`Steps of ${name}`} className="mt-7">
      <h2 className={`label flex items-baseline border-b pb-1 ${isHere ? 'border-ink' : 'border-hair text-second'}`}>
        <span>
          {name}
          {isHere && <span className="text-blue"> · it stands here</span>}
        </span>
        <span className={`figures ml-auto font-medium normal-case ${isPast && open > 0 ? 'text-red' : 'text-second'}`}>
          {steps.length === 0 ? '' : open === 0 ? 'all done' : isPast ? `${open} left open` : `${open} to do`}
        </span>
      </h2>
      {steps.map((step) => (
        <Step key={step.number} step={step} piece={piece} />
      ))}
      {isHere && <AddStep piece={piece} stage={name} />}
    </section>
  );
}

function Step({ step, piece }: { step: PieceStep; piece: number }) {
  const path = { number: String(piece), step: String(step.number) };
  const [dating, setDating] = useState(false);
  const isDone = step.doneAt !== null;
  const act = (asked: Parameters<typeof carryOut>[0], said: string) =>
    void carryOut(asked, said).then(refreshPiece, () => undefined);
  return (
    <div className="flex items-baseline gap-3 border-b border-rule py-2">
      <input
        type="checkbox"
        aria-label={step.text}
        checked={isDone}
        onChange={() =>
          act(
            done(api.PATCH('/api/pieces/{number}/steps/{step}', { params: { path }, body: { done: !isDone } })),
            isDone ? 'Open again.' : 'Done.',
          )
        }
        className="h-[15px] w-[15px] shrink-0 translate-y-[2px] accent-(--done)"
      />
      <div className="min-w-0 flex-1">
        {step.html ? (
          <details>
            <summary className="cursor-pointer list-none">
              <Words step={step} /> <span className="link text-[12px]">how</span>
            </summary>
            <Prose html={step.html} className="mt-1 border-l border-line pl-3 text-[14.5px]" />
          </details>
        ) : (
          <Words step={step} />
        )}
        <p className="flex flex-wrap gap-x-4 text-[12px] text-second">
          {step.who && <span>by {step.who}</span>}
          {step.address && (
            <a className="link" href={step.address} target="_blank" rel="noopener noreferrer">
              open {step.address.replace(/^https?:\/\//, '').slice(0, 48)}
            </a>
          )}
          {step.move && <span>a move{step.due ? `, due ${nearDay(step.due)}` : ''}</span>}
        </p>
      </div>
      {!isDone && !step.move && (
        <span className="shrink-0 text-[12px] whitespace-nowrap">
          {dating ? (
            <DateField
              label={`Due date of ${step.text}`}
              empty="which day?"
              value={null}
              onChange={(due) => {
                setDating(false);
                if (due)
                  act(
                    done(api.POST('/api/pieces/{number}/steps/{step}/move', { params: { path }, body: { due } })),
                    'It is a move now.',
                  );
              }}
            />
          ) : (
            <button type="button" className="link" onClick={() => setDating(true)}>
              put a day to it
            </button>
          )}
        </span>
      )}
      <button
        type="button"
        aria-label={`Take “${step.text}” away`}
        className="min-h-6 min-w-6 shrink-0 text-second hover:text-red"
        onClick={() =>
          act(done(api.DELETE('/api/pieces/{number}/steps/{step}', { params: { path } })), 'Step taken away.')
        }
      >
        ×
      </button>
    </div>
  );
}

function Words({ step }: { step: PieceStep }) {
  return (
    <span
      className={`written text-[15.5px] leading-snug ${step.doneAt ? 'text-second line-through decoration-hair' : ''}`}
    >
      {step.text}
    </span>
  );
}

function AddStep({ piece, stage }: { piece: number; stage: string }) {
  return (
    <AddLine
      place={`piece.${piece}.step.new`}
      label={`Another step of ${stage}`}
      placeholder="another step, for this piece alone"
      press="Add"
      onAdd={(text) =>
        carryOut(
          done(
            api.POST('/api/pieces/{number}/steps', {
              params: { path: { number: String(piece) } },
              body: { text, stage },
            }),
          ),
          'Step added.',
        ).then(refreshPiece)
      }
    />
  );
}

/** What the format has got since the piece was started. */
function Offered({ piece, list }: { piece: number; list: Checklist }) {
  const { offered, offeredSections } = list;
  const [without, setWithout] = useState<readonly number[]>([]);
  const all = [...offeredSections, ...offered].map((one) => one.number);
  const chosen = all.filter((number) => !without.includes(number));
  if (offered.length + offeredSections.length === 0) return null;
  const lay = (refuse: boolean) =>
    void carryOut(
      done(
        api.POST('/api/pieces/{number}/steps/offered', {
          params: { path: { number: String(piece) } },
          body: { numbers: refuse ? all : chosen, refuse },
        }),
      ),
      refuse ? 'Not for this piece.' : 'Laid in.',
    ).then(
      () => queryClient.invalidateQueries(),
      () => undefined,
    );
  return (
    <section aria-label="New in the format" className="mt-6 border-l-[3px] border-blue bg-quiet px-5 py-3">
      <h2 className="label text-second">In its format, and not in this piece</h2>
      <ul className="mt-1.5">
        {offeredSections.map((section) => (
          <OfferedLine
            key={section.number}
            text={section.title}
            note="a section"
            number={section.number}
            without={without}
            onChange={setWithout}
          />
        ))}
        {offered.map((step) => (
          <OfferedLine
            key={step.number}
            text={step.text}
            note={step.stage}
            number={step.number}
            without={without}
            onChange={setWithout}
          />
        ))}
      </ul>
      <div className="mt-2.5 flex gap-3">
        <Button look="main" disabled={chosen.length === 0} onClick={() => lay(false)}>
          Lay {chosen.length === 1 ? 'it' : 'them'} in
        </Button>
        <Button look="quiet" onClick={() => lay(true)}>
          Not for this piece
        </Button>
      </div>
    </section>
  );
}

function OfferedLine({
  text,
  note,
  number,
  without,
  onChange,
}: {
  text: string;
  note: string;
  number: number;
  without: readonly number[];
  onChange: (without: readonly number[]) => void;
}) {
  const isIn = !without.includes(number);
  return (
    <li>
      <label className="flex cursor-pointer items-baseline gap-2.5 py-0.5">
        <input
          type="checkbox"
          checked={isIn}
          onChange={() => onChange(isIn ? [...without, number] : without.filter((one) => one !== number))}
          className="translate-y-[1px] accent-(--blue)"
        />
        <span className="written text-[15px] leading-snug">{text}</span>
        <span className="text-[12px] whitespace-nowrap text-second">{note}</span>
      </label>
    </li>
  );
}

/** Sections of the format that are laid in when they are wanted. */
function Later({ piece, later }: { piece: number; later: Checklist['later'] }) {
  if (later.length === 0) return null;
  const lay = async (section: Checklist['later'][number]) => {
    const draft = await ask(api.GET('/api/pieces/{number}/draft', { params: { path: { number: String(piece) } } }));
    await carryOut(
      done(
        api.POST('/api/pieces/{number}/outline', {
          params: { path: { number: String(piece) } },
          body: {
            title: section.title,
            depth: section.depth,
            aim: section.aim ?? undefined,
            beat: section.beat,
            version: draft.version,
          },
        }),
      ),
      `“${section.title}” stands at the end of the outline.`,
    );
    await queryClient.invalidateQueries();
  };
  return (
    <section aria-label="Sections to lay in" className="mt-9">
      <h2 className="label border-b border-hair pb-1 text-second">Sections that can be laid in</h2>
      {later.map((section) => (
        <div key={section.number} className="flex items-baseline gap-3 border-b border-rule py-2">
          <span className="written min-w-0 flex-1 text-[15.5px]">{section.title}</span>
          <span className="text-[12px] text-second">
            {[section.beat, section.aim ? `${section.aim} words` : ''].filter(Boolean).join(', ')}
          </span>
          <button type="button" className="link" onClick={() => void lay(section).catch(() => undefined)}>
            lay in
          </button>
        </div>
      ))}
    </section>
  );
}
