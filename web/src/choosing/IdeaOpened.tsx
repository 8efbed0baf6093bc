import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask, type Idea, type WorthTerm } from '../api/client';
import { keys, useFormats } from '../api/queries';
import { StartPiece } from '../bench/StartPiece';
import { ActionMenu } from '../ui/ActionMenu';
import { Button } from '../ui/Button';
import { Steps } from '../ui/Steps';
import { addressOf, keyOf } from './Ideas';
import { inkOf, listed, terms } from './terms';
import { useWeights } from './weights';
import { IntoPiece } from './IntoPiece';

const place = { slip: '/library/slip/', source: '/library/source/', piece: '/bench/' } as Record<string, string>;

/** An idea's worth term by term, with what each is made of, and another idea laid beside it. */
export function IdeaOpened({ idea, ideas, beside }: { idea: Idea; ideas: readonly Idea[]; beside: Idea | undefined }) {
  const [other, setOther] = useState(beside);
  const [starting, setStarting] = useState(false);
  const { weights, weigh } = useWeights();
  const formats = useFormats().data ?? [];
  const format = formats.find((f) => f.key === idea.formats[0]);
  const missing = (Object.keys(terms) as WorthTerm[]).filter((term) => !idea.terms.some((t) => t.term === term));
  return (
    <div className="mb-1 flex gap-8 border-l-[3px] border-blue bg-quiet py-4 pr-6 pl-[62px] max-lg:flex-col max-lg:gap-5 max-lg:pl-6 max-md:pr-3 max-md:pl-4">
      <div className="min-w-0 flex-[1.9]">
        <table className="figures w-full text-[12.5px]">
          <caption className="sr-only">What makes it worth {Math.round(idea.score)}</caption>
          <thead className="sr-only">
            <tr>
              <th>Term</th>
              <th>How much speaks for it</th>
              <th>What it is made of</th>
              <th>How much it counts</th>
            </tr>
          </thead>
          <tbody>
            {[...idea.terms]
              .sort((a, b) => b.points - a.points)
              .map((term) => (
                <tr key={term.term} className="border-b border-rule last:border-0">
                  <th scope="row" title={terms[term.term].about} className="w-[82px] py-1 pr-2 text-left font-semibold">
                    {terms[term.term].name}
                  </th>
                  <td className="w-[122px] py-1 max-md:w-[54px]">
                    <span
                      role="img"
                      aria-label={`${Math.round(term.value * 100)} of 100, adds ${term.points.toFixed(1)} points`}
                      title={`${Math.round(term.value * 100)} of 100 · adds ${term.points.toFixed(1)} points`}
                      className="block h-[7px] w-[112px] bg-hair/50 max-md:w-[46px]"
                    >
                      <span className={`block h-full ${inkOf(term.term)}`} style={{ width: `${term.value * 100}%` }} />
                    </span>
                  </td>
                  <td className="py-1 pr-3 max-md:pl-2.5">
                    {term.evidence}
                    <Things things={term.things.filter(({ title }) => !term.evidence.includes(title))} />
                  </td>
                  <td className="w-[66px] py-0.5 text-right max-md:hidden">
                    <Steps
                      label={`How much ${terms[term.term].name} counts`}
                      value={Math.round(term.weight) || null}
                      onChange={(value) =>
                        weigh(
                          { ...weights, [term.term]: value ?? 0 },
                          `${terms[term.term].name} counts ${value ?? 0} of 5 now.`,
                        )
                      }
                    />
                  </td>
                </tr>
              ))}
          </tbody>
        </table>
        {missing.length > 0 && (
          <p className="mt-2 text-[12px] text-second">
            Not known, so left out: {listed(missing.map((term) => terms[term].name))}.
          </p>
        )}
      </div>
      <div className="min-w-0 flex-1">
        {other && (
          <>
            <div className="flex items-baseline gap-3 border-b border-hair pb-1.5">
              <h3 className="label">Beside {keyOf(other)}</h3>
              <span className="ml-auto text-[12px]">
                <ActionMenu
                  label="Beside another idea"
                  actions={ideas
                    .filter((i) => i !== idea)
                    .slice(0, 20)
                    .map((i) => ({
                      key: keyOf(i),
                      label: <span className="written block max-w-[340px] truncate">{i.title}</span>,
                      note: String(Math.round(i.score)),
                      onChoose: () => setOther(i),
                    }))}
                >
                  another ▾
                </ActionMenu>
              </span>
            </div>
            <Link
              to={addressOf(other)}
              className="written mt-2.5 line-clamp-3 text-[15.5px] leading-[1.25] hover:text-blue"
            >
              {other.title}
            </Link>
            <WhyNot idea={idea} other={other} />
          </>
        )}
        <div className="mt-3 flex flex-wrap items-center gap-2.5">
          <Button look="main" onClick={() => setStarting(true)}>
            Start the {format?.name.toLowerCase() ?? 'piece'}
          </Button>
          {idea.slip !== null && <IntoPiece slip={idea.slip} />}
          <Link to={addressOf(idea)} className="link text-[12.5px]">
            open {idea.slip === null ? 'the list' : 'the slip'}
          </Link>
        </div>
      </div>
      <StartPiece
        open={starting}
        onClose={() => setStarting(false)}
        from={idea.slip === null ? { usable: idea.usable! } : { slips: [idea.slip] }}
      />
    </div>
  );
}

/** What a term can be followed to; the first few, and how many more. */
function Things({ things }: { things: Idea['terms'][number]['things'] }) {
  const [all, setAll] = useState(false);
  if (things.length === 0) return null;
  const shown = all ? things : things.slice(0, 1);
  return (
    <>
      {shown.map(({ thing, title }) => (
        <span key={`${thing.kind} ${thing.number}`}>
          {' · '}
          <Link
            to={`${place[thing.kind]}${thing.number}`}
            title={title}
            className="link inline-block max-w-[230px] truncate align-bottom"
          >
            {title}
          </Link>
        </span>
      ))}
      {things.length > shown.length && (
        <>
          {' · '}
          <button type="button" className="link" onClick={() => setAll(true)}>
            {things.length - shown.length} more
          </button>
        </>
      )}
    </>
  );
}

/** Why the other does not stand above, or does. */
function WhyNot({ idea, other }: { idea: Idea; other: Idea }) {
  const text = (number: number | null) => (number === null ? undefined : String(number));
  const query = {
    slip: text(idea.slip),
    usable: text(idea.usable),
    otherSlip: text(other.slip),
    otherUsable: text(other.usable),
  };
  const laid = useQuery({
    queryKey: keys.beside(query),
    queryFn: () => ask(api.GET('/api/worth/beside', { params: { query } })),
    placeholderData: (previous) => previous,
  });
  if (laid.error) return <p className="mt-2 text-[12.5px] text-red">{(laid.error as Error).message}</p>;
  if (!laid.data) return <p className="mt-2 min-h-[57px]" />;
  const { better, worse, tip } = laid.data.beside;
  const above = laid.data.other.score > laid.data.this.score;
  const capital = (text: string) => text && text[0]!.toUpperCase() + text.slice(1);
  return (
    <p className="mt-1.5 min-h-[57px] text-[12.5px] leading-[1.55] text-second">
      {above ? 'It stands above. ' : ''}
      {better.length + worse.length === 0
        ? 'The two differ by next to nothing. '
        : better.length === 0
          ? `${capital(listed(worse))}. `
          : `${capital(listed(better))}${worse.length ? `, but ${listed(worse)}` : ''}. `}
      {tip && <span className="text-ink">{tip}</span>}
    </p>
  );
}
