import { useState } from 'react';
import { ActionMenu } from '../../ui/ActionMenu';
import { Button } from '../../ui/Button';
import { Dialog } from '../../ui/Dialog';
import { change, type Standing } from './stages';

/** The words that hold of a piece whatever its stage, and a way to give it one or take one away. */
export function StatesOf({ piece, known }: { piece: Standing; known: readonly string[] }) {
  const [asking, setAsking] = useState(false);
  const has = (word: string) => piece.states.some((one) => one.toLowerCase() === word.toLowerCase());
  const set = (states: string[], words: string) => void change(piece, { states }, words).catch(() => undefined);
  const give = (word: string) => set([...piece.states, word], `P ${piece.number} is “${word}”.`);
  const take = (word: string) =>
    set(
      piece.states.filter((one) => one !== word),
      `P ${piece.number} is no more “${word}”.`,
    );
  return (
    <span className="inline-flex flex-wrap items-baseline gap-x-2.5">
      {piece.states.map((word) => (
        <button
          key={word}
          type="button"
          title={`Take “${word}” away`}
          onClick={() => take(word)}
          className="font-semibold text-ink underline decoration-hair decoration-1 underline-offset-[3px] hover:line-through"
        >
          {word}
        </button>
      ))}
      <ActionMenu
        label={`Give P ${piece.number} a state`}
        className="text-[12px] text-second hover:text-blue"
        actions={[
          ...known.filter((word) => !has(word)).map((word) => ({ key: word, label: word, onChoose: () => give(word) })),
          { key: ' new', label: 'another …', onChoose: () => setAsking(true) },
        ]}
      >
        state ▾
      </ActionMenu>
      {asking && (
        <NewWord
          onGive={(word) => {
            setAsking(false);
            if (!has(word)) give(word);
          }}
          onClose={() => setAsking(false)}
        />
      )}
    </span>
  );
}

function NewWord({ onGive, onClose }: { onGive: (word: string) => void; onClose: () => void }) {
  const [word, setWord] = useState('');
  return (
    <Dialog open title="A state in your own words" onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (word.trim()) onGive(word.trim());
        }}
      >
        <label className="block">
          <span className="label block text-second">What holds of it, whatever its stage</span>
          <input
            autoFocus
            value={word}
            maxLength={60}
            placeholder="sponsored, with a guest, waits for somebody"
            onChange={(event) => setWord(event.target.value)}
            className="written w-full border-b border-ink bg-transparent py-1 text-[16px] outline-none focus:border-blue"
          />
        </label>
        <div className="mt-4 flex gap-2">
          <Button look="main" type="submit" disabled={!word.trim()}>
            Put it there
          </Button>
          <Button onClick={onClose}>Not now</Button>
        </div>
      </form>
    </Dialog>
  );
}
