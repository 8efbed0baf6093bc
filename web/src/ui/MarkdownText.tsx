import { useEffect, useRef, useState, type MouseEvent } from 'react';
import { useNavigate } from 'react-router';
import { TableDialog } from '../text/TableDialog';
import { asParagraph, tableAt } from '../text/tableAt';
import { Button } from './Button';
import { TwoTexts } from './TwoTexts';
import { useField } from './useField';

type Props = {
  label: string;
  text: string;
  html: string;
  onSave: (text: string) => Promise<unknown>;
  large?: boolean;
  placeholder?: string;
  /** What it is the text of, for holding it in this browser; by default the page and the label. */
  place?: string;
};

/** A text as it reads. Our own links stay inside the app; others open beside it. */
export function Prose({ html, className }: { html: string; className: string }) {
  const navigate = useNavigate();
  const follow = (event: MouseEvent) => {
    const link = (event.target as HTMLElement).closest('a');
    if (!link) return;
    event.preventDefault();
    if (link.origin === location.origin) void navigate(link.pathname + link.search);
    else window.open(link.href, '_blank', 'noopener');
  };
  // The server has put this through its sanitiser.
  return <div className={`prose ${className}`} onClick={follow} dangerouslySetInnerHTML={{ __html: html }} />;
}

/** A Markdown text shown as it will read; a click on "change" or a double-click opens it for writing. It saves itself. */
export function MarkdownText(props: Props) {
  const place = props.place ?? `${location.pathname}:${props.label}`;
  return <Written key={place} {...props} place={place} />;
}

function Written({ label, text, html, onSave, large = false, placeholder = '', place }: Props & { place: string }) {
  const field = useField(place, text, onSave, true);
  const [isOpen, setOpen] = useState(field.isChanged);
  const [table, setTable] = useState<{ from: number; to: number; text: string }>();
  const area = useRef<HTMLTextAreaElement>(null);
  const { enter } = field;
  const open = () => {
    enter();
    setOpen(true);
  };
  useEffect(() => {
    const own = area.current;
    if (!isOpen || !own) return;
    own.focus();
    own.setSelectionRange(own.value.length, own.value.length);
  }, [isOpen]);

  const close = async () => {
    await field.flush();
    setOpen(false);
  };
  if (isOpen || field.error || field.clash)
    return (
      <div>
        <textarea
          ref={area}
          aria-label={label}
          value={field.text}
          rows={Math.min(22, Math.max(4, field.text.split('\n').length + field.text.length / 80))}
          onChange={(event) => field.change(event.target.value)}
          onBlur={() => void field.flush()}
          onKeyDown={(event) => {
            if (event.key === 'Escape') {
              event.stopPropagation();
              field.putBack();
              void close();
            }
            if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) void close();
          }}
          className="written block w-full resize-y border border-hair bg-sheet p-3 text-[16px] leading-[1.55] outline-none focus:border-blue"
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
          <Button
            look="quiet"
            onClick={() => {
              field.putBack();
              void close();
            }}
          >
            Put it back as it was
          </Button>
          <Button
            look="quiet"
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => {
              const at = area.current?.selectionStart ?? field.text.length;
              const found = tableAt(field.text, at);
              setTable(
                found ? { ...found, text: field.text.slice(found.from, found.to) } : { from: at, to: at, text: '' },
              );
            }}
          >
            Table
          </Button>
          <span className="text-[12px] text-second">It saves itself.</span>
        </div>
        <TableDialog
          text={table?.text}
          onClose={() => setTable(undefined)}
          onWrite={(written) => {
            const { from, to, text: stood } = table!;
            const put = stood ? written : asParagraph(field.text, from, to, written);
            field.change(field.text.slice(0, from) + put + field.text.slice(to));
            void field.flush();
          }}
        />
        {field.clash && <TwoTexts {...field.clash} onChoose={field.settle} />}
      </div>
    );
  return (
    <div className="group relative" onDoubleClick={open}>
      {text.trim() ? (
        <Prose html={html} className={large ? 'text-[19px] leading-[1.5]' : 'text-[15.5px] leading-[1.6]'} />
      ) : (
        <p className="written text-[15px] text-faint italic">{placeholder}</p>
      )}
      <button
        type="button"
        aria-label={`Change ${label.toLowerCase()}`}
        className="link mt-1 text-[12px]"
        onClick={open}
      >
        {text.trim() ? 'change' : 'write'}
      </button>
    </div>
  );
}
