import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { api, ask } from '../api/client';
import type { components } from '../api/schema';
import type { PlanBlock } from './PlanRow';

type Block = components['schemas']['SheetBlock'];

const stands: Partial<Record<Block['kind'], string>> = {
  moves: 'the moves of the day, and a line for another',
  caught: 'what is caught through the day, with its time',
  piece: 'the piece that is due first, and what is next on it',
};

/** The sheet that a plan makes of a day, a moment after it is changed. */
export function SheetPreview({ blocks, day }: { blocks: readonly PlanBlock[]; day: string }) {
  const asked = useLater(blocks);
  const shown = useQuery({
    queryKey: ['preview', day, asked],
    queryFn: () => ask(api.POST('/api/desk/plan/preview', { body: { blocks: [...asked], day } })),
    placeholderData: (previous) => previous,
    retry: false,
  });
  if (shown.error)
    return (
      <p role="alert" className="border-l-[3px] border-red pl-3">
        {shown.error.message}
      </p>
    );
  if (shown.data?.length === 0) return <p className="text-second">Nothing stands on this day’s sheet.</p>;
  return (
    <>
      {shown.data?.map((block) => (
        <section key={block.block} className="mb-5" aria-label={block.heading || block.kind}>
          {block.heading && <h3 className="label mb-0.5 text-second">{block.heading}</h3>}
          {block.prompt && <p className="written text-[15px] whitespace-pre-line text-second italic">{block.prompt}</p>}
          {block.text && <p className="written text-[15px] whitespace-pre-line">{block.text}</p>}
          {block.fault && (
            <p role="alert" className="border-l-[3px] border-red pl-2 text-[12px]">
              {block.fault.line > 0 && `Line ${block.fault.line}, place ${block.fault.column}: `}
              {block.fault.reason}
            </p>
          )}
          {block.kind === 'lines' &&
            Array.from({ length: block.size ?? 0 }, (_, at) => (
              <div key={at} className="h-[26px] border-b border-rule" />
            ))}
          {block.kind === 'writing' && (
            <p className="written text-[15px] text-faint italic">{block.size} minutes of free writing</p>
          )}
          {block.kind === 'question' && <div className="h-[24px] border-b border-rule" />}
          {stands[block.kind] && <p className="written text-[15px] text-faint italic">{stands[block.kind]}</p>}
        </section>
      ))}
    </>
  );
}

/** A value, once it has been still for a moment. */
function useLater<T>(value: T): T {
  const [later, setLater] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setLater(value), 200);
    return () => clearTimeout(timer);
  }, [value]);
  return later;
}
