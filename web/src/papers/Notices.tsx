import { dismiss, takeBack, useNotices } from './notices';

/** What was just done, with undo. */
export function Notices() {
  const notices = useNotices();
  return (
    <div
      aria-live="polite"
      className="pointer-events-none fixed right-4 bottom-20 z-40 flex w-[min(22rem,calc(100vw-2rem))] flex-col gap-2"
    >
      {notices.map((notice) => (
        <div
          key={notice.id}
          role={notice.bad ? 'alert' : 'status'}
          className={`pointer-events-auto flex items-start gap-4 border border-hair border-l-[3px] bg-sheet px-4 py-2.5 shadow-lg ${notice.bad ? 'border-l-red' : 'border-l-done'}`}
        >
          <p className="flex-1 text-[13px] break-words">{notice.text}</p>
          {notice.command ? (
            <button type="button" className="link font-semibold" onClick={() => void takeBack(notice.command!)}>
              Undo
            </button>
          ) : (
            <button
              type="button"
              aria-label="Close"
              className="text-second hover:text-ink"
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
