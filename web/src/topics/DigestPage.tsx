import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { StartPiece } from '../bench/StartPiece';
import { api, ask, done } from '../api/client';
import type { components } from '../api/schema';
import { keys, usePieces } from '../api/queries';
import { carryOut } from '../papers/notices';
import { ActionMenu, type Action } from '../ui/ActionMenu';
import { Button } from '../ui/Button';
import { Empty, Failed, Loading } from '../ui/States';
import { TextField } from '../ui/TextField';

type Theme = components['schemas']['CompiledTheme'];
type Line = components['schemas']['CompiledLine'];
type Change = components['schemas']['DigestChange'];

/** What the sources on a topic say: put together by themselves, changed by the writer where wanted. */
export default function DigestPage() {
  const number = Number(useParams().number);
  const path = { number: String(number) };
  const client = useQueryClient();
  const navigate = useNavigate();
  const [starting, setStarting] = useState(false);
  const pieces = (usePieces().data ?? []).filter((piece) => !piece.outOn);
  const digest = useQuery({
    queryKey: keys.digest(number),
    queryFn: () => ask(api.GET('/api/topics/{number}/digest', { params: { path } })),
  });
  if (digest.error) return <Failed error={digest.error} onRetry={() => void digest.refetch()} />;
  if (!digest.data) return <Loading what="Putting the digest together" />;
  const { name, intro, sources, passages, themes, hidden } = digest.data;

  const change = async (fields: Change, said?: string) => {
    const answer = await carryOut(
      done(api.PATCH('/api/topics/{number}/digest', { params: { path }, body: fields })),
      said ?? 'Digest changed.',
    );
    client.setQueryData(keys.digest(number), answer);
  };
  const into = (piece: number) =>
    void carryOut(
      done(api.POST('/api/topics/{number}/digest/piece', { params: { path }, body: { piece } })),
      (placed) => `Its passages lie beside P ${placed.piece}.`,
    ).then(
      (placed) => navigate(`/bench/${placed.piece}`),
      () => undefined,
    );
  const actions: Action[] = [
    { key: 'new', label: 'A new piece…', onChoose: () => setStarting(true) },
    ...pieces.map((piece) => ({
      key: String(piece.number),
      label: piece.title,
      note: `P ${piece.number}`,
      onChoose: () => into(piece.number),
    })),
  ];
  const cited = new Map(themes.flatMap((theme) => theme.lines).map((line) => [line.slip, line]));

  return (
    <div className="h-full overflow-y-auto">
      <StartPiece open={starting} onClose={() => setStarting(false)} from={{ topic: number, digest: true }} />
      <div className="mx-auto max-w-[860px] px-9 py-7 max-md:px-4">
        <Link to={`/topics/${number}`} className="link text-[12.5px]">
          ‹ {name}
        </Link>
        <header className="mt-1 flex flex-wrap items-end gap-x-6 gap-y-2 border-b border-ink pb-3">
          <div className="min-w-0 flex-1 max-md:basis-full">
            <h1 className="written text-[30px] leading-tight font-semibold">What the sources say on {name}</h1>
            <p className="text-second">
              {passages} {passages === 1 ? 'passage' : 'passages'} of {sources} {sources === 1 ? 'source' : 'sources'},
              put together by what they are about. What you change stays; the rest follows the sources.
            </p>
          </div>
          <a
            className="link text-[12.5px] font-semibold whitespace-nowrap"
            href={`/api/exports/digests/${number}.md`}
            download
          >
            save as Markdown
          </a>
          <ActionMenu
            label="Into a piece"
            actions={actions}
            className="inline-flex min-h-[28px] items-center rounded-key border border-blue bg-blue px-3 text-[12.5px] font-semibold whitespace-nowrap text-sheet"
          >
            Into a piece ▾
          </ActionMenu>
        </header>
        {passages === 0 ? (
          <Empty title="No source says anything here yet">
            Passages of the sources on this topic are gathered here: add a quotation or a takeaway to one of them.
          </Empty>
        ) : (
          <>
            <div className="mt-4">
              <TextField
                label="Before it, in my own words"
                lines
                value={intro}
                placeholder="What do they say, taken together?"
                onSave={(text) => change({ intro: text })}
                className="written py-1 text-[16.5px] leading-relaxed"
              />
            </div>
            {themes.map((theme) => (
              <ThemePart
                key={theme.anchor}
                theme={theme}
                themes={themes}
                cited={cited}
                onChange={(fields, said) => change(fields, said)}
              />
            ))}
            {hidden.length > 0 && (
              <details className="mt-8">
                <summary className="label cursor-pointer border-b border-hair pb-1 text-second">
                  Left out · {hidden.length}
                </summary>
                {hidden.map((line) => (
                  <p key={line.slip} className="flex items-baseline gap-4 border-b border-rule py-2">
                    <span className="written min-w-0 flex-1 text-[15px] text-second">{line.shown}</span>
                    <Button
                      look="quiet"
                      onClick={() =>
                        void change({ line: line.slip, hidden: false }, 'It is back.').catch(() => undefined)
                      }
                    >
                      Take in again
                    </Button>
                  </p>
                ))}
              </details>
            )}
          </>
        )}
      </div>
    </div>
  );
}

function ThemePart({
  theme,
  themes,
  cited,
  onChange,
}: {
  theme: Theme;
  themes: readonly Theme[];
  cited: ReadonlyMap<number, Line>;
  onChange: (fields: Change, said?: string) => Promise<void>;
}) {
  const quietly = (fields: Change, said?: string) => void onChange(fields, said).catch(() => undefined);
  return (
    <section aria-label={theme.name} className="mt-7">
      <header className="flex items-baseline gap-3 border-b border-hair pb-1">
        <div className="min-w-0 flex-1">
          <TextField
            label="Name of the theme"
            shown={false}
            value={theme.name}
            onSave={(name) => onChange({ theme: theme.anchor, name }, 'Theme named.')}
            className={`written text-[19px] font-semibold ${theme.isNamed ? '' : 'text-second'}`}
          />
        </div>
        <span className="text-[12.5px] whitespace-nowrap text-second">
          {theme.isNamed && (
            <button
              type="button"
              className="link mr-3"
              onClick={() => quietly({ theme: theme.anchor, name: null }, 'It goes by its own words again.')}
            >
              own words
            </button>
          )}
          {theme.sources} {theme.sources === 1 ? 'source' : 'sources'}
        </span>
      </header>
      {theme.lines.map((line) => (
        <div
          key={line.slip}
          className="group grid grid-cols-[minmax(0,1fr)_200px] gap-x-6 border-b border-rule py-2.5 max-md:grid-cols-1"
        >
          <div>
            <TextField
              label={`Line of slip ${line.slip}`}
              shown={false}
              lines
              value={line.shown ?? line.text}
              onSave={(words) => onChange({ line: line.slip, words }, 'In your words.')}
              className="written text-[16px] leading-relaxed"
            />
            {line.words !== null && (
              <p className="text-[12px] text-second">
                in your words ·{' '}
                <button
                  type="button"
                  className="link"
                  onClick={() => quietly({ line: line.slip, words: null }, 'The passage itself again.')}
                >
                  back to the passage
                </button>
                {line.isStale && (
                  <span className="text-red"> · the passage was changed since: “{line.text.slice(0, 160)}”</span>
                )}
              </p>
            )}
            {line.against.map((other) => (
              <p key={other.slip} className="mt-1.5 border-l-2 border-red pl-3 text-[13px] leading-snug text-second">
                <b className="font-semibold text-ink">{by(cited.get(other.slip))}</b> speaks against it ({other.because}
                ): <i className="written">{cited.get(other.slip)?.shown}</i>
              </p>
            ))}
            {line.with.length > 0 && (
              <p className="mt-1 text-[12.5px] text-done">
                {(line.with as number[]).map((slip) => by(cited.get(slip))).join(', ')}{' '}
                {line.with.length === 1 ? 'says' : 'say'} the same
              </p>
            )}
          </div>
          <div className="text-[12.5px] leading-snug text-second">
            <Link to={`/library/source/${line.source}`} className="inline-block min-h-6 hover:text-blue">
              {by(line)}
              {line.locator && `, ${line.locator}`}
            </Link>
            <span className="flex gap-3 opacity-0 group-focus-within:opacity-100 group-hover:opacity-100 max-md:opacity-100">
              <Link to={`/library/slip/${line.slip}`} className="link">
                slip {line.slip}
              </Link>
              <ActionMenu
                label={`Line of slip ${line.slip}`}
                className="link"
                actions={[
                  {
                    key: 'out',
                    label: 'Leave it out',
                    onChoose: () => quietly({ line: line.slip, hidden: true }, 'Left out.'),
                  },
                  ...themes
                    .filter((other) => other.anchor !== theme.anchor)
                    .map((other) => ({
                      key: String(other.anchor),
                      label: `Put under “${other.name}”`,
                      onChoose: () => quietly({ line: line.slip, beside: other.anchor }, 'Moved.'),
                    })),
                  {
                    key: 'own',
                    label: 'Back to where it belongs by its words',
                    onChoose: () => quietly({ line: line.slip, beside: null }, 'Back.'),
                  },
                ]}
              >
                move ▾
              </ActionMenu>
            </span>
          </div>
        </div>
      ))}
    </section>
  );
}

/** Who says it, in a few words. */
function by(line: Line | undefined): string {
  if (!line) return 'another';
  const name = line.creators.split(';')[0]?.split(',')[0]?.trim();
  return [name || line.sourceTitle, line.date.slice(0, 4)].filter(Boolean).join(' ');
}
