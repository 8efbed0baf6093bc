import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { api, ask } from '../api/client';
import { keys } from '../api/queries';
import { longDay } from '../ui/dates';
import { SlipLine } from './SlipLine';

/** How many days are read at once while the writer scrolls. */
const most = 60;

/** The days before, one under the other, each as it was left; the next comes as the end of the last is reached. */
export function DaysBefore({ day }: { day: string }) {
  const [shown, setShown] = useState<string[]>([]);
  const last = shown.at(-1) ?? day;
  const earlier = useQuery({
    queryKey: keys.desk(last),
    queryFn: () => ask(api.GET('/api/desk', { params: { query: { day: last } } })),
  }).data?.earlier;
  const end = useRef<HTMLDivElement>(null);
  const [going, setGoing] = useState(false);
  useEffect(() => {
    const here = end.current;
    if (!here || !going || !earlier || shown.length >= most) return;
    const watch = new IntersectionObserver(
      (seen) => seen.some((one) => one.isIntersecting) && setShown((days) => [...days, earlier]),
      { rootMargin: '200px' },
    );
    watch.observe(here);
    return () => watch.disconnect();
  }, [earlier, going, shown.length]);
  if (!earlier && shown.length === 0) return null;
  return (
    <section aria-label="The days before" className="mt-10">
      {shown.map((one) => (
        <DayBefore key={one} day={one} />
      ))}
      {!going && earlier && (
        <button
          type="button"
          className="link text-[12.5px]"
          onClick={() => {
            setGoing(true);
            setShown([earlier]);
          }}
        >
          The days before, below one another
        </button>
      )}
      {going && !earlier && <p className="py-4 text-[12.5px] text-second">Here your sheets begin.</p>}
      <div ref={end} className="h-px" />
    </section>
  );
}

function DayBefore({ day }: { day: string }) {
  const desk = useQuery({
    queryKey: keys.desk(day),
    queryFn: () => ask(api.GET('/api/desk', { params: { query: { day } } })),
  }).data;
  if (!desk) return <div className="h-24" />;
  const written = [
    ...desk.blocks.filter((block) => block.kind !== 'writing' && block.text !== ''),
    ...(desk.sheet.text ? [{ block: -1, heading: '', prompt: '', text: desk.sheet.text }] : []),
  ];
  return (
    <article aria-label={longDay(day)} className="mb-8 border-t border-hair pt-4">
      <h2 className="written text-[21px] font-semibold">
        <Link to={`/desk/${day}`} className="hover:text-blue">
          {longDay(day)}
        </Link>
      </h2>
      {written.map((block) => (
        <div key={block.block} className="mt-2">
          {(block.heading || block.prompt) && <h3 className="label text-second">{block.heading || block.prompt}</h3>}
          <p className="written text-[15.5px] leading-relaxed whitespace-pre-line [overflow-wrap:anywhere]">
            {block.text}
          </p>
        </div>
      ))}
      {desk.slips.map((slip) => (
        <SlipLine key={slip.number} slip={slip} />
      ))}
      {written.length + desk.slips.length === 0 && <p className="mt-1 text-second">Nothing was written.</p>}
    </article>
  );
}
