import { useEffect, useRef, useState } from 'react';
import { useLocation } from 'react-router';
import { api, ask, type ReadAnswer } from '../api/client';
import { useKeys } from '../papers/keys';
import { Button } from '../ui/Button';
import { Key } from '../ui/Key';
import { isKey } from '../papers/ownKeys';
import { KeyOf } from '../ui/KeyOf';
import { useNarrow } from '../ui/useNarrow';
import { drawCard } from '../ideas/decks/drawing';
import { asRead, ReadAs, type Said } from './ReadAs';
import { catchLines } from './outbox';

const place = 'nachlass.strip';
const besidePlace = 'nachlass.beside';

/** The strip at the foot of every screen: a typed line is a slip, and the writer stays where they were. */
export function CaptureStrip() {
  const [typed, setTyped] = useState(() => localStorage.getItem(place) ?? '');
  const [said, setSaid] = useState<Said>(asRead);
  const [several, setSeveral] = useState(false);
  const [error, setError] = useState('');
  const field = useRef<HTMLTextAreaElement>(null);
  const before = useRef<HTMLElement | null>(null);
  const narrow = useNarrow();
  const answer = useReading(typed);

  useEffect(() => {
    if (typed) localStorage.setItem(place, typed);
    else localStorage.removeItem(place);
    const area = field.current;
    if (!area) return;
    area.style.height = 'auto';
    area.style.height = `${Math.min(area.scrollHeight, 180)}px`;
  }, [typed]);

  const come = () => {
    const area = field.current;
    if (!area || document.activeElement === area) return;
    before.current = document.activeElement instanceof HTMLElement ? document.activeElement : null;
    area.focus();
    // Behind what was kept from before, to go on writing it.
    area.setSelectionRange(area.value.length, area.value.length);
  };
  useKeys({ 'all.catch': come });
  // In the middle of writing, in any field: the strip, and with Enter or Escape back to the very place.
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (!isKey(event, 'all.catchAnywhere')) return;
      event.preventDefault();
      event.stopPropagation();
      come();
    };
    window.addEventListener('keydown', listen, true);
    return () => window.removeEventListener('keydown', listen, true);
  }, []);

  const goBack = () => {
    field.current?.blur();
    const back = before.current;
    before.current = null;
    if (!back?.isConnected || back === document.body) return;
    // An editor knows its place better than the browser does.
    if (back.dispatchEvent(new CustomEvent('come-back', { cancelable: true }))) back.focus();
  };

  // On a piece's page a slip can be laid beside it at once.
  const here = /^\/bench\/(\d+)/.exec(useLocation().pathname)?.[1];
  const piece = here ? Number(here) : undefined;
  const [beside, setBeside] = useState<number | undefined>(
    () => Number(sessionStorage.getItem(besidePlace)) || undefined,
  );
  const isBeside = piece !== undefined && beside === piece;
  const layBeside = (on: boolean) => {
    setBeside(on ? piece : undefined);
    if (on) sessionStorage.setItem(besidePlace, String(piece));
    else sessionStorage.removeItem(besidePlace);
  };

  const store = async (texts: string[]) => {
    const left = typed;
    const meant = (answer?.reading.topics ?? []).filter((topic) => !said.notTopics.includes(topic));
    setTyped('');
    setSeveral(false);
    setError('');
    try {
      await catchLines(
        texts.map((text) => ({
          text,
          beside: isBeside ? piece : undefined,
          overruling: {
            move: said.move,
            kind: said.kind,
            source: said.source,
            // One line's topics are no other's.
            topics: said.notTopics.length && texts.length === 1 ? meant : null,
          },
          ...(texts.length > 1 ? { origin: 'paste' as const } : {}),
        })),
      );
      setSaid(asRead);
    } catch (problem) {
      // Refused: what was typed stands in the strip again.
      setTyped((now) => now || left);
      setError((problem as Error).message);
    }
  };

  const reading = answer?.reading;
  const lines = several && answer ? answer.lines : [];

  return (
    <section aria-label="New slip" className="relative shrink-0 border-t-2 border-dashed border-manila-edge bg-manila">
      {lines.length > 1 && (
        <div className="flex flex-wrap items-center gap-3 px-6 pt-2.5 max-md:px-3">
          <span className="text-manila-ink">{lines.length} lines were pasted.</span>
          <Button look="main" onClick={() => void store(lines)}>
            Make {lines.length} slips
          </Button>
          <Button onClick={() => setSeveral(false)}>Keep as one</Button>
        </div>
      )}
      {error && (
        <p role="alert" className="px-6 pt-2 text-red max-md:px-3">
          {error}
        </p>
      )}
      <div className="flex min-h-[50px] items-center gap-x-4 px-6 py-1.5 max-md:flex-wrap max-md:gap-x-2 max-md:px-3">
        <label htmlFor="strip" className="label shrink-0 text-manila-ink">
          New slip
        </label>
        {piece !== undefined && <Beside piece={piece} on={isBeside} onChange={layBeside} />}
        <textarea
          id="strip"
          ref={field}
          rows={1}
          value={typed}
          maxLength={500_000}
          placeholder={
            narrow
              ? 'Write it down'
              : 'Write it down; a link, a “quotation”, a question? or a #topic is noticed as you type'
          }
          onChange={(event) => {
            setTyped(event.target.value);
            setError('');
            if (!event.target.value) setSaid(asRead);
            if (!event.target.value.includes('\n')) setSeveral(false);
          }}
          onPaste={(event) => setSeveral(event.clipboardData.getData('text').trim().includes('\n'))}
          onKeyDown={(event) => {
            if (event.key === 'Enter' && !event.shiftKey && !event.nativeEvent.isComposing) {
              event.preventDefault();
              if (typed.trim() === '') return;
              void store(lines.length > 1 ? lines : [typed]);
              goBack();
            }
            if (event.key === 'Escape') {
              event.preventDefault();
              goBack();
            }
          }}
          className="written min-w-0 flex-1 resize-none bg-transparent py-1.5 max-md:basis-[60%] text-[16px] leading-[1.45] outline-none placeholder:overflow-hidden placeholder:text-ellipsis placeholder:whitespace-nowrap placeholder:italic"
        />
        {typed && reading ? (
          <>
            <ReadAs reading={reading} said={said} onSay={setSaid} />
            <Button onClick={() => void store(lines.length > 1 ? lines : [typed])}>
              Catch {!narrow && <Key>↵</Key>}
            </Button>
          </>
        ) : (
          <span className="flex shrink-0 items-center gap-3 text-[12.5px] text-second max-md:hidden">
            <button
              type="button"
              className="link"
              title="A prompt, a shape, a constraint or a question from your decks"
              onMouseDown={(event) => event.preventDefault()}
              onClick={() => drawCard(field.current)}
            >
              draw a card
            </button>
            {isBeside ? `lies beside P ${piece}` : 'lands in Sift'} <KeyOf act="all.catch" />
          </span>
        )}
      </div>
    </section>
  );
}

/** Whether what is caught is laid beside the piece that is open, or waits in Sift. */
function Beside({ piece, on, onChange }: { piece: number; on: boolean; onChange: (on: boolean) => void }) {
  return (
    <label className="flex min-h-6 items-center gap-1.5 text-[12.5px] whitespace-nowrap">
      <input
        type="checkbox"
        checked={on}
        onChange={(event) => onChange(event.target.checked)}
        className="h-4 w-4 accent-blue"
      />
      lay it beside P {piece}
    </label>
  );
}

/** How the server reads what is typed, a moment after it is. */
function useReading(typed: string): ReadAnswer | undefined {
  const [answer, setAnswer] = useState<ReadAnswer>();
  useEffect(() => {
    let wanted = true;
    const timer = setTimeout(
      () => {
        if (!typed.trim()) return setAnswer(undefined);
        ask(api.POST('/api/capture/reading', { body: { text: typed } }))
          .then((read) => wanted && setAnswer(read))
          // Without the server the line is kept all the same; only its reading has to wait.
          .catch(() => wanted && setAnswer(undefined));
      },
      typed ? 120 : 0,
    );
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [typed]);
  return answer;
}
