import { useEffect, useState } from 'react';
import { api, done } from '../api/client';
import { keys as queryKeys, queryClient } from '../api/queries';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { Key } from '../ui/Key';
import { carryOut } from './notices';
import {
  actNames,
  acts,
  clashing,
  isOwn,
  keyOf,
  keysShown,
  pressed,
  refusal,
  useKeyOf,
  type ActName,
  type KeyGroup,
} from './ownKeys';

/** What fields, lists and offers go by everywhere. */
const fixed: Partial<Record<KeyGroup, [string, string][]>> = {
  sift: [
    ['1 … 4', 'put into the piece it would fit'],
    ['↑ ↓', 'move on without deciding'],
  ],
  library: [
    ['↑ ↓', 'walk through the list, or the lines of a transcript'],
    ['Space', 'choose an entry or a row; Shift ↑ ↓ chooses a range'],
    ['0 … 5', 'pull or effort in the table, for all chosen'],
    ['1 … 9', 'leave that passage of a new source out, or in again'],
  ],
  plan: [
    [
      'Space',
      'on the weeks: pick something up; the arrows carry it by a day or a week, Space drops it, Escape lets it be',
    ],
    ['↑ ↓', 'from move to move'],
    ['← →', 'on the marker of a piece: one stage back, one stage on'],
  ],
  catalogue: [['↑ ↓', 'from passage to passage (while closing a piece)']],
  bench: [['Enter', 'go to the section in the draft (in the outline)']],
  everywhere: [
    ['Tab', 'take the first completion (in a search field)'],
    ['Esc', 'put a field back as it was; leave a dialog'],
  ],
};

const names: Record<KeyGroup, string> = {
  everywhere: 'Everywhere',
  go: 'After the key that goes somewhere',
  desk: 'On the Desk',
  sift: 'In Sift',
  library: 'In the Library',
  bench: 'On a piece',
  plan: 'In Plan, on the moves',
  catalogue: 'In the Catalogue',
};

const give = (keys: Record<string, string>, said: string) =>
  carryOut(done(api.PUT('/api/own-keys', { body: { keys } })), said).then(
    (given) => queryClient.setQueryData(queryKeys.ownKeys, given),
    () => undefined,
  );

/** The keys, of this screen first, each to be given anew. */
export function KeysDialog({ screen, open, onClose }: { screen: string; open: boolean; onClose: () => void }) {
  const [changing, setChanging] = useState<ActName>();
  const [groups] = ['desk', 'sift', 'library', 'bench', 'plan', 'catalogue'].includes(screen)
    ? [[screen as KeyGroup, 'everywhere' as const, 'go' as const]]
    : [['everywhere' as const, 'go' as const]];
  const [all, setAll] = useState(false);
  const shown = all ? (['everywhere', 'go', 'desk', 'sift', 'library', 'bench', 'plan', 'catalogue'] as const) : groups;
  const close = () => {
    setChanging(undefined);
    onClose();
  };
  return (
    <Dialog title="Keys" open={open} onClose={close}>
      {shown.map((group) => (
        <section key={group} className="mb-4" aria-label={names[group]}>
          <h3 className="label mb-1 text-second">{names[group]}</h3>
          <ul>
            {actNames
              .filter((name) => acts[name].group === group)
              .map((name) => (
                <KeyRow
                  key={name}
                  name={name}
                  isChanging={changing === name}
                  onChange={() => setChanging(name)}
                  onDone={() => setChanging(undefined)}
                />
              ))}
            {(fixed[group] ?? []).map(([keys, what]) => (
              <li key={keys} className="flex min-h-[34px] items-center gap-3 border-b border-rule py-1">
                <span className="flex w-28 shrink-0 flex-wrap gap-1">
                  {keys
                    .split(' ')
                    .map((part) => (part === '…' ? <span key={part}>…</span> : <Key key={part}>{part}</Key>))}
                </span>
                <span>{what}</span>
              </li>
            ))}
          </ul>
        </section>
      ))}
      <p className="flex items-baseline gap-4 text-[12.5px]">
        <button type="button" className="link" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? 'only those of this screen' : 'those of all screens'}
        </button>
        {actNames.some(isOwn) && (
          <button
            type="button"
            className="link"
            onClick={() =>
              void give(
                Object.fromEntries(actNames.filter(isOwn).map((name) => [name, ''])),
                'All keys are the first ones again.',
              )
            }
          >
            all as they were at first
          </button>
        )}
        <span className="ml-auto text-second">Your keys stay with your papers.</span>
      </p>
    </Dialog>
  );
}

function KeyRow({
  name,
  isChanging,
  onChange,
  onDone,
}: {
  name: ActName;
  isChanging: boolean;
  onChange: () => void;
  onDone: () => void;
}) {
  const [wanted, setWanted] = useState('');
  const now = keysShown(useKeyOf(name));
  const wrong = wanted ? refusal(wanted) : '';
  const taken = wanted && !wrong ? clashing(name, wanted) : undefined;
  useEffect(() => {
    if (!isChanging) return;
    const listen = (event: KeyboardEvent) => {
      const keys = pressed(event);
      if (!keys) return;
      // The buttons beside it are reached as everywhere.
      if (
        ['Tab', 'Shift+Tab'].includes(keys) ||
        (['Enter', 'Space'].includes(keys) && event.target instanceof HTMLButtonElement && event.target.dataset.choice)
      )
        return;
      event.preventDefault();
      event.stopImmediatePropagation();
      if (keys === 'Escape' || keys === keyOf(name)) return onDone();
      setWanted(keys);
      if (refusal(keys) || clashing(name, keys)) return;
      onDone();
      void give({ [name]: keys === acts[name].born ? '' : keys }, `${keysShown(keys)} is the key for it now.`);
    };
    window.addEventListener('keydown', listen, true);
    return () => window.removeEventListener('keydown', listen, true);
  }, [isChanging, name, onDone]);
  return (
    <li className="border-b border-rule py-1">
      <div className="flex min-h-[26px] items-center gap-3">
        <span className="w-28 shrink-0">
          <button
            type="button"
            aria-label={`Key for: ${acts[name].what}. Now ${now}`}
            className="flex min-h-[24px] items-center hover:opacity-80"
            title="Press to give it another key"
            onClick={() => {
              setWanted('');
              onChange();
            }}
          >
            {isChanging && !wanted ? (
              <i className="text-blue">press a key…</i>
            ) : (
              <Key>{isChanging ? keysShown(wanted) : now}</Key>
            )}
          </button>
        </span>
        <span className="min-w-0 flex-1">{acts[name].what}</span>
        {isOwn(name) && !isChanging && (
          <button
            type="button"
            className="link shrink-0 text-[12px]"
            onClick={() => void give({ [name]: '' }, `${keysShown(acts[name].born)} is the key for it again.`)}
          >
            {keysShown(acts[name].born)} again
          </button>
        )}
      </div>
      {isChanging && (wrong || taken) && (
        <p role="alert" className="flex flex-wrap items-baseline gap-3 pt-1 pb-2 text-[12.5px] text-red">
          {wrong || `${keysShown(wanted)} is already for “${acts[taken!].what}”.`}
          {taken && (
            <Button
              data-choice="yes"
              onClick={() => {
                onDone();
                void give({ [name]: wanted, [taken]: keyOf(name) }, 'The two have changed keys.');
              }}
            >
              Let them change keys
            </Button>
          )}
          <span className="text-second">Press another, or Esc to leave it.</span>
        </p>
      )}
    </li>
  );
}
