import type { MouseEvent } from 'react';
import type { components } from '../../api/schema';

type Part = components['schemas']['ShownPart'];

/** How something is seen where it goes out: a letter, an article, the posts of a thread one after the other, or a file. */
export function Shown({ parts, isFile }: { parts: readonly Part[]; isFile: boolean }) {
  if (parts.length === 1) return parts.map((part) => <One key="" part={part} isFile={isFile} />);
  return (
    <ol>
      {parts.map((part, nth) => (
        <li key={nth} className="figures flex gap-4 border-b border-rule py-2.5 last:border-0">
          <span className="narrow w-5 shrink-0 pt-0.5 text-right text-[12.5px] text-second">{nth + 1}</span>
          <div className="min-w-0 flex-1">
            <One part={part} isFile={isFile} />
          </div>
        </li>
      ))}
    </ol>
  );
}

function One({ part, isFile }: { part: Part; isFile: boolean }) {
  // What is looked at leads nowhere within the desk, where it would take away what is being typed.
  const stay = (event: MouseEvent) => {
    const link = (event.target as HTMLElement).closest('a');
    if (!link) return;
    event.preventDefault();
    if (link.origin !== location.origin) window.open(link.href, '_blank', 'noopener');
  };
  return (
    <>
      {part.from && (
        <p className="mb-2 border-b border-rule pb-1.5 text-[12.5px] break-words text-second">from {part.from}</p>
      )}
      {part.title && <p className="written mb-2 text-[21px] leading-tight font-semibold break-words">{part.title}</p>}
      {part.html && (
        <div
          className="prose text-[14.5px] leading-relaxed"
          onClick={stay}
          // The server has put this through its sanitiser.
          dangerouslySetInnerHTML={{ __html: part.html }}
        />
      )}
      {part.words && (
        <p
          className={`break-words whitespace-pre-wrap ${part.html ? 'mt-2' : ''} ${isFile ? 'font-mono text-[12.5px] leading-relaxed' : 'written text-[15px] leading-relaxed'}`}
        >
          {part.words}
        </p>
      )}
      {part.foot && <p className="mt-5 border-t border-hair pt-2 text-[12.5px] text-second">{part.foot}</p>}
    </>
  );
}
