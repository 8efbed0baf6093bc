import { useEffect, useState } from 'react';
import { useRunning } from '../api/client';

/** A line under the masthead while something asked of the server takes longer than a moment. */
export function Busy() {
  const isRunning = useRunning() > 0;
  const [late, setLate] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLate(isRunning), isRunning ? 900 : 0);
    return () => clearTimeout(timer);
  }, [isRunning]);
  return (
    <div className="relative z-30 h-0">
      {isRunning && late && (
        <div role="status" aria-label="Working" className="absolute inset-x-0 top-0 h-[3px] overflow-hidden">
          <div className="loading-line h-full w-1/4 bg-blue" />
        </div>
      )}
    </div>
  );
}
