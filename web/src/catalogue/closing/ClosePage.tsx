import { useEffect, useRef, useState } from 'react';
import { Link, useParams } from 'react-router';
import { useKeys } from '../../papers/keys';
import { takeBack } from '../../papers/notices';
import { queryClient } from '../../api/queries';
import { addressOf } from '../../sources/Connections';
import { Button } from '../../ui/Button';
import { KeyOf } from '../../ui/KeyOf';
import { Failed, Loading } from '../../ui/States';
import { TextField } from '../../ui/TextField';
import { TopicWords } from '../../ui/TopicWord';
import { nearDay } from '../../ui/dates';
import { several, useCatalogue } from '../catalogue';
import {
  keepPassage,
  setClosed,
  useClosing,
  useLearned,
  writeClosing,
  type ClosingShown,
  type Offered,
} from './closing';

/** Closing a piece: two lines about what was learned, and the passages that would else end in the archive. */
export default function ClosePage() {
  const piece = Number(useParams().piece);
  const closing = useClosing(piece);
  const title = closing.data?.title;
  useEffect(() => {
    document.title = title ? `Close ${title} · Nachlass` : 'Close a piece · Nachlass';
  }, [title]);
  if (closing.error) return <Failed error={closing.error} onRetry={() => void closing.refetch()} />;
  if (!closing.data) return <Loading what="Looking through what went out" />;
  return <Opened key={piece} shown={closing.data} />;
}

const keyOf = (offered: Offered) => `${offered.why}\n${offered.text}`;

function Opened({ shown }: { shown: ClosingShown }) {
  const { closing } = shown;
  const piece = closing.piece;
  const row = useCatalogue().data?.rows.find((one) => one.piece === piece);
  const before = useLearned(row?.format).filter((one) => one.piece !== piece);
  const [chosen, setChosen] = useState<string>();
  /** Those on their way, which are out of sight at once so that the next key has the next passage. */
  const [going, setGoing] = useState<readonly string[]>([]);
  const past = useRef<number[]>([]);
  /** One after the other, so that what is taken back is the last that was pressed. */
  const line = useRef<Promise<unknown>>(Promise.resolve());
  const offered = shown.offered.filter((one) => !going.includes(keyOf(one)));
  const at = Math.max(
    0,
    offered.findIndex((one) => keyOf(one) === chosen),
  );
  const current = offered[at];
  const walk = (by: number) => {
    const to = offered[Math.min(offered.length - 1, Math.max(0, at + by))];
    if (!to) return;
    setChosen(keyOf(to));
    requestAnimationFrame(() =>
      document.querySelector('[data-chosen=true]')?.scrollIntoView({ block: 'nearest', behavior: 'smooth' }),
    );
  };
  const keep = (one: Offered | undefined, asClaim: boolean) => {
    if (!one) return;
    const key = keyOf(one);
    const next = offered[offered.indexOf(one) + 1] ?? offered[offered.indexOf(one) - 1];
    setGoing((all) => [...all, key]);
    setChosen(next && keyOf(next));
    line.current = line.current.then(async () => {
      const command = await keepPassage(piece, one.text, asClaim);
      setGoing((all) => all.filter((other) => other !== key));
      if (command !== undefined) past.current.push(command);
    });
  };
  const back = () => {
    line.current = line.current.then(async () => {
      const last = past.current.pop();
      if (last === undefined) return;
      await takeBack(last);
      await queryClient.invalidateQueries();
    });
  };
  useKeys(
    {
      'closing.keep': () => keep(current, false),
      'closing.claim': () => keep(current, true),
      'closing.back': back,
    },
    { fixed: { ArrowDown: () => walk(1), ArrowUp: () => walk(-1) } },
  );
  return (
    <div className="flex h-full max-lg:block max-lg:overflow-y-auto">
      <div className="min-w-0 flex-1 overflow-y-auto px-9 py-6 max-lg:overflow-visible max-md:px-4">
        <header className="mb-6 max-w-[44rem]">
          <p className="figures flex flex-wrap items-baseline gap-x-4 text-[12.5px] text-second">
            <Link to="/catalogue/learned" className="link">
              What was learned
            </Link>
            <Link to={`/catalogue/${shown.release}`} className="link narrow font-semibold">
              R {shown.release}
            </Link>
            <span>out {nearDay(shown.outOn)}</span>
            <TopicWords topics={shown.topics} linked />
          </p>
          <h1 className="written mt-1 text-[27px] leading-tight font-semibold break-words">{shown.title}</h1>
        </header>
        <section aria-label="What was learned" className="max-w-[44rem]">
          <TextField
            label="What do you know now that you did not before?"
            lines
            place={`closing.${piece}.learned`}
            value={closing.learned ?? ''}
            placeholder="One line; it becomes a claim on its topics"
            className="written pb-1 text-[18px] leading-snug"
            onSave={(learned) => writeClosing(shown, { learned })}
          />
          <div className="mt-5">
            <TextField
              label="What would you do otherwise next time?"
              lines
              place={`closing.${piece}.otherwise`}
              value={closing.otherwise ?? ''}
              placeholder={`One line; it is shown when you start the next ${row?.formatName ?? 'one'}`}
              className="written pb-1 text-[18px] leading-snug"
              onSave={(otherwise) => writeClosing(shown, { otherwise })}
            />
          </div>
        </section>
        <section aria-label="Passages worth keeping" className="mt-8 max-w-[44rem]">
          <h2 className="label flex items-baseline border-b border-ink pb-2">
            Passages worth keeping
            <span className="figures ml-auto font-medium tracking-normal normal-case text-second">
              {several(offered.length, 'passage')}
            </span>
          </h2>
          {offered.length === 0 && (
            <p className="mt-3 leading-relaxed text-second">
              {shown.kept.length > 0
                ? 'Everything that was worth it is kept.'
                : 'All that it says stands in your notes already, in these or in other words.'}
            </p>
          )}
          <ul>
            {offered.map((one) => {
              const isChosen = one === current;
              return (
                <li
                  key={keyOf(one)}
                  data-chosen={isChosen}
                  className={`border-b border-rule py-3 ${isChosen ? 'border-l-[3px] border-l-blue bg-quiet pr-3 pl-4' : 'pr-3 pl-[19px]'}`}
                  onClick={() => setChosen(keyOf(one))}
                >
                  <p className="written text-[16px] leading-[1.5]">{one.text}</p>
                  <div className="mt-1.5 flex flex-wrap items-center gap-x-4 gap-y-1.5 text-[12.5px] text-second">
                    <span className="min-w-[13rem] flex-1">
                      {one.section && <>{one.section} · </>}
                      <Why offered={one} />
                    </span>
                    <span className="flex gap-2">
                      <Button onClick={() => keep(one, false)}>
                        Keep as a slip {isChosen && <KeyOf act="closing.keep" />}
                      </Button>
                      <Button onClick={() => keep(one, true)}>
                        As a claim {isChosen && <KeyOf act="closing.claim" />}
                      </Button>
                    </span>
                  </div>
                </li>
              );
            })}
          </ul>
        </section>
      </div>
      <aside
        aria-label="Closing it"
        className="w-[374px] shrink-0 overflow-y-auto border-l border-hair bg-quiet px-[26px] py-6 max-lg:w-auto max-lg:border-t max-lg:border-l-0 max-md:px-4"
      >
        <h2 className="label border-b border-ink pb-2">{closing.closedAt ? 'Closed' : 'Closing it'}</h2>
        <p className="mt-3 text-[13.5px] leading-relaxed">
          {closing.closedAt ? (
            <>
              Closed {nearDay(closing.closedAt.slice(0, 10))}.{' '}
              {closing.slip && (
                <>
                  What you learned is{' '}
                  <Link to={addressOf({ kind: 'slip', number: closing.slip })} className="link">
                    slip {closing.slip}
                  </Link>
                  , a claim.
                </>
              )}
            </>
          ) : (
            <>
              What you learned becomes a claim
              {shown.topics.length > 0 ? ` on ${shown.topics.map((topic) => topic.name).join(', ')}` : ', to be sifted'}
              ; the piece leaves the list of those to close.
            </>
          )}
        </p>
        <p className="mt-3">
          {closing.closedAt ? (
            <Button onClick={() => void setClosed(piece, false)}>Open it again</Button>
          ) : (
            <Button look="main" onClick={() => void setClosed(piece, true)}>
              Close the piece
            </Button>
          )}
        </p>
        {shown.kept.length > 0 && (
          <section aria-label="Kept of it" className="mt-7">
            <h2 className="label border-b border-hair pb-1.5">Kept of it</h2>
            <ul>
              {shown.kept.map((one) => (
                <li key={one.slip} className="border-b border-rule py-2">
                  <Link
                    to={addressOf({ kind: 'slip', number: one.slip })}
                    className="written line-clamp-3 text-[14.5px] leading-snug hover:text-blue"
                  >
                    {one.text}
                  </Link>
                  <p className="text-[12px] text-second">
                    {one.isClaim ? 'claim, ' : ''}slip {one.slip}
                  </p>
                </li>
              ))}
            </ul>
          </section>
        )}
        {before.length > 0 && (
          <section aria-label="Said before" className="mt-7">
            <h2 className="label border-b border-hair pb-1.5">Otherwise next time, you said</h2>
            <ul>
              {before.slice(0, 3).map((one) => (
                <li key={one.piece} className="border-b border-rule py-2">
                  <p className="written text-[14.5px] leading-snug">{one.otherwise}</p>
                  <p className="text-[12px] text-second">
                    <Link to={`/catalogue/close/${one.piece}`} className="link">
                      {one.title}
                    </Link>
                  </p>
                </li>
              ))}
            </ul>
          </section>
        )}
      </aside>
    </div>
  );
}

/** Why a passage is offered, and what of the notes comes nearest. */
function Why({ offered }: { offered: Offered }) {
  const nearest = offered.nearest && (
    <>
      nearest is{' '}
      <Link to={addressOf(offered.nearest)} className="link">
        {offered.nearest.kind} {offered.nearest.number}
      </Link>
      , {Math.round(100 * offered.likeness)}% alike
    </>
  );
  if (offered.why === 'marked') return <>marked as usable by itself, and not used</>;
  if (offered.why === 'leftOut') return <>left out of what went out{nearest && <>; {nearest}</>}</>;
  return nearest ? <>not in your notes; {nearest}</> : <>nothing in your notes is like it</>;
}
