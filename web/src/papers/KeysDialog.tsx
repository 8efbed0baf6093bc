import { Dialog } from '../ui/Dialog';
import { Key } from '../ui/Key';
import { screens } from './screens';

const everywhere: [string, string][] = [
  ['c', 'catch something: the cursor goes into the strip'],
  ['/', 'find, or go to a number'],
  ...screens.map(({ key, name }): [string, string] => [`g ${key}`, `go to ${name}`]),
  ['Ctrl Shift Space', 'catch something from inside any text, and back to the very cursor'],
  ['?', 'show these keys'],
];

const here: Record<string, [string, string][]> = {
  desk: [
    ['←', 'the day before'],
    ['→', 'the day after'],
    ['Alt Enter', 'title and words for a ruled line'],
    ['Ctrl Enter', 'lift the selection or paragraph out (in free writing)'],
  ],
  sift: [
    ['k', 'keep'],
    ['s', 'start a piece'],
    ['1 … 4', 'put into the piece it would fit'],
    ['p', 'put into another piece'],
    ['h', 'hold: a date, an occasion, enough sources'],
    ['n', 'leave as it is (when going through again)'],
    ['m', 'merge into another slip'],
    ['d', 'drop'],
    ['z', 'take the last decision back, again and again'],
    ['t', 'topics; Tab takes the likeliest'],
    ['e', 'change the text'],
    ['x r', 'split the slip; refine it into a claim'],
    ['f', 'its pull as strong as can be, and back'],
    ['↑ ↓', 'move on without deciding'],
  ],
  library: [
    ['↑ ↓', 'walk through the list, or the lines of a transcript'],
    ['Space', 'choose an entry or a row; Shift ↑ ↓ chooses a range'],
    ['0 … 5', 'pull or effort in the table, for all chosen'],
    ['Tab', 'take the first completion (in the search field)'],
    ['Shift ↑ ↓', 'choose lines of a transcript; Enter keeps them'],
    ['k d', 'keep or drop a new source (while going through them)'],
    ['1 … 9', 'leave that passage out, or in again'],
    ['z', 'take the last decision back'],
  ],
  bench: [
    ['[ ]', 'one stage back, one stage on (in a piece)'],
    ['Alt ↑ ↓', 'move the section (in the outline)'],
    ['Alt ← →', 'nest the section less or more'],
    ['Enter', 'go to the section in the draft (in the outline)'],
    ['Ctrl Enter', 'leave the draft for the outline'],
    ['Ctrl Shift Enter', 'lift the paragraph or selection out as a slip'],
    ['Ctrl Z', 'step back, over draft, outline and material'],
    ['Ctrl Shift Z', 'step forward again'],
  ],
};

export function KeysDialog({ screen, open, onClose }: { screen: string; open: boolean; onClose: () => void }) {
  const own = here[screen];
  return (
    <Dialog title="Keys" open={open} onClose={onClose}>
      {own && <List title="On this screen" rows={own} />}
      <List title="Everywhere" rows={everywhere} />
    </Dialog>
  );
}

function List({ title, rows }: { title: string; rows: [string, string][] }) {
  return (
    <section className="mb-4">
      <h3 className="label mb-1 text-second">{title}</h3>
      <dl>
        {rows.map(([key, what]) => (
          <div key={key} className="flex items-center gap-3 border-b border-rule py-1">
            <dt className="flex w-32 shrink-0 flex-wrap gap-1">
              {key.split(' ').map((part) => (part === '…' ? <span key={part}>…</span> : <Key key={part}>{part}</Key>))}
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
