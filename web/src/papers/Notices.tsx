import { Link } from 'react-router';
import { addressOf, named } from '../sources/Connections';
import { dismiss, takeBack, useNotices } from './notices';

/**
 * What was just done, with undo. It lies on the strip at the foot, where nothing is counted or read, and on a phone over the masthead.
 */
export function Notices() {
  const notices = useNotices();
  return (
    <div
      aria-live="polite"
      className="pointer-events-none fixed right-3 bottom-[7px] z-[60] flex max-w-[calc(100vw-10rem)] flex-row items-end justify-end gap-2 max-md:inset-x-2 max-md:top-1 max-md:bottom-auto max-md:max-w-none max-md:flex-col max-md:items-stretch"
    >
      {notices.map((notice) => (
        <div
          key={notice.id}
          role={notice.bad ? 'alert' : 'status'}
          className={`pointer-events-auto flex min-h-9 max-w-[40rem] max-md:max-w-full items-center gap-4 border border-hair border-l-[3px] bg-sheet py-1 pr-2 pl-3.5 shadow-md ${notice.bad ? 'border-l-red' : 'border-l-done'}`}
        >
          <p className="flex-1 text-[13px] break-words">
            {notice.text}
            {notice.inTheWay?.thing && (
              <>
                {' '}
                <Link className="link" to={addressOf(notice.inTheWay.thing)} onClick={() => dismiss(notice.id)}>
                  Go to {named(notice.inTheWay.thing)}
                </Link>
              </>
            )}
          </p>
          {notice.inTheWay && (
            <button
              type="button"
              className="link min-h-6 px-1 font-semibold whitespace-nowrap"
              onClick={() => {
                dismiss(notice.id);
                void takeBack(notice.inTheWay!.command);
              }}
            >
              Take that back
            </button>
          )}
          {notice.undo ? (
            <button type="button" className="link min-h-6 px-1 font-semibold" onClick={notice.undo}>
              Undo
            </button>
          ) : (
            <button
              type="button"
              aria-label="Close"
              className="min-h-6 min-w-6 text-second hover:text-ink"
              onClick={() => dismiss(notice.id)}
            >
              ×
            </button>
          )}
        </div>
      ))}
    </div>
  );
}
