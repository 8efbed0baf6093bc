import { useEffect, useRef, useState } from 'react';
import { api, ask, type ReadAnswer, type SlipKind } from '../api/client';
import { complain } from '../papers/notices';
import { useKeys } from '../papers/keys';
import { ActionMenu } from '../ui/ActionMenu';
import { Button } from '../ui/Button';
import { Key } from '../ui/Key';
import { Mark } from '../ui/Mark';
import { nearDay } from '../ui/dates';
import { catchLines } from './outbox';

const place = 'nachlass.strip';
const kinds: SlipKind[] = ['idea', 'quote', 'question', 'takeaway', 'note', 'ask'];

/** The strip at the foot of every screen: a typed line is a slip, and the writer stays where they were. */
export function CaptureStrip() {
  const [typed, setTyped] = useState(() => localStorage.getItem(place) ?? '');
  const [overrule, setOverrule] = useState<SlipKind | 'move' | null>(null);
  const [several, setSeveral] = useState(false);
  const [error, setError] = useState('');
  const field = useRef<HTMLTextAreaElement>(null);
  const before = useRef<HTMLElement | null>(null);
  const answer = useReading(typed);

  useEffect(() => {
    if (typed) localStorage.setItem(place, typed);
    else localStorage.removeItem(place);
    const area = field.current;
    if (!area) return;
    area.style.height = 'auto';
    area.style.height = `${Math.min(area.scrollHeight, 180)}px`;
  }, [typed]);

  useKeys({
    c: () => {
      before.current = document.activeElement instanceof HTMLElement ? document.activeElement : null;
      const area = field.current;
      area?.focus();
      // Behind what was kept from before, to go on writing it.
      area?.setSelectionRange(area.value.length, area.value.length);
    },
  });

  const goBack = () => {
    field.current?.blur();
    const back = before.current;
    before.current = null;
    if (back?.isConnected && back !== document.body) back.focus();
  };

  const store = async (texts: string[]) => {
    const left = typed;
    setTyped('');
    setSeveral(false);
    setError('');
    try {
      await catchLines(
        texts.map((text) => ({
          text,
          asMove: overrule === 'move' ? true : overrule ? false : null,
          kind: overrule === 'move' ? null : overrule,
          ...(texts.length > 1 ? { origin: 'paste' as const } : {}),
        })),
      );
      setOverrule(null);
    } catch (problem) {
      // Refused: what was typed stands in the strip again.
      setTyped((now) => now || left);
      setError((problem as Error).message);
      complain(problem);
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
      <div className="flex min-h-[50px] items-center gap-4 px-6 py-1.5 max-md:gap-2 max-md:px-3">
        <label htmlFor="strip" className="label shrink-0 text-manila-ink">
          New slip
        </label>
        <textarea
          id="strip"
          ref={field}
          rows={1}
          value={typed}
          maxLength={500_000}
          placeholder="Write it down; a link, a “quotation”, a question? or a #topic is noticed as you type"
          onChange={(event) => {
            setTyped(event.target.value);
            setError('');
            if (!event.target.value) setOverrule(null);
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
          className="written min-w-0 flex-1 resize-none bg-transparent py-1.5 text-[16px] leading-[1.45] outline-none placeholder:overflow-hidden placeholder:text-ellipsis placeholder:whitespace-nowrap placeholder:italic"
        />
        {typed && reading ? (
          <>
            <span className="flex items-center gap-2.5 max-md:hidden">
              {reading.topics.map((topic) => (
                <span key={topic} className="narrow border-b-2 border-manila-edge text-[12px]">
                  {topic}
                </span>
              ))}
              {reading.becomes === 'source' && !overrule && (
                <span className="text-[12px] text-manila-ink">with its source</span>
              )}
              {reading.date && (reading.becomes === 'move' || overrule === 'move') && (
                <span className="text-[12px] text-manila-ink">{nearDay(reading.date)}</span>
              )}
            </span>
            <ActionMenu
              label="What it becomes"
              className="flex items-center gap-1.5 rounded-key border border-manila-edge px-2 py-1 text-[12.5px] font-semibold text-manila-ink"
              actions={[
                ...kinds.map((kind) => ({
                  key: kind,
                  label: (
                    <span className="flex items-center gap-2">
                      <Mark kind={kind} size={13} /> {kind}
                    </span>
                  ),
                  onChoose: () => setOverrule(kind),
                })),
                { key: 'move', label: 'a move, not a slip', onChoose: () => setOverrule('move') },
                { key: 'read', label: 'as it reads', onChoose: () => setOverrule(null) },
              ]}
            >
              {overrule === 'move' || (!overrule && reading.becomes === 'move') ? (
                'move'
              ) : (
                <>
                  <Mark kind={overrule ?? reading.kind} size={13} /> {overrule ?? reading.kind}
                </>
              )}
            </ActionMenu>
            <Button className="max-md:hidden" onClick={() => void store(lines.length > 1 ? lines : [typed])}>
              Catch <Key>↵</Key>
            </Button>
          </>
        ) : (
          <span className="flex shrink-0 items-center gap-3 text-[12.5px] text-second max-md:hidden">
            lands in Sift <Key>C</Key>
          </span>
        )}
      </div>
    </section>
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
