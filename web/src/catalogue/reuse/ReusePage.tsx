import { useEffect, useState } from 'react';
import { Link, useParams } from 'react-router';
import { api, done } from '../../api/client';
import { queryClient, useFormats } from '../../api/queries';
import { carryOut } from '../../papers/notices';
import { ActionMenu } from '../../ui/ActionMenu';
import { Button } from '../../ui/Button';
import { Failed, Loading } from '../../ui/States';
import { TextField } from '../../ui/TextField';
import { nearDay } from '../../ui/dates';
import { useHeld } from '../../ui/useField';
import { act } from '../asks/asks';
import { several } from '../catalogue';
import { FamilyTree } from './FamilyPart';
import { timeSaid, useReuse, type Cut, type ReuseParagraph, type ReuseShown } from './reuse';

/** Using a piece again: its passages chosen, short ones made of them, cuts of its recording with their times. */
export default function ReusePage() {
  const piece = Number(useParams().piece);
  const reuse = useReuse(piece);
  const title = reuse.data?.title;
  useEffect(() => {
    document.title = title ? `Use again: ${title} · Nachlass` : 'Use again · Nachlass';
  }, [title]);
  if (reuse.error) return <Failed error={reuse.error} onRetry={() => void reuse.refetch()} />;
  if (!reuse.data) return <Loading what="Opening what can be used again" />;
  return <Opened key={piece} shown={reuse.data} />;
}

function Opened({ shown }: { shown: ReuseShown }) {
  const path = { number: String(shown.piece) };
  const chosen = shown.paragraphs.filter((one) => one.marked !== null);
  const made = shown.family.filter((one) => one.how && one.how !== 'piece');
  return (
    <div className="flex h-full max-lg:block max-lg:overflow-y-auto">
      <div className="min-w-0 flex-1 overflow-y-auto px-9 py-6 max-lg:overflow-visible max-md:px-4">
        <header className="mb-6 max-w-[44rem]">
          <p className="figures flex flex-wrap items-baseline gap-x-4 text-[12.5px] text-second">
            <Link to="/catalogue/again" className="link">
              Used again
            </Link>
            <Link to={`/catalogue/${shown.release}`} className="link narrow font-semibold">
              R {shown.release}
            </Link>
            <span>
              {shown.formatName}, out {nearDay(shown.outOn)}
            </span>
          </p>
          <h1 className="written mt-1 text-[27px] leading-tight font-semibold break-words">{shown.title}</h1>
        </header>
        <section aria-label="Choose passages" className="max-w-[46rem]">
          <h2 className="label flex items-baseline border-b border-ink pb-2">
            1 · Choose passages
            <span className="figures ml-auto font-medium tracking-normal normal-case text-second">
              {chosen.length} of {shown.paragraphs.length} chosen
            </span>
          </h2>
          {shown.gone > 0 && (
            <p className="mt-2 text-[12.5px] text-red">
              {several(shown.gone, 'chosen passage')} {shown.gone === 1 ? 'does' : 'do'} not stand in the piece any
              more;{' '}
              <Link to="/bench" className="link">
                on the Bench
              </Link>{' '}
              {shown.gone === 1 ? 'it stands' : 'they stand'} as last worded.
            </p>
          )}
          <ul>
            {shown.paragraphs.map((one, at) => (
              <Passage key={at} paragraph={one} shown={shown} />
            ))}
          </ul>
        </section>
      </div>
      <aside
        aria-label="Make of it"
        className="w-[400px] shrink-0 overflow-y-auto border-l border-hair bg-quiet px-[26px] py-6 max-lg:w-auto max-lg:border-t max-lg:border-l-0 max-md:px-4"
      >
        <section aria-label="Make short ones">
          <h2 className="label border-b border-ink pb-2">2 · Make short ones</h2>
          {chosen.length === 0 ? (
            <p className="mt-3 text-[13.5px] text-second">
              {made.length > 0
                ? 'All that was chosen has been made.'
                : 'What you choose becomes a piece each, ready to go out.'}
            </p>
          ) : (
            <>
              <p className="mt-3 text-[13.5px] leading-relaxed">
                {several(chosen.length, 'passage')} {chosen.length === 1 ? 'becomes a piece' : 'become a piece each'},
                in the wording of now; what keeps to its limit stands ready to go out.
              </p>
              <p className="mt-3">
                <Button
                  look="main"
                  onClick={() =>
                    void act(
                      done(api.POST('/api/pieces/{number}/reuse/make', { params: { path } })),
                      (answer) => `Made ${answer.pieces.map((piece) => `P ${piece}`).join(', ')}.`,
                    )
                  }
                >
                  Make {chosen.length === 1 ? 'it' : `all ${chosen.length}`}
                </Button>
              </p>
            </>
          )}
        </section>
        <Cuts shown={shown} />
        <section aria-label="What came of it" className="mt-7">
          <h2 className="label border-b border-hair pb-1.5">What came of it</h2>
          {shown.family.length > 1 ? (
            <FamilyTree family={shown.family} piece={shown.piece} />
          ) : (
            <p className="mt-2 text-[13px] text-second">Nothing yet.</p>
          )}
        </section>
        <p className="mt-6">
          {shown.doneAt ? (
            <>
              <span className="mr-3 text-[13px] text-second">Done {nearDay(shown.doneAt.slice(0, 10))}.</span>
              <Button
                onClick={() =>
                  void act(
                    done(api.PUT('/api/pieces/{number}/reuse/done', { params: { path }, body: { done: false } })),
                    'Taken up again.',
                  )
                }
              >
                There is more in it
              </Button>
            </>
          ) : (
            <Button
              onClick={() =>
                void act(
                  done(api.PUT('/api/pieces/{number}/reuse/done', { params: { path }, body: { done: true } })),
                  'Done with it.',
                )
              }
            >
              3 · Done with it
            </Button>
          )}
        </p>
      </aside>
    </div>
  );
}

function Passage({ paragraph, shown }: { paragraph: ReuseParagraph; shown: ReuseShown }) {
  const formats = (useFormats().data ?? []).filter((format) => !format.isPutAway);
  const name = (key: string | null) => formats.find((format) => format.key === key)?.name ?? key;
  const limit = formats.find((format) => format.key === paragraph.format)?.limit ?? null;
  const over = limit !== null && paragraph.characters > limit;
  const isChosen = paragraph.marked !== null;
  const choose = (format: string) =>
    void act(
      done(
        api.POST('/api/usable/{kind}/{number}', {
          params: { path: { kind: 'piece', number: shown.piece } },
          body: { paragraph: paragraph.text, format },
        }),
      ),
      'Chosen.',
    );
  return (
    <li
      className={`border-b border-rule py-3 ${isChosen ? 'border-l-[3px] border-l-blue bg-quiet pr-3 pl-4' : 'pr-3 pl-[19px]'}`}
    >
      <p className="written text-[16px] leading-[1.5]">{paragraph.text}</p>
      <div className="mt-1 flex flex-wrap items-center gap-x-5 text-[12.5px] text-second">
        <span className="figures flex-1">
          <span className={over ? 'font-semibold text-red' : ''}>
            {paragraph.characters.toLocaleString('en')} {limit ? `of ${limit} characters` : 'characters'}
          </span>
          {shown.isSpoken && ` · ${timeSaid(paragraph.fromMs)} to ${timeSaid(paragraph.toMs)} at a speaking pace`}
        </span>
        {shown.isSpoken && (
          <button
            type="button"
            className="link min-h-6"
            onClick={() =>
              void act(
                done(
                  api.POST('/api/pieces/{number}/cuts', {
                    params: { path: { number: String(shown.piece) } },
                    body: {
                      title: paragraph.text.split(/(?<=[.!?])\s/)[0]!.slice(0, 120),
                      passage: paragraph.text,
                      fromMs: paragraph.fromMs,
                      toMs: paragraph.toMs,
                    },
                  }),
                ),
                'Cut out; set its times by the recording.',
              )
            }
          >
            cut it out
          </button>
        )}
        {isChosen ? (
          <button
            type="button"
            className="link min-h-6"
            onClick={() =>
              void act(
                done(api.DELETE('/api/usable/{number}', { params: { path: { number: String(paragraph.marked) } } })),
                'Not chosen any more.',
              )
            }
          >
            {name(paragraph.format)} · let it go
          </button>
        ) : (
          <ActionMenu
            label={`Choose “${paragraph.text.slice(0, 30)}”`}
            className="link min-h-6 font-semibold"
            actions={formats.map((format) => ({
              key: format.key,
              label: format.limit ? `${format.name}, ${format.limit} characters` : format.name,
              onChoose: () => choose(format.key),
            }))}
          >
            choose as ▾
          </ActionMenu>
        )}
      </div>
    </li>
  );
}

function Cuts({ shown }: { shown: ReuseShown }) {
  return (
    <section aria-label="Clips and cuts" className="mt-7">
      <h2 className="label flex items-baseline border-b border-hair pb-1.5">
        Clips and cuts
        {shown.cuts.length > 0 && (
          <a
            href={`/api/pieces/${shown.piece}/cuts.vtt`}
            download
            className="link ml-auto text-[12.5px] font-semibold tracking-normal normal-case"
          >
            as WebVTT
          </a>
        )}
      </h2>
      <ul>
        {shown.cuts.map((cut) => (
          <CutLine key={cut.number} cut={cut} />
        ))}
      </ul>
      <NewCut piece={shown.piece} />
    </section>
  );
}

function CutLine({ cut }: { cut: Cut }) {
  const path = { number: String(cut.number) };
  const edit = async (body: { title?: string; from?: string; to?: string }) => {
    await carryOut(
      done(api.PATCH('/api/cuts/{number}', { params: { path }, body: { version: cut.version, ...body } })),
      undefined,
      true,
    );
    await queryClient.invalidateQueries();
  };
  const place = `cut.${cut.number}`;
  return (
    <li className="border-b border-rule py-2">
      <div className="flex items-baseline gap-3">
        <span className="min-w-0 flex-1">
          <TextField
            label="What the cut is called"
            shown={false}
            place={`${place}.title`}
            value={cut.title}
            className="written text-[15px] leading-snug"
            onSave={(title) => edit({ title })}
          />
        </span>
        <button
          type="button"
          className="min-h-7 text-[12px] text-second hover:text-red"
          onClick={() => void act(done(api.DELETE('/api/cuts/{number}', { params: { path } })), 'Took the cut away.')}
        >
          take away
        </button>
      </div>
      <div className="figures mt-2 flex items-baseline gap-2 text-[12.5px] text-second">
        <span className="w-14">
          <TextField
            label="From"
            shown={false}
            place={`${place}.from`}
            value={cut.from ?? ''}
            className="text-ink"
            onSave={(from) => edit({ from })}
          />
        </span>
        to
        <span className="w-14">
          <TextField
            label="To"
            shown={false}
            place={`${place}.to`}
            value={cut.to ?? ''}
            className="text-ink"
            onSave={(to) => edit({ to })}
          />
        </span>
        <span className="flex-1 whitespace-nowrap">{timeSaid(cut.toMs - cut.fromMs)} in all</span>
        <button
          type="button"
          className="link min-h-6 whitespace-nowrap"
          onClick={() =>
            void act(
              done(api.POST('/api/cuts/{number}/piece', { params: { path }, body: {} })),
              (answer) => `Made P ${answer.pieces[0]}.`,
            )
          }
        >
          make a piece
        </button>
      </div>
    </li>
  );
}

function NewCut({ piece }: { piece: number }) {
  const [title, setTitle] = useHeld(`piece.${piece}.cut.title`);
  const [from, setFrom] = useHeld(`piece.${piece}.cut.from`);
  const [to, setTo] = useHeld(`piece.${piece}.cut.to`);
  const [wrong, setWrong] = useState('');
  const add = async () => {
    try {
      await carryOut(
        done(
          api.POST('/api/pieces/{number}/cuts', {
            params: { path: { number: String(piece) } },
            body: { title, from: from.trim() || '0', to },
          }),
        ),
        'Cut out.',
        true,
      );
      setTitle('');
      setFrom('');
      setTo('');
      setWrong('');
      await queryClient.invalidateQueries();
    } catch (error) {
      setWrong((error as Error).message);
    }
  };
  const field = 'min-w-0 border-b border-hair bg-transparent py-0.5 text-[13.5px] outline-none focus:border-blue';
  return (
    <form
      className="mt-2"
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <div className="flex items-baseline gap-2.5 text-[12.5px] text-second">
        <input
          aria-label="A new cut"
          value={title}
          maxLength={200}
          placeholder="A cut: what is it called?"
          className={`flex-1 text-ink ${field}`}
          onChange={(event) => setTitle(event.target.value)}
        />
        <input
          aria-label="It begins at"
          value={from}
          placeholder="0:00"
          className={`figures w-13 text-ink ${field}`}
          onChange={(event) => setFrom(event.target.value)}
        />
        to
        <input
          aria-label="It ends at"
          value={to}
          placeholder="1:02"
          className={`figures w-13 text-ink ${field}`}
          onChange={(event) => setTo(event.target.value)}
        />
        <Button type="submit" disabled={!title.trim() || !to.trim()}>
          Cut
        </Button>
      </div>
      {wrong && (
        <p role="alert" className="mt-1 text-[12.5px] text-red">
          {wrong}
        </p>
      )}
    </form>
  );
}
