import { useEffect, useRef, useState, type MouseEvent } from 'react';
import { useNavigate } from 'react-router';
import { Button } from './Button';

/** A Markdown text shown as it will read; a click on "change" or a double-click opens it for writing. */
export function MarkdownText({
  label,
  text,
  html,
  onSave,
  large = false,
  placeholder = '',
}: {
  label: string;
  text: string;
  html: string;
  onSave: (text: string) => Promise<unknown>;
  large?: boolean;
  placeholder?: string;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const [error, setError] = useState('');
  const area = useRef<HTMLTextAreaElement>(null);
  const navigate = useNavigate();
  const isOpen = typed !== null;
  useEffect(() => {
    const field = area.current;
    if (!isOpen || !field) return;
    field.focus();
    field.setSelectionRange(field.value.length, field.value.length);
  }, [isOpen]);

  const save = async () => {
    try {
      if (typed !== null && typed !== text) await onSave(typed);
      setTyped(null);
      setError('');
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  // Our own links stay inside the app; others open beside it.
  const follow = (event: MouseEvent) => {
    const link = (event.target as HTMLElement).closest('a');
    if (!link) return;
    event.preventDefault();
    if (link.origin === location.origin) void navigate(link.pathname + link.search);
    else window.open(link.href, '_blank', 'noopener');
  };

  if (typed !== null)
    return (
      <div>
        <textarea
          ref={area}
          aria-label={label}
          value={typed}
          rows={Math.min(22, Math.max(4, typed.split('\n').length + typed.length / 80))}
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Escape') setTyped(null);
            if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) void save();
          }}
          className="written block w-full resize-y border border-hair bg-sheet p-3 text-[16px] leading-[1.55] outline-none focus:border-blue"
        />
        {error && (
          <p role="alert" className="mt-1 text-red">
            {error} What you typed is still here.
          </p>
        )}
        <div className="mt-2 flex gap-2">
          <Button look="main" onClick={() => void save()}>
            Keep the change
          </Button>
          <Button look="quiet" onClick={() => setTyped(null)}>
            Leave it as it was
          </Button>
        </div>
      </div>
    );
  return (
    <div className="group relative" onDoubleClick={() => setTyped(text)}>
      {text.trim() ? (
        // The server has put this through its sanitiser.
        <div
          className={`prose ${large ? 'text-[19px] leading-[1.5]' : 'text-[15.5px] leading-[1.6]'}`}
          onClick={follow}
          dangerouslySetInnerHTML={{ __html: html }}
        />
      ) : (
        <p className="written text-[15px] text-faint italic">{placeholder}</p>
      )}
      <button
        type="button"
        aria-label={`Change ${label.toLowerCase()}`}
        className="link mt-1 text-[12px]"
        onClick={() => setTyped(text)}
      >
        {text.trim() ? 'change' : 'write'}
      </button>
    </div>
  );
}
