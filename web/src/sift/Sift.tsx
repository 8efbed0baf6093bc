import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { api, ask, done, type Decision, type SlipChange } from '../api/client';
import { keys, openedSlip, useFormats } from '../api/queries';
import { carryOut, complain, say, takeBack } from '../papers/notices';
import { useKeys } from '../papers/keys';
import { SplitDialog } from '../sources/SplitDialog';
import { Failed, Loading } from '../ui/States';
import { AdviceLists } from './AdviceLists';
import { Decisions } from './Decisions';
import { ClaimPart } from './ClaimPart';
import { HoldDialog, IntoPieceDialog, MergeDialog, RefineDialog } from './DecisionDialogs';
import { NothingWaits } from './NothingWaits';
import { PileHead, usePile } from './PileHead';
import { Again } from './Again';
import { Queue } from './Queue';
import { SlipSheet } from './SlipSheet';
import { Sorting } from './Sorting';

type Taken = { command: number; slip: number };

const stackPlace = 'nachlass.sift.taken';

function takenBefore(): Taken[] {
  try {
    return JSON.parse(sessionStorage.getItem(stackPlace) ?? '[]') as Taken[];
  } catch {
    return [];
  }
}

/** The pull of what must be written. */
const strongest = 5;

/** Deciding about what waits, one slip after the other. */
export function Sift() {
  const { number } = useParams();
  const navigate = useNavigate();
  const client = useQueryClient();
  const pile = usePile();
  const [params] = useSearchParams();
  const search = params.toString();
  const again = pile.topic !== undefined || pile.piece !== undefined;
  const sitting = useQuery({
    queryKey: keys.sift(pile),
    queryFn: () => ask(api.GET('/api/sift', { params: { query: pile } })),
  });
  // Slips that were just decided leave the queue at once, before the server has answered.
  const [gone, setGone] = useState<ReadonlySet<number>>(new Set());
  const [taken, setTaken] = useState<Taken[]>(takenBefore);
  const [dialog, setDialog] = useState<'hold' | 'merge' | 'piece' | 'split' | 'refine' | null>(null);
  const [editing, setEditing] = useState(false);
  const deciding = useRef(Promise.resolve());
  const formats = useFormats().data ?? [];

  const order = useMemo(
    () =>
      (sitting.data?.groups ?? [])
        .flatMap((group) => group.slips.map((slip) => slip.number))
        .filter((n) => !gone.has(n)),
    [sitting.data, gone],
  );
  // The address follows a moment after a decision; until it has, what was meant to be shown next counts. Otherwise a quick
  // second key would meet whatever stands first in the queue.
  const asked = Number(number);
  const [meant, setMeant] = useState<{ number: number | undefined; from: number }>();
  if (meant && meant.number === asked) setMeant(undefined);
  const next = meant && (meant.from === asked || gone.has(asked)) ? meant.number : asked;
  const current = next && !gone.has(next) ? next : order[0];
  const at = current ? order.indexOf(current) : -1;

  const slip = useQuery({
    queryKey: keys.slip(current ?? 0),
    queryFn: () => ask(api.GET('/api/slips/{number}', { params: { path: { number: String(current) } } })),
    enabled: current !== undefined,
  });
  const advice = useQuery({
    queryKey: keys.advice(current ?? 0),
    queryFn: () => ask(api.GET('/api/slips/{number}/advice', { params: { path: { number: String(current) } } })),
    enabled: current !== undefined,
  });
  // The next ones are fetched ahead, so that a decision shows the next slip in the same moment.
  useEffect(() => {
    for (const next of order.slice(at + 1, at + 3)) {
      void client.prefetchQuery({
        queryKey: keys.slip(next),
        queryFn: () => ask(api.GET('/api/slips/{number}', { params: { path: { number: String(next) } } })),
      });
      void client.prefetchQuery(openedSlip(next));
      void client.prefetchQuery({
        queryKey: keys.advice(next),
        queryFn: () => ask(api.GET('/api/slips/{number}/advice', { params: { path: { number: String(next) } } })),
      });
    }
  }, [at, order, client]);

  useEffect(() => {
    sessionStorage.setItem(stackPlace, JSON.stringify(taken.slice(-100)));
  }, [taken]);

  const show = useCallback(
    (to: number | undefined, replace = false) => {
      setMeant({ number: to, from: asked });
      void navigate({ pathname: to ? `/sift/${to}` : '/sift', search }, { replace });
    },
    [navigate, asked, search],
  );

  const decide = (decision: Decision | 'pass', said: (answer: { piece: number | null }) => string) => {
    if (!current) return;
    const about = current;
    setEditing(false);
    setDialog(null);
    setGone((before) => new Set(before).add(about));
    show(order[at + 1] ?? order[at - 1], true);
    // One after the other, in the order they were taken.
    deciding.current = deciding.current.then(async () => {
      try {
        const of = { path: { number: String(about) }, query: { topic: pile.topic, piece: pile.piece } };
        const { piece, command } =
          decision === 'pass'
            ? { piece: null, ...(await done(api.POST('/api/slips/{number}/pass', { params: of }))) }
            : await done(api.POST('/api/slips/{number}/decision', { params: of, body: decision })).then((settled) => ({
                piece: settled.answer.piece,
                command: settled.command,
              }));
        setTaken((before) => [...before, { command, slip: about }]);
        say(said({ piece }), command);
      } catch (error) {
        setGone((before) => new Set([...before].filter((n) => n !== about)));
        show(about, true);
        complain(error);
      }
      await client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== 'draft' });
      setGone((before) => new Set([...before].filter((n) => n !== about)));
    });
  };

  const back = () => {
    const last = taken.at(-1);
    if (!last) return say('Nothing in this sitting to take back.');
    setTaken((before) => before.slice(0, -1));
    deciding.current = deciding.current.then(async () => {
      if (await takeBack(last.command)) show(last.slip, true);
    });
  };

  // Changes go out one after the other too: each is based on the version the one before it made.
  const change = (fields: SlipChange) => {
    if (!current) return Promise.resolve();
    const about = current;
    const changed = deciding.current.then(async () => {
      const newest = client.getQueryData<{ version: number }>(keys.slip(about)) ?? slip.data;
      const { answer } = await done(
        api.PATCH('/api/slips/{number}', {
          params: { path: { number: String(about) } },
          body: { ...fields, version: newest?.version ?? null },
        }),
      );
      client.setQueryData(keys.slip(about), answer);
      void client.invalidateQueries({ queryKey: keys.slipOpened(about) });
      void client.invalidateQueries({ queryKey: keys.advice(about) });
      void client.invalidateQueries({ queryKey: keys.topics });
    });
    deciding.current = changed.catch(complain);
    return changed;
  };

  const purpose = useQuery({ queryKey: keys.purpose, queryFn: () => ask(api.GET('/api/purpose')) }).data?.text.trim();
  const fits = advice.data?.wouldFit ?? [];
  const put = (piece: number, title: string, section?: { number: number; title: string }) =>
    decide({ decision: 'put', piece, section: section?.number }, () =>
      section ? `Put into P ${piece}, under “${section.title}”.` : `Put into P ${piece}, ${title}.`,
    );
  const bringBack = (dropped: number) =>
    void carryOut(
      done(
        api.POST('/api/slips/{number}/decision', {
          params: { path: { number: String(dropped) } },
          body: { decision: 'wait' },
        }),
      ),
      `Slip ${dropped} is back on the pile.`,
    ).then(
      () => client.invalidateQueries(),
      () => undefined,
    );
  const refuse = (topic: number) =>
    void carryOut(
      done(
        api.POST('/api/slips/{number}/refusals/{topic}', {
          params: { path: { number: String(current), topic: String(topic) } },
        }),
      ),
      'Not offered for this slip again.',
    ).then(
      () => client.invalidateQueries({ queryKey: ['advice'] }),
      () => undefined,
    );
  // What changes the slip in hand and leaves it there can be taken back like a decision.
  const inHand = async (asked: Promise<{ command: number }>, said: string) => {
    const about = current!;
    try {
      const { command } = await asked;
      setDialog(null);
      setTaken((before) => [...before, { command, slip: about }]);
      say(said, command);
      await client.invalidateQueries();
    } catch (error) {
      complain(error);
    }
  };
  const format = formats.find((f) => f.key === (slip.data?.formats[0] ?? 'essay'));
  const act = {
    pass: again ? () => decide('pass', () => `Left slip ${current} as it is.`) : undefined,
    keep: () => decide({ decision: 'keep' }, () => `Kept slip ${current}.`),
    start: () =>
      decide(
        { decision: 'start', format: null, title: null },
        ({ piece }) => `Started P ${piece}. It is on the bench.`,
      ),
    drop: () => decide({ decision: 'drop' }, () => `Dropped slip ${current}.`),
    hold: () => setDialog('hold'),
    merge: () => setDialog('merge'),
    piece: () => setDialog('piece'),
    back,
  };
  useKeys(
    {
      'sift.pass': () => act.pass?.(),
      'sift.keep': act.keep,
      'sift.start': act.start,
      'sift.drop': act.drop,
      'sift.hold': act.hold,
      'sift.merge': act.merge,
      'sift.piece': act.piece,
      'sift.back': back,
      'sift.change': () => setEditing(true),
      'sift.split': () => setDialog('split'),
      'sift.refine': () => setDialog('refine'),
      'sift.topics': () => document.getElementById('sift-topics')?.focus(),
      'sift.strong': () => slip.data && void change({ pull: slip.data.pull === strongest ? null : strongest }),
    },
    {
      fixed: {
        ArrowDown: () => order[at + 1] && show(order[at + 1]),
        ArrowUp: () => order[at - 1] && show(order[at - 1]),
        ...Object.fromEntries(fits.map((fit, i) => [String(i + 1), () => put(fit.thing.number, fit.title)])),
      },
      active: current !== undefined && dialog === null,
    },
  );
  useKeys({ 'sift.back': back }, { active: current === undefined });

  if (sitting.error) return <Failed error={sitting.error} onRetry={() => void sitting.refetch()} />;
  if (!sitting.data) return <Loading what="Opening the sitting" />;
  const left = Math.max(0, sitting.data.waiting - gone.size);

  if (current === undefined)
    return <NothingWaits again={again} sitting={sitting.data} onBack={taken.length > 0 ? back : undefined} />;

  return (
    <div className="flex h-full max-md:flex-col max-md:overflow-y-auto">
      <Queue
        groups={sitting.data.groups}
        gone={gone}
        current={current}
        left={left}
        settled={sitting.data.settled + gone.size}
        again={again}
        foot={<Again />}
        head={<PileHead pile={pile} name={sitting.data.name} before={sitting.data.before} />}
        onShow={show}
      />
      <div className="min-w-0 flex-1 overflow-y-auto px-[34px] py-[26px] max-md:contents">
        {slip.error ? (
          <Failed error={slip.error} onRetry={() => void slip.refetch()} />
        ) : slip.data ? (
          <>
            <div className="max-md:order-1 max-md:px-4 max-md:pt-4">
              {purpose && (
                <p
                  className="written mb-4 text-[15px] leading-snug text-second italic max-md:hidden"
                  title="What all this is for"
                >
                  {purpose}
                </p>
              )}
              <SlipSheet
                key={slip.data.number}
                slip={slip.data}
                editing={editing}
                onEdit={setEditing}
                onSave={(text) => change({ text })}
                onKind={(kind) => void change({ kind })}
                onSplit={() => setDialog('split')}
                onRefine={() => setDialog('refine')}
              />
              <ClaimPart slip={current} />
            </div>
            <div className="max-md:order-3 max-md:px-4 max-md:pb-6">
              <AdviceLists
                advice={advice.data}
                loading={advice.isPending}
                onMerge={(into) => decide({ decision: 'merge', slip: into }, () => `Merged into slip ${into}.`)}
                onPut={put}
                onBringBack={(number) => bringBack(number)}
              />
            </div>
          </>
        ) : (
          <Loading />
        )}
      </div>
      <aside className="flex w-[300px] shrink-0 flex-col overflow-y-auto border-l border-hair px-6 py-6 max-lg:w-[260px] max-md:contents">
        {slip.data && (
          <Sorting
            slip={slip.data}
            likely={advice.data?.topics ?? []}
            kind={advice.data?.kind}
            effort={advice.data?.effort}
            onRefuse={refuse}
            onChange={(fields) => void change(fields)}
          />
        )}
        <Decisions
          act={act}
          format={format?.name ?? 'Essay'}
          fits={fits.length}
          canGoBack={taken.length}
          mergeInto={advice.data?.readsLike.find((alike) => alike.thing.kind === 'slip')?.thing.number}
        />
      </aside>
      <HoldDialog
        open={dialog === 'hold'}
        onClose={() => setDialog(null)}
        onHold={(hold, said) => decide(hold, () => said)}
      />
      <MergeDialog
        open={dialog === 'merge'}
        slip={current}
        near={advice.data?.readsLike ?? []}
        onClose={() => setDialog(null)}
        onMerge={(into) => decide({ decision: 'merge', slip: into }, () => `Merged into slip ${into}.`)}
      />
      <IntoPieceDialog open={dialog === 'piece'} fits={fits} onClose={() => setDialog(null)} onPut={put} />
      {dialog === 'split' && slip.data && (
        <SplitDialog
          text={slip.data.text}
          onClose={() => setDialog(null)}
          onSplit={(parts) =>
            void inHand(
              done(
                api.POST('/api/slips/{number}/split', {
                  params: { path: { number: String(current) } },
                  body: { version: slip.data.version, parts },
                }),
              ),
              `Split slip ${current}; its other ${parts.length === 2 ? 'part waits' : 'parts wait'} beside it.`,
            )
          }
        />
      )}
      {dialog === 'refine' && (
        <RefineDialog
          onClose={() => setDialog(null)}
          onRefine={(title) =>
            void inHand(
              done(
                api.PUT('/api/slips/{number}/claim', {
                  params: { path: { number: String(current) } },
                  body: { title },
                }),
              ),
              `Slip ${current} is a claim now.`,
            )
          }
        />
      )}
    </div>
  );
}
