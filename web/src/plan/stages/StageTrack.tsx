import { useEffect, useRef, useState } from 'react';
import { stood, type Standing } from './stages';

/** A piece's own stages as a line; its marker goes along it with the pointer or the arrow keys. */
export function StageTrack({
  piece,
  stages,
  onMove,
}: {
  piece: Standing;
  stages: readonly string[];
  onMove: (stage: string) => void;
}) {
  const line = useRef<HTMLDivElement>(null);
  const at = Math.max(0, stages.indexOf(piece.stage));
  const [over, setOver] = useState<number>();
  // Where keys have sent it, which may be ahead of what is drawn.
  const sent = useRef(at);
  useEffect(() => {
    sent.current = at;
  }, [at]);
  const shown = over ?? at;
  const place = (index: number) => `${((index + 0.5) / stages.length) * 100}%`;
  const under = (x: number) => {
    const box = line.current!.getBoundingClientRect();
    return Math.min(stages.length - 1, Math.max(0, Math.floor(((x - box.left) / box.width) * stages.length)));
  };
  const to = (index: number) => {
    const stage = stages[index];
    if (!stage || index === sent.current) return;
    sent.current = index;
    onMove(stage);
  };
  return (
    <div ref={line} className="relative h-[42px] select-none">
      <span
        aria-hidden
        className="absolute top-[14px] h-px bg-hair"
        style={{ left: place(0), right: `calc(100% - ${place(stages.length - 1)})` }}
      />
      {stages.map((stage, index) => (
        <span
          key={stage}
          aria-hidden
          className={`absolute top-[10px] h-[9px] w-px ${index <= shown ? 'bg-blue' : 'bg-second'}`}
          style={{ left: place(index) }}
        />
      ))}
      <span
        aria-hidden
        className="absolute top-[13px] h-[3px] bg-blue"
        style={{ left: place(0), width: `calc(${place(shown)} - ${place(0)})` }}
      />
      <button
        type="button"
        role="slider"
        aria-label={`Stage of P ${piece.number}`}
        aria-valuemin={1}
        aria-valuemax={stages.length}
        aria-valuenow={shown + 1}
        aria-valuetext={`${stages[shown]}${over === undefined ? `, ${stood(piece.days)}` : ''}`}
        title={`At ${piece.stage}, ${stood(piece.days)}; drag it or use the arrow keys`}
        className="absolute top-[2px] h-6 w-6 -translate-x-1/2 cursor-grab touch-none active:cursor-grabbing"
        style={{ left: place(shown) }}
        onPointerDown={(event) => {
          if (event.button !== 0) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          sent.current = at;
          setOver(at);
        }}
        onPointerMove={(event) => over !== undefined && setOver(under(event.clientX))}
        onPointerUp={() => {
          if (over !== undefined) to(over);
          setOver(undefined);
        }}
        onPointerCancel={() => setOver(undefined)}
        onFocus={() => {
          sent.current = at;
        }}
        onKeyDown={(event) => {
          if (event.key === 'Escape') setOver(undefined);
          const step = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
          if (!step) return;
          event.preventDefault();
          to(sent.current + step);
        }}
      >
        <span aria-hidden className="absolute top-[4px] left-1/2 h-4 w-[7px] -translate-x-1/2 bg-blue" />
      </button>
      <span
        className="narrow pointer-events-none absolute top-[26px] -translate-x-1/2 text-[11px] whitespace-nowrap text-second"
        style={{ left: place(shown) }}
      >
        {over === undefined || over === at ? stood(piece.days) : `to ${stages[over]}`}
      </span>
    </div>
  );
}
