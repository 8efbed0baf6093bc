import { useEffect, useRef } from 'react';
import { Link } from 'react-router';
import type { Slip, SlipKind } from '../api/client';
import { ActionMenu } from '../ui/ActionMenu';
import { Button } from '../ui/Button';
import { Mark } from '../ui/Mark';
import { TopicWords } from '../ui/TopicWord';
import { TwoTexts } from '../ui/TwoTexts';
import { clock, shortDay } from '../ui/dates';
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
  const long = slip.text.length > 260;
  const field = useField(`slip.${slip.number}.text`, slip.text, onSave, true);
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
              className={`written min-w-0 flex-1 whitespace-pre-line [overflow-wrap:anywhere] ${long ? 'text-[17px] leading-[1.55]' : 'text-[22px] leading-[1.34]'}`}
            >
              {field.text}
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
        <footer className="mt-4 flex items-baseline justify-between gap-4 text-[12.5px] text-second">
          <span>
            {shortDay(slip.day)}, {clock(slip.caughtAt)} ·{' '}
            {slip.originNote ? `${doors[slip.origin]}: ${slip.originNote}` : doors[slip.origin]}
            {slip.source !== null && (
              <>
                {' · '}
                <Link className="link" to={`/library/source/${slip.source}`}>
                  source {slip.source}
                </Link>
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
