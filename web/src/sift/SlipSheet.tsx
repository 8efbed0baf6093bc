import { useQuery } from '@tanstack/react-query';
import { caught } from '../ui/caught';
import { heldFor } from '../ui/held';
import { useEffect, useRef } from 'react';
import { Link } from 'react-router';
import { api, ask, type Slip, type SlipKind } from '../api/client';
import { keys, openedSlip } from '../api/queries';
import { ActionMenu } from '../ui/ActionMenu';
import { Button } from '../ui/Button';
import { Mark } from '../ui/Mark';
import { Prose } from '../ui/MarkdownText';
import { TopicWords } from '../ui/TopicWord';
import { TwoTexts } from '../ui/TwoTexts';
import { shortDay } from '../ui/dates';
import { useField } from '../ui/useField';

const kinds: SlipKind[] = ['idea', 'quote', 'question', 'takeaway', 'note', 'ask'];

const doors = {
  strip: 'written down',
  paste: 'pasted',
  sheet: 'day sheet',
  phone: 'phone',
  program: 'from a program',
  feed: 'feed',
  reading: 'while reading',
  import: 'brought in',
  clip: 'clipped',
  folder: 'drop folder',
};

/** The slip in hand, large. */
export function SlipSheet({
  slip,
  editing,
  onEdit,
  onSave,
  onKind,
  onSplit,
  onRefine,
}: {
  slip: Slip;
  editing: boolean;
  onEdit: (editing: boolean) => void;
  onSave: (text: string) => Promise<unknown>;
  onKind: (kind: SlipKind) => void;
  onSplit: () => void;
  onRefine: () => void;
}) {
  const size = slip.text.length > 260 ? 'text-[17px] leading-[1.55]' : 'text-[22px] leading-[1.34]';
  const field = useField(`slip.${slip.number}.text`, slip.text, onSave, true);
  const opened = useQuery(openedSlip(slip.number));
  const html = opened.data?.slip.text === field.text ? opened.data.html : undefined;
  const isOpen = editing || field.error !== '' || field.clash !== undefined;
  return (
    <article
      aria-label={`Slip ${slip.number}`}
      className="flex border border-hair bg-sheet shadow-[0_5px_14px_-6px_rgba(27,36,33,0.28)]"
    >
      <div className="flex w-[62px] shrink-0 flex-col items-center border-r border-line pt-6">
        <ActionMenu
          label={`Kind: ${slip.kind}`}
          className="p-1 text-second hover:text-blue"
          actions={kinds.map((kind) => ({
            key: kind,
            label: (
              <span className="flex items-center gap-2">
                <Mark kind={kind} size={14} /> {kind}
              </span>
            ),
            onChoose: () => onKind(kind),
          }))}
        >
          <Mark kind={slip.kind} size={20} />
        </ActionMenu>
        <span className="narrow figures mt-0.5 text-[12px] text-second">{slip.number}</span>
      </div>
      <div className="min-w-0 flex-1 px-6 pt-5 pb-4">
        {isOpen ? (
          <Editor field={field} onDone={() => onEdit(false)} />
        ) : (
          <div className="flex items-start gap-3">
            <div
              onDoubleClick={() => onEdit(true)}
              title="Double-click, or e, to change the text"
              className="min-w-0 flex-1 [overflow-wrap:anywhere]"
            >
              {html === undefined ? (
                <p className={`written whitespace-pre-line ${size}`}>{field.text}</p>
              ) : (
                <Prose html={html} className={`in-lines ${size}`} />
              )}
            </div>
            <ActionMenu
              label={`More for slip ${slip.number}`}
              className="-mr-3 px-2 text-second hover:text-blue"
              actions={[
                { key: 'edit', label: 'Change the text', note: 'E', onChoose: () => onEdit(true) },
                { key: 'split', label: 'Split it…', note: 'X', onChoose: onSplit },
                { key: 'refine', label: 'Refine it into a claim…', note: 'R', onChoose: onRefine },
              ]}
            >
              ⋯
            </ActionMenu>
          </div>
        )}
        {slip.state === 'held' && <p className="mt-3 text-[13px] font-semibold">{capital(heldFor(slip))}</p>}
        <StandsIn pieces={opened.data?.pieces ?? []} />
        <Attached slip={slip.number} />
        <footer className="mt-4 flex items-baseline justify-between gap-4 text-[12.5px] text-second">
          <span>
            {caught(slip)} · {slip.originNote ? `${doors[slip.origin]}: ${slip.originNote}` : doors[slip.origin]}
            {slip.source !== null && (
              <>
                {' · '}
                <Link className="link" to={`/library/source/${slip.source}`}>
                  {opened.data?.sourceTitle ?? `source ${slip.source}`}
                </Link>
                {opened.data?.sourceBy && `, ${opened.data.sourceBy}`}
                {slip.locator && `, ${slip.locator}`}
              </>
            )}
          </span>
          {slip.topics.length ? (
            <TopicWords topics={slip.topics} linked />
          ) : (
            <span className="shrink-0">no topic yet</span>
          )}
        </footer>
      </div>
    </article>
  );
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** The pieces a slip stands in already, and when they went out. */
function StandsIn({ pieces }: { pieces: readonly { piece: number; title: string; outOn: string | null }[] }) {
  if (pieces.length === 0) return null;
  return (
    <p className="mt-3 text-[12.5px] text-second">
      Used in{' '}
      {pieces.map((one, at) => (
        <span key={one.piece}>
          {at > 0 && ', '}
          <Link className="link" to={`/bench/${one.piece}`}>
            P {one.piece} {one.title}
          </Link>
          {one.outOn && `, out ${shortDay(one.outOn)}`}
        </span>
      ))}
    </p>
  );
}

/** Pictures and files of the slip in hand. */
function Attached({ slip }: { slip: number }) {
  const files = useQuery({
    queryKey: keys.attachments('slip', slip),
    queryFn: () =>
      ask(api.GET('/api/attachments/{kind}/{number}', { params: { path: { kind: 'slip', number: slip } } })),
  }).data;
  if (!files?.length) return null;
  return (
    <ul aria-label="Files and pictures" className="mt-4 flex flex-wrap gap-3">
      {files.map((file) => (
        <li key={file.number}>
          <a
            href={`/api/attachments/${file.number}/content`}
            target="_blank"
            rel="noreferrer"
            title={file.why || file.name}
            className="block border border-hair hover:border-blue"
          >
            {file.isPicture ? (
              <img
                src={`/api/attachments/${file.number}/content`}
                alt={file.why || file.name}
                className="max-h-56 max-w-full object-contain"
              />
            ) : (
              <span className="link block px-3 py-2 text-[12.5px]">{file.name}</span>
            )}
          </a>
        </li>
      ))}
    </ul>
  );
}

function Editor({ field, onDone }: { field: ReturnType<typeof useField>; onDone: () => void }) {
  const area = useRef<HTMLTextAreaElement>(null);
  const { enter } = field;
  useEffect(() => {
    enter();
    const own = area.current;
    own?.focus();
    own?.setSelectionRange(own.value.length, own.value.length);
    // Once, when it opens.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  const close = async () => {
    await field.flush();
    onDone();
  };
  const putBack = () => {
    field.putBack();
    void close();
  };
  return (
    <div>
      <textarea
        ref={area}
        aria-label="Text of the slip"
        value={field.text}
        rows={Math.min(16, Math.max(3, field.text.split('\n').length + field.text.length / 70))}
        onChange={(event) => field.change(event.target.value)}
        onBlur={() => void field.flush()}
        onKeyDown={(event) => {
          if (event.key === 'Escape') putBack();
          if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) void close();
        }}
        className="written block w-full resize-y border border-hair bg-sheet p-2 text-[17px] leading-[1.5] outline-none focus:border-blue"
      />
      {field.error && (
        <p role="alert" className="mt-1 text-red">
          {field.error} What you typed is still here.
        </p>
      )}
      <div className="mt-2 flex items-center gap-2">
        <Button look="main" onClick={() => void close()}>
          Done
        </Button>
        <Button look="quiet" onClick={putBack}>
          Put it back as it was
        </Button>
        <span className="text-[12px] text-second">It saves itself.</span>
      </div>
      {field.clash && <TwoTexts {...field.clash} onChoose={field.settle} />}
    </div>
  );
}
