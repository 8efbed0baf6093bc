import { useChoice } from '../ui/useChoice';

const wordsIn = (text: string) => text.split(/\s+/).filter(Boolean).length;

/** Words and characters of what is selected, against a limit of the writer's. */
export function SelectionCount({ text }: { text: string }) {
  const [limit, setLimit] = useChoice<string>('selection.limit', '300');
  const most = Number(limit);
  const characters = [...text].length;
  const words = wordsIn(text);
  return (
    <span className="figures flex items-baseline gap-1 text-[12px] text-second" role="status">
      selected: {words} {words === 1 ? 'word' : 'words'} ·{' '}
      <span className={most > 0 && characters > most ? 'font-semibold text-red' : ''}>
        {characters} {most > 0 ? 'of' : 'characters'}
      </span>
      {most > 0 && (
        <>
          <input
            type="number"
            min={0}
            aria-label="Most characters of a selection"
            title="The limit; 0 for none"
            value={limit}
            // The selection stays while the limit is changed by the wheel or the arrows beside it.
            onChange={(event) => setLimit(event.target.value)}
            className="w-14 border-b border-hair bg-transparent text-center outline-none focus:border-blue"
          />{' '}
          characters
        </>
      )}
      {most === 0 && (
        <button
          type="button"
          className="link"
          onMouseDown={(event) => event.preventDefault()}
          onClick={() => setLimit('300')}
        >
          set a limit
        </button>
      )}
    </span>
  );
}
