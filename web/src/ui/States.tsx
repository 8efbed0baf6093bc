import type { ReactNode } from 'react';
import { Button } from './Button';

/** What will appear here, and the one action that fills it. */
export function Empty({ title, children, action }: { title: string; children?: ReactNode; action?: ReactNode }) {
  return (
    <div className="mx-auto max-w-md px-6 py-16">
      <h2 className="written text-[21px] leading-snug font-semibold">{title}</h2>
      {children && <p className="mt-2 text-[14px] leading-relaxed text-second">{children}</p>}
      {action && <div className="mt-5">{action}</div>}
    </div>
  );
}

/** What happened, that nothing was lost, and what to do. */
export function Failed({ error, onRetry }: { error: Error; onRetry?: () => void }) {
  return (
    <div role="alert" className="m-6 max-w-lg border-l-[3px] border-red bg-quiet px-4 py-3">
      <p className="text-[13.5px]">{error.message}</p>
      <p className="mt-1 text-second">Nothing was lost.</p>
      {onRetry && (
        <Button className="mt-3" onClick={onRetry}>
          Try again
        </Button>
      )}
    </div>
  );
}

/** A thin line that runs while something takes its time; shown only after a moment. */
export function Loading({ what = 'Loading' }: { what?: string }) {
  return (
    <div role="status" aria-label={what} className="h-0.5 w-full overflow-hidden bg-transparent">
      <div className="loading-line h-full w-1/4 bg-blue" />
    </div>
  );
}
