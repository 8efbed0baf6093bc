import { useQuery } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import { api, ask, done, type Done, type Draft, type VersionShown } from '../../api/client';
import { keys, queryClient } from '../../api/queries';
import { carryOut } from '../../papers/notices';
import { ActionMenu } from '../../ui/ActionMenu';
import { AddLine } from '../../ui/AddLine';
import { Failed, Loading } from '../../ui/States';
import { clock, shortDay } from '../../ui/dates';
import { Compared } from './Compared';

/** What a version is called: its name, or why it was kept. */
export const calledSo = (version: VersionShown): string =>
  version.number === null
    ? 'As it is now'
    : version.why === 'before'
      ? `before: ${version.name.replace(/ (of|in) P \d+/, '')}`
      : version.name || 'as a sitting left it';

const moment = (at: string) => `${shortDay(at.slice(0, 10))}, ${clock(at)}`;

/** Earlier states of a draft: kept by themselves and by name, compared word by word, and taken back whole or in part. */
export function VersionsPart({
  piece,
  onEnter,
  onDraft,
}: {
  piece: number;
  /** Sends what is written, so that what one compares is what one sees. */
  onEnter: () => Promise<unknown>;
  onDraft: (run: (version: number) => Promise<Done<Draft>>) => Promise<Done<Draft>>;
}) {
  const [asked, setAsked] = useSearchParams();
  const path = { number: String(piece) };
  const list = useQuery({
    queryKey: keys.versions(piece),
    queryFn: async () => {
      await onEnter();
      return ask(api.GET('/api/pieces/{number}/versions', { params: { path } }));
    },
  });
  if (list.error) return <Failed error={list.error} onRetry={() => void list.refetch()} />;
  if (!list.data) return <Loading what="Opening the versions" />;
  const versions = list.data.slice(1);
  const now = list.data[0]!;
  const chosen = versions.find((version) => String(version.number) === asked.get('old')) ?? versions[0];
  const other = versions.find((version) => String(version.number) === asked.get('new'));
  const compare = (old: number, next?: number) =>
    setAsked(next ? { old: String(old), new: String(next) } : { old: String(old) }, { replace: true });
  const change = async (run: Parameters<typeof carryOut>[0], said: string) => {
    await carryOut(run, said);
    await queryClient.invalidateQueries({ queryKey: keys.versions(piece) });
  };
  return (
    <div className="flex min-h-0 flex-1 max-md:block">
      <section
        aria-label="Versions"
        className="flex w-[340px] shrink-0 flex-col overflow-y-auto bg-quiet px-5 pt-4 pb-8 max-lg:w-[280px] max-md:max-h-[42vh] max-md:w-auto"
      >
        <h2 className="label border-b border-ink pb-1">Versions</h2>
        <AddLine
          label="Name of a version"
          place={`piece.${piece}.version`}
          placeholder="keep it as it is now, as…"
          press="Keep it"
          onAdd={(name) =>
            change(
              done(api.POST('/api/pieces/{number}/versions', { params: { path }, body: { name } })),
              `Kept as “${name}”.`,
            )
          }
        />
        {versions.length === 0 && (
          <p className="py-3 text-second">
            None yet. One is kept by itself when a new sitting begins, when the piece moves on a stage, and before much
            of it goes at once.
          </p>
        )}
        <ol className="mt-3 border-t border-rule">
          {versions.map((version) => (
            <Row
              key={version.number}
              version={version}
              isChosen={version.number === chosen?.number}
              onChoose={() => compare(version.number!)}
              actions={[
                {
                  key: 'remove',
                  label: 'Delete this version',
                  onChoose: () =>
                    void change(
                      done(
                        api.DELETE('/api/pieces/{number}/versions/{a}', {
                          params: { path: { ...path, a: String(version.number) } },
                        }),
                      ),
                      'The version is deleted.',
                    ).catch(() => undefined),
                },
              ]}
            />
          ))}
        </ol>
      </section>
      {chosen && (
        <Compared
          key={`${chosen.number}-${other?.number ?? 'now'}`}
          piece={piece}
          old={chosen}
          next={other ?? now}
          choices={[now, ...versions.filter((version) => version.number !== chosen.number)]}
          onAgainst={(next) => compare(chosen.number!, next)}
          onName={(name) =>
            change(
              done(
                api.PATCH('/api/pieces/{number}/versions/{a}', {
                  params: { path: { ...path, a: String(chosen.number) } },
                  body: { name },
                }),
              ),
              name ? `Called “${name}”; it stays for good.` : 'It has no name any more.',
            )
          }
          onTake={(what, said) =>
            carryOut(
              onDraft((version) =>
                done(
                  api.POST('/api/pieces/{number}/versions/{a}/take', {
                    params: { path: { ...path, a: String(chosen.number) } },
                    body: { ...what, version },
                  }),
                ),
              ),
              said,
            )
          }
        />
      )}
    </div>
  );
}

function Row({
  version,
  isChosen,
  onChoose,
  actions,
}: {
  version: VersionShown;
  isChosen: boolean;
  onChoose: () => void;
  actions: Parameters<typeof ActionMenu>[0]['actions'];
}) {
  return (
    <li className={`flex items-start gap-2 border-b border-rule ${isChosen ? '-mx-5 bg-wash px-5' : ''}`}>
      <button
        type="button"
        aria-current={isChosen ? 'true' : undefined}
        onClick={onChoose}
        className="min-w-0 flex-1 py-2 text-left hover:text-blue"
      >
        <span
          className={`block ${version.why === 'named' ? 'written text-[15px] font-semibold' : 'figures text-[13px] font-semibold'}`}
        >
          {version.why === 'named' ? version.name : moment(version.at)}
        </span>
        <span className="figures block text-[12px] text-second">
          {version.why === 'named' ? moment(version.at) : calledSo(version)}
        </span>
        <span className="figures block text-[12px] text-second">
          {version.words.toLocaleString('en')} words
          {version.more !== 0 && `, ${version.more > 0 ? '+' : '−'}${Math.abs(version.more).toLocaleString('en')}`}
        </span>
        {version.sections.length > 0 && (
          <span className="block truncate text-[12px] text-second">
            changed: {version.sections.map((title) => title || 'the beginning').join(', ')}
          </span>
        )}
      </button>
      <ActionMenu
        label={`Version of ${moment(version.at)}`}
        className="mt-2 min-h-6 min-w-6 px-1 text-second hover:text-blue"
        actions={actions}
      >
        ⋯
      </ActionMenu>
    </li>
  );
}
