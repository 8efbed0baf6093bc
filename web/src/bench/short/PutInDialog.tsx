import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask, done } from '../../api/client';
import { queryClient } from '../../api/queries';
import type { components } from '../../api/schema';
import { carryOut, complain } from '../../papers/notices';
import { Dialog } from '../../ui/Dialog';

export type Pattern = components['schemas']['Pattern'];
export type LaidPattern = components['schemas']['LaidPattern'];
export type StandingText = components['schemas']['StandingTextShown'];

export const patternKeys = { patterns: ['patterns'], standing: ['standing-texts'] } as const;

export const usePatterns = () =>
  useQuery({ queryKey: patternKeys.patterns, queryFn: () => ask(api.GET('/api/patterns')) });
export const useStandingTexts = () =>
  useQuery({ queryKey: patternKeys.standing, queryFn: () => ask(api.GET('/api/standing-texts')) });

const headings = {
  opening: 'Openings',
  post: 'Posts',
  title: 'Titles',
  bit: 'Bits',
  standing: 'Standing texts',
} as const;

/** Chooses a pattern, a bit or a standing text for the cursor: letters narrow it down, Enter puts it in. */
export function PutInDialog({
  piece,
  only,
  onLay,
  onStand,
  onClose,
}: {
  /** The piece whose facts are filled in. */
  piece?: number;
  /** Only patterns of these kinds. */
  only?: readonly Pattern['kind'][];
  onLay: (laid: LaidPattern) => void;
  /** Where standing texts can be put in. */
  onStand?: (reference: string) => void;
  onClose: () => void;
}) {
  const [typed, setTyped] = useState('');
  const [at, setAt] = useState(0);
  const patterns = usePatterns().data ?? [];
  const standing = useStandingTexts().data ?? [];
  const all = [
    ...patterns.map((one) => ({
      kind: one.kind,
      name: one.name,
      text: one.text,
      used: one.usedAt !== null,
      pattern: one,
    })),
    ...standing.map((one) => ({
      kind: 'standing' as const,
      name: one.name,
      text: one.text,
      used: false,
      standing: one,
    })),
  ]
    .filter((one) => (one.kind === 'standing' ? onStand !== undefined : !only || only.includes(one.kind)))
    .filter((one) => `${one.name} ${one.text}`.toLowerCase().includes(typed.trim().toLowerCase()));
  const put = async (one: (typeof all)[number] | undefined) => {
    if (!one) return;
    if ('standing' in one) return onStand?.(`[[standing text ${one.standing.number}]]`);
    try {
      const laid = await ask(
        api.GET('/api/patterns/{number}/laid', {
          params: {
            path: { number: String(one.pattern.number) },
            query: { piece: piece === undefined ? undefined : String(piece) },
          },
        }),
      );
      if (one.kind === 'bit' && !one.used) {
        await carryOut(
          done(
            api.PATCH('/api/patterns/{number}', {
              params: { path: { number: String(one.pattern.number) } },
              body: { used: true, version: one.pattern.version },
            }),
          ),
          `“${one.name}” is used now.`,
        );
        await queryClient.invalidateQueries({ queryKey: patternKeys.patterns });
      }
      onLay(laid);
    } catch (problem) {
      complain(problem);
    }
  };
  return (
    <Dialog open title="Put in" onClose={onClose}>
      <input
        autoFocus
        role="combobox"
        aria-expanded
        aria-controls="put-in"
        aria-activedescendant={all.length > 0 ? `put-in-${at}` : undefined}
        aria-label="Patterns, bits and standing texts"
        placeholder="some of its words"
        value={typed}
        onChange={(event) => {
          setTyped(event.target.value);
          setAt(0);
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
            event.preventDefault();
            setAt((now) => Math.max(0, Math.min(all.length - 1, now + (event.key === 'ArrowDown' ? 1 : -1))));
          }
          if (event.key === 'Enter') {
            event.preventDefault();
            void put(all[at]);
          }
        }}
        className="block w-full border-b border-ink bg-transparent py-1 outline-none focus:border-blue"
      />
      <ul id="put-in" role="listbox" aria-label="What can be put in" className="mt-2 max-h-[46vh] overflow-y-auto">
        {all.map((one, nth) => (
          <li
            key={`${one.kind}${one.name}${nth}`}
            id={`put-in-${nth}`}
            role="option"
            aria-selected={nth === at}
            ref={nth === at ? (row) => row?.scrollIntoView({ block: 'nearest' }) : undefined}
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => void put(one)}
            className={`cursor-pointer border-b border-rule px-2 py-1.5 ${nth === at ? 'bg-wash' : ''}`}
          >
            <span className="flex items-baseline gap-2">
              <b className="min-w-0 flex-1 text-[13.5px]">{one.name}</b>
              <span className="text-[12px] text-second">
                {one.used ? 'used · ' : ''}
                {headings[one.kind]}
              </span>
            </span>
            <span className="written line-clamp-2 text-[13.5px] text-second">{one.text}</span>
          </li>
        ))}
      </ul>
      {all.length === 0 && <p className="py-3 text-second">None of them has these words.</p>}
      <p className="mt-3 text-[12.5px]">
        <Link className="link inline-flex min-h-6 items-center" to="/bench/short">
          Make and change them
        </Link>
      </p>
    </Dialog>
  );
}
