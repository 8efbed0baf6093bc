import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { api, ask, done } from '../api/client';
import { keys, useFormats } from '../api/queries';
import { carryOut } from '../papers/notices';
import { addressOf } from '../sources/Connections';
import { ActionMenu } from '../ui/ActionMenu';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';

/** Paragraphs that could be used by themselves, each in its wording of now. */
export function UsableList() {
  const client = useQueryClient();
  const navigate = useNavigate();
  const formats = useFormats().data ?? [];
  const usable = useQuery({ queryKey: keys.usable, queryFn: () => ask(api.GET('/api/usable')) }).data ?? [];
  if (usable.length === 0) return null;
  const refresh = () => client.invalidateQueries();
  return (
    <section aria-label="Usable by themselves" className="mt-10">
      <h2 className="label border-b border-hair pb-1 text-second">Usable by themselves · {usable.length}</h2>
      {usable.map((one) => {
        const over = one.limit !== null && one.characters > one.limit;
        return (
          <div key={one.number} className="flex items-start gap-6 border-b border-rule py-3">
            <div className="min-w-0 flex-1">
              <p className="written text-[15.5px] leading-snug">{one.text}</p>
              <p className="text-[12px] text-second">
                {formats.find((format) => format.key === one.format)?.name ?? one.format} ·{' '}
                <span className={over ? 'font-semibold text-red' : ''}>
                  {one.characters} {one.limit ? `of ${one.limit} characters` : 'characters'}
                </span>{' '}
                · from{' '}
                <Link className="link" to={addressOf(one.in)}>
                  {one.in.kind === 'piece'
                    ? `P ${one.in.number}`
                    : one.in.kind === 'day'
                      ? 'a day sheet'
                      : `${one.in.kind} ${one.in.number}`}
                </Link>
                {one.isGone && <span className="text-red"> · no longer there; this is how it stood</span>}
              </p>
            </div>
            <Button
              onClick={() =>
                void carryOut(
                  done(api.POST('/api/usable/{number}/use', { params: { path: { number: String(one.number) } } })),
                  (made) =>
                    over
                      ? `It is P ${made.piece} now. It is ${one.characters - one.limit!} characters too long for its format, so it stands at the first stage.`
                      : `It is P ${made.piece} now, ready to go out.`,
                ).then(
                  async (made) => {
                    await refresh();
                    void navigate(`/bench/${made.piece}`);
                  },
                  () => undefined,
                )
              }
            >
              Use it
            </Button>
            <button
              type="button"
              className="link py-1"
              onClick={() =>
                void carryOut(
                  done(api.DELETE('/api/usable/{number}', { params: { path: { number: String(one.number) } } })),
                  'No longer marked.',
                ).then(refresh, refresh)
              }
            >
              unmark
            </button>
          </div>
        );
      })}
    </section>
  );
}

/** The paragraphs of a text, to be marked as usable by themselves. */
export function UsableDialog({
  kind,
  number,
  onClose,
}: {
  kind: 'slip' | 'source' | 'piece' | 'day';
  number: number;
  onClose: () => void;
}) {
  const client = useQueryClient();
  const formats = useFormats().data ?? [];
  const paragraphs = useQuery({
    queryKey: keys.usableIn(kind, number),
    queryFn: () => ask(api.GET('/api/usable/{kind}/{number}/paragraphs', { params: { path: { kind, number } } })),
  }).data;
  const refresh = () => client.invalidateQueries();
  return (
    <Dialog title="Usable by itself" open onClose={onClose} wide>
      <p className="mb-2 text-second">
        A marked paragraph stands on the Bench in its wording of the day, until it is used. Saved text only.
      </p>
      <div className="max-h-[56vh] overflow-y-auto">
        {paragraphs?.length === 0 && <p className="py-3 text-second">There is no paragraph yet.</p>}
        {paragraphs?.map((paragraph, at) => (
          <div key={at} className="flex items-start gap-5 border-b border-rule py-2.5">
            <p className={`written min-w-0 flex-1 text-[15px] leading-snug ${paragraph.marked ? '' : 'text-second'}`}>
              {paragraph.text}
            </p>
            {paragraph.marked ? (
              <button
                type="button"
                className="link py-1 whitespace-nowrap"
                onClick={() =>
                  void carryOut(
                    done(
                      api.DELETE('/api/usable/{number}', { params: { path: { number: String(paragraph.marked) } } }),
                    ),
                    'No longer marked.',
                  ).then(refresh, refresh)
                }
              >
                {formats.find((format) => format.key === paragraph.format)?.name} · unmark
              </button>
            ) : (
              <ActionMenu
                label={`Mark “${paragraph.text.slice(0, 30)}”`}
                className="link py-1 whitespace-nowrap"
                actions={formats.map((format) => ({
                  key: format.key,
                  label:
                    format.key === 'letter'
                      ? 'A line for the letter'
                      : format.key === 'thread'
                        ? 'A short post'
                        : format.name,
                  onChoose: () =>
                    void carryOut(
                      done(
                        api.POST('/api/usable/{kind}/{number}', {
                          params: { path: { kind, number } },
                          body: { paragraph: paragraph.text, format: format.key },
                        }),
                      ),
                      'Marked.',
                    ).then(refresh, refresh),
                }))}
              >
                usable as ▾
              </ActionMenu>
            )}
          </div>
        ))}
      </div>
    </Dialog>
  );
}
