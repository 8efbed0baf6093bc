import { useState } from 'react';
import { Link } from 'react-router';
import { api, done, type ProposalShown, type ProposedSection, type RouteShown } from '../../api/client';
import { carryOut } from '../../papers/notices';
import type { RouteActs } from './RoutePart';

/** What the material proposes for the outline: taken whole, by section, or by slip. Nothing is moved without a press. */
export function Proposed({
  piece,
  shown,
  route,
  acts,
}: {
  piece: number;
  shown: ProposalShown;
  route: RouteShown;
  acts: RouteActs;
}) {
  const path = { number: String(piece) };
  const { sections, left } = shown.proposal;
  const lines = sections.filter((line) => !line.section || line.isMoved || line.slips.length > 0);
  const take = (keys: string[] | undefined, slips: number[] | undefined, said: string) =>
    void carryOut(
      acts.onDraft((version) =>
        done(api.POST('/api/pieces/{number}/proposal/take', { params: { path }, body: { version, keys, slips } })),
      ),
      said,
    ).catch(() => undefined);
  return (
    <section aria-label="What the material proposes">
      <h2 className="label flex items-baseline border-b border-ink pb-2">
        What the material proposes
        {lines.length > 1 && (
          <button
            type="button"
            className="link ml-auto text-[12.5px] font-bold tracking-normal normal-case"
            onClick={() => take(undefined, undefined, 'All of it is taken.')}
          >
            take all
          </button>
        )}
      </h2>
      {lines.length === 0 && (
        <p className="border-b border-rule py-3 text-second">
          Nothing beyond what stands: all material has its place, and nothing else in the papers comes near enough.
        </p>
      )}
      {lines.length > 0 &&
        sections.map((line, at) => (
          <Line key={line.key} line={line} nth={at + 1} shown={shown} route={route} onTake={take} />
        ))}
      {left.length > 0 && (
        <p className="py-2 text-[12.5px] text-second">
          No place is found for{' '}
          {left.map((slip, at) => (
            <span key={slip}>
              {at > 0 && ', '}
              <Link
                className="link"
                to={`/library/slip/${slip}`}
                title={shown.named.find((n) => n.number === slip)?.words}
              >
                slip {slip}
              </Link>
            </span>
          ))}
          .
        </p>
      )}
    </section>
  );
}

function Line({
  line,
  nth,
  shown,
  route,
  onTake,
}: {
  line: ProposedSection;
  nth: number;
  shown: ProposalShown;
  route: RouteShown;
  onTake: (keys: string[] | undefined, slips: number[] | undefined, said: string) => void;
}) {
  const [open, setOpen] = useState(false);
  const before = route.route.sections.find((section) => section.number === line.before)?.title;
  const isChange = !line.section || line.isMoved || line.slips.length > 0;
  const words = [...new Set(line.slips.flatMap((slip) => slip.words.slice(0, 2)))].slice(0, 4);
  const whys = [...new Set(line.slips.flatMap((slip) => slip.why.split('; ')).filter(Boolean))];
  const beyond = line.slips.filter((slip) => !slip.isTied).length;
  const what = [
    !line.section && (line.beat ? `new, for the ${line.beat}` : 'new'),
    line.isMoved && (before ? `before “${before}”` : 'at the end'),
    line.section &&
      line.slips.length > 0 &&
      `with ${line.slips.length === 1 ? `slip ${line.slips[0]!.slip}` : `${line.slips.length} slips`}${beyond === line.slips.length ? ' from the library' : ' from the loose ones'}`,
    !isChange && 'as it is',
  ].filter(Boolean);
  return (
    <article
      aria-label={`${line.title}, ${what.join(', ')}`}
      className={`-mx-2.5 grid grid-cols-[22px_minmax(0,1fr)_auto] items-baseline gap-x-3 border-b border-rule px-2.5 py-2.5 ${line.section ? '' : 'bg-wash'}`}
    >
      <span className={`figures text-[13px] ${line.section ? 'text-second' : 'text-blue'}`}>{nth}</span>
      <div className="min-w-0">
        <p>
          <span className="written text-[16px] leading-snug font-medium">{line.title}</span>{' '}
          <span className="text-[12.5px] text-second">{what.join(', ')}</span>
        </p>
        {line.slips.length > 0 && (
          <button
            type="button"
            aria-expanded={open}
            className="min-h-6 text-left text-[12.5px] text-second hover:text-blue"
            onClick={() => setOpen(!open)}
          >
            {!line.section && `slips ${line.slips.map((slip) => slip.slip).join(', ')}: `}
            <i className="written">{words.join(', ')}</i>
            {whys.length > 0 && `; ${whys.join('; ')}`} <span aria-hidden>{open ? '▴' : '▾'}</span>
          </button>
        )}
        {open &&
          line.slips.map((slip) => (
            <div key={slip.slip} className="flex items-baseline gap-3 py-1">
              <Link
                to={`/library/slip/${slip.slip}`}
                className="written line-clamp-2 min-w-0 flex-1 text-[14px] leading-snug hover:text-blue"
              >
                <span className="narrow font-sans text-[11.5px] text-second">
                  slip {slip.slip}
                  {!slip.isTied && ', not beside it yet'}
                </span>{' '}
                {shown.named.find((one) => one.number === slip.slip)?.words}
              </Link>
              <button
                type="button"
                className="link min-h-6 shrink-0 text-[12.5px]"
                aria-label={`Take slip ${slip.slip} alone`}
                onClick={() => onTake([line.key], [slip.slip], `Slip ${slip.slip} is laid in.`)}
              >
                this one
              </button>
            </div>
          ))}
      </div>
      {isChange ? (
        <button
          type="button"
          aria-label={`Take “${line.title}”`}
          className={`link min-h-6 text-[13px] ${line.section ? '' : 'font-bold'}`}
          onClick={() =>
            onTake(
              [line.key],
              undefined,
              line.section ? `“${line.title}” is as proposed.` : `“${line.title}” is laid in.`,
            )
          }
        >
          take
        </button>
      ) : (
        <span />
      )}
    </article>
  );
}
