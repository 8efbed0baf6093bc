import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { api, ask, done, type ShownLine } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { carryOut, complain, say } from '../papers/notices';
import { Button } from '../ui/Button';
import { Loading } from '../ui/States';
import { useHeld } from '../ui/useField';

/** What was said, line by line; neighbouring lines that are chosen become a passage with their times. */
export function TranscriptPart({ source, lines: count }: { source: number; lines: number }) {
  const [putting, setPutting] = useState(false);
  const path = { number: String(source) };
  const lines = useQuery({
    queryKey: keys.transcript(source),
    queryFn: () => ask(api.GET('/api/sources/{number}/transcript', { params: { path } })),
    enabled: count > 0,
  });
  return (
    <section className="mt-7" aria-label="Transcript">
      <h2 className="label flex items-baseline justify-between border-b border-hair pb-1 text-second">
        <span>Transcript {count > 0 && `· ${count} lines`}</span>
        <span className="flex gap-4 text-[12.5px] font-semibold tracking-normal normal-case">
          {count > 0 && (
            <>
              <a className="link" href={`/api/exports/transcripts/${source}.vtt`} download>
                WebVTT
              </a>
              <a className="link" href={`/api/exports/transcripts/${source}.srt`} download>
                SRT
              </a>
            </>
          )}
          <button type="button" className="link" onClick={() => setPutting(!putting)}>
            {count > 0 ? 'replace' : 'add one'}
          </button>
        </span>
      </h2>
      {putting && <Put source={source} onDone={() => setPutting(false)} />}
      {count > 0 && (lines.data ? <Lines source={source} lines={lines.data} /> : <Loading what="The transcript" />)}
    </section>
  );
}

function Put({ source, onDone }: { source: number; onDone: () => void }) {
  const [text, setText] = useHeld(`source.${source}.transcript`);
  const [error, setError] = useState('');
  const put = async () => {
    try {
      const { answer, command } = await done(
        api.PUT('/api/sources/{number}/transcript', { params: { path: { number: String(source) } }, body: { text } }),
      );
      const bad = answer.unread.length;
      say(
        `${answer.lines} ${answer.lines === 1 ? 'line' : 'lines'} taken in${bad ? `; ${bad} could not be read, the first on line ${answer.unread[0]!.line}` : ''}.`,
        command,
      );
      setText('');
      await queryClient.invalidateQueries();
      onDone();
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  return (
    <form
      className="mt-2 border border-hair bg-quiet p-3"
      onSubmit={(event) => {
        event.preventDefault();
        void put();
      }}
    >
      <textarea
        autoFocus
        aria-label="The transcript"
        rows={6}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onDrop={(event) => {
          const file = event.dataTransfer.files[0];
          if (!file) return;
          event.preventDefault();
          void file.text().then(setText, complain);
        }}
        placeholder={'WebVTT, SRT, or lines such as\n12:40 The bell was on the wrong bank.'}
        className="written block w-full resize-y bg-sheet p-2 text-[14px] outline-none"
      />
      {error && (
        <p role="alert" className="mt-1 text-red">
          {error} What you pasted is still here.
        </p>
      )}
      <span className="mt-2 flex gap-3">
        <Button type="submit" look="main" disabled={!text.trim()}>
          Take it in
        </Button>
        <label className="link cursor-pointer self-center">
          choose a file
          <input
            type="file"
            accept=".vtt,.srt,.txt"
            aria-label="A file with the transcript"
            className="sr-only"
            onChange={(event) => void event.target.files?.[0]?.text().then(setText, complain)}
          />
        </label>
        <Button look="quiet" onClick={onDone}>
          Leave it
        </Button>
      </span>
    </form>
  );
}

function Lines({ source, lines }: { source: number; lines: readonly ShownLine[] }) {
  const [params] = useSearchParams();
  const asked = params.has('at') ? Number(params.get('at')) * 1000 : undefined;
  const moment =
    asked === undefined
      ? -1
      : lines.findIndex((line) => line.from <= asked && asked < Math.max(line.to, line.from + 1000));
  const [chosen, setChosen] = useState<[number, number]>();
  const rows = useRef<HTMLOListElement>(null);
  const [first, last] = chosen ? [Math.min(...chosen), Math.max(...chosen)] : [0, -1];

  useEffect(() => {
    if (moment >= 0) rows.current?.children[moment]?.scrollIntoView({ block: 'center' });
  }, [moment]);

  const go = (to: number, extend: boolean) => {
    const line = lines[to - 1];
    if (!line) return;
    setChosen(extend && chosen ? [chosen[0], to] : [to, to]);
    (rows.current?.children[to - 1]?.firstElementChild as HTMLElement | undefined)?.focus();
  };
  const keep = async () => {
    await carryOut(
      done(
        api.POST('/api/sources/{number}/transcript/passages', {
          params: { path: { number: String(source) } },
          body: { first, last },
        }),
      ),
      (slip) => `Passage kept as slip ${slip.number}, ${slip.locator}.`,
    );
    setChosen(undefined);
    await queryClient.invalidateQueries();
  };
  return (
    <>
      <ol
        ref={rows}
        className="max-h-[420px] overflow-y-auto border-b border-hair"
        aria-label="Lines of the transcript"
      >
        {lines.map((line, at) => {
          const isChosen = line.position >= first && line.position <= last;
          const before = lines[at - 1];
          return (
            <li key={line.position} className="[content-visibility:auto] [contain-intrinsic-size:auto_28px]">
              <button
                type="button"
                aria-pressed={isChosen}
                onClick={(event) =>
                  setChosen(
                    event.shiftKey && chosen
                      ? [chosen[0], line.position]
                      : isChosen && first === last
                        ? undefined
                        : [line.position, line.position],
                  )
                }
                onKeyDown={(event) => {
                  if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
                    event.preventDefault();
                    go(line.position + (event.key === 'ArrowDown' ? 1 : -1), event.shiftKey);
                  }
                  if (event.key === 'Enter' && chosen) {
                    event.preventDefault();
                    void keep().catch(() => undefined);
                  }
                }}
                className={`flex w-full items-baseline gap-4 py-1 pr-2 text-left ${isChosen ? 'bg-wash' : 'hover:bg-quiet'} ${at === moment ? 'shadow-[inset_3px_0_var(--blue)]' : ''}`}
              >
                <span className="narrow figures w-14 shrink-0 text-right text-[12px] text-second">{line.clock}</span>
                <span className="written min-w-0 flex-1 text-[15px] leading-snug">
                  {line.speaker && line.speaker !== before?.speaker && (
                    <b className="mr-2 font-sans text-[12px] font-semibold">{line.speaker}</b>
                  )}
                  {line.text}
                </span>
                {line.passage !== null && (
                  <span className="narrow shrink-0 border-l-2 border-line pl-2 text-[11.5px] text-second">
                    slip {line.passage}
                  </span>
                )}
              </button>
            </li>
          );
        })}
      </ol>
      <p className="mt-2 flex items-center gap-4">
        <Button look={chosen ? 'main' : 'plain'} disabled={!chosen} onClick={() => void keep().catch(() => undefined)}>
          Keep as a passage
        </Button>
        <span className="text-[12.5px] text-second" role="status">
          {chosen
            ? `${last - first + 1} ${last === first ? 'line' : 'lines'} from ${lines[first - 1]!.clock}`
            : 'Choose a line, with Shift as far as the passage goes.'}
        </span>
      </p>
    </>
  );
}
