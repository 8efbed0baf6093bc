import { useQueries } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState, type ReactNode } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { api, ask } from '../../api/client';
import { Failed, Loading } from '../../ui/States';
import { minutes } from '../../ui/dates';

const sizes = [28, 34, 42, 52, 64];
const slowest = 60;
const fastest = 400;

type Look = { size: number; isMirrored: boolean; isDark: boolean };
const place = 'nachlass.reading';
const kept = (): Look => ({
  size: 2,
  isMirrored: false,
  isDark: true,
  ...(JSON.parse(localStorage.getItem(place) ?? '{}') as Partial<Look>),
});

/** A piece, or several one after the other, in large type: it scrolls at the reader's pace and counts down. */
export default function ReadingPage() {
  const numbers = (useParams().pieces ?? '')
    .split(',')
    .map(Number)
    .filter((one) => one > 0);
  const [asked, setAsked] = useSearchParams();
  const at = Math.min(Math.max(0, Number(asked.get('at') ?? 0)), Math.max(0, numbers.length - 1));
  const all = useQueries({
    queries: numbers.map((number) => ({
      queryKey: ['piece', number, 'reading'],
      queryFn: () => ask(api.GET('/api/pieces/{number}/reading', { params: { path: { number: String(number) } } })),
    })),
  });
  const failed = all.find((one) => one.error);
  if (numbers.length === 0) return <Failed error={new Error('The address names no piece to read.')} />;
  if (failed?.error) return <Failed error={failed.error} onRetry={() => void failed.refetch()} />;
  const piece = all[at]?.data;
  if (!piece) return <Loading what="Opening the text" />;
  const day = asked.get('day');
  return (
    <Reading
      key={piece.piece}
      piece={piece}
      place={numbers.length > 1 ? `${at + 1} of ${numbers.length}` : ''}
      next={at + 1 < numbers.length ? all[at + 1]?.data?.title : undefined}
      onTurn={(way) => {
        const to = at + way;
        if (to >= 0 && to < numbers.length) setAsked(day ? { at: String(to), day } : { at: String(to) });
      }}
      back={day ? `/shooting/${day}` : `/bench/${piece.piece}`}
    />
  );
}

type Piece = {
  piece: number;
  title: string;
  words: number;
  pace: { words: number; readings: number };
  sections: readonly { title: string; depth: number; paragraphs: readonly string[]; words: number }[];
};

function Reading({
  piece,
  place: nth,
  next,
  onTurn,
  back,
}: {
  piece: Piece;
  place: string;
  next: string | undefined;
  onTurn: (way: 1 | -1) => void;
  back: string;
}) {
  const [look, setLook] = useState<Look>(kept);
  const [pace, setPace] = useState(Math.round(piece.pace.words));
  const [isRunning, setRunning] = useState(false);
  const [left, setLeft] = useState((piece.words / piece.pace.words) * 60);
  const [told, setTold] = useState('');
  const sheet = useRef<HTMLDivElement>(null);
  const text = useRef<HTMLDivElement>(null);
  const run = useRef({ pace, from: 0, since: 0, exact: 0 });
  const navigate = useNavigate();
  useEffect(() => {
    run.current.pace = pace;
  }, [pace]);
  const change = (more: Partial<Look>) =>
    setLook((before) => {
      const whole = { ...before, ...more };
      localStorage.setItem(place, JSON.stringify(whole));
      return whole;
    });
  /** Where of the text the reading line stands, 0 to 1. */
  const share = useCallback(() => {
    const [box, inside] = [sheet.current, text.current];
    if (!box || !inside) return 0;
    return Math.min(1, Math.max(0, box.scrollTop / Math.max(1, inside.offsetHeight)));
  }, []);
  const count = useCallback(() => setLeft((piece.words * (1 - share()) * 60) / run.current.pace), [piece.words, share]);

  useEffect(() => {
    if (!isRunning) return;
    const box = sheet.current!;
    let frame = 0;
    let before = performance.now();
    const it = run.current;
    it.exact = box.scrollTop;
    it.from = share();
    it.since = before;
    const step = (now: number) => {
      const pixels = (text.current!.offsetHeight / Math.max(1, piece.words)) * (it.pace / 60_000);
      // A hand may have scrolled meanwhile.
      if (Math.abs(box.scrollTop - it.exact) > 2) it.exact = box.scrollTop;
      it.exact += pixels * Math.min(100, now - before);
      before = now;
      box.scrollTop = it.exact;
      count();
      if (share() >= 1) setRunning(false);
      else frame = requestAnimationFrame(step);
    };
    frame = requestAnimationFrame(step);
    return () => {
      cancelAnimationFrame(frame);
      const seconds = (performance.now() - it.since) / 1000;
      const words = Math.round(piece.words * (share() - it.from));
      void ask(api.POST('/api/reading-pace', { body: { words, seconds } })).then(
        (learned) =>
          learned.readings > 0 &&
          setTold(
            `read at ${Math.round((words / Math.max(1, seconds)) * 60)}; your pace is ${Math.round(learned.words)}`,
          ),
        () => undefined,
      );
    };
  }, [isRunning, piece.words, share, count]);

  const goTo = useCallback(
    (way: 1 | -1) => {
      const box = sheet.current!;
      const heads = [...box.querySelectorAll<HTMLElement>('[data-section]')];
      const line = box.scrollTop + box.clientHeight * 0.35;
      const to =
        way === 1
          ? heads.find((head) => head.offsetTop > line + 4)
          : heads.findLast((head) => head.offsetTop < line - 40);
      box.scrollTop = to ? to.offsetTop - box.clientHeight * 0.35 : way === 1 ? box.scrollHeight : 0;
      count();
    },
    [count],
  );

  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (target.closest('input, select') || event.ctrlKey || event.altKey || event.metaKey) return;
      const act = {
        ' ': () => setRunning((running) => !running),
        ArrowDown: () => goTo(1),
        ArrowUp: () => goTo(-1),
        ArrowRight: () => setPace((now) => Math.min(fastest, now + 5)),
        ArrowLeft: () => setPace((now) => Math.max(slowest, now - 5)),
        PageDown: () => onTurn(1),
        PageUp: () => onTurn(-1),
        n: () => onTurn(1),
        m: () => change({ isMirrored: !look.isMirrored }),
        d: () => change({ isDark: !look.isDark }),
        '+': () => change({ size: Math.min(sizes.length - 1, look.size + 1) }),
        '-': () => change({ size: Math.max(0, look.size - 1) }),
        Escape: () => void navigate(back),
      }[event.key];
      if (!act) return;
      // A button that has the keys is pressed by Space as any other.
      if (event.key === ' ' && target.closest('button, a')) return;
      event.preventDefault();
      act();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [goTo, onTurn, navigate, back, look]);

  return (
    <div
      data-theme={look.isDark ? 'dark' : 'light'}
      className={`fixed inset-0 z-50 flex flex-col ${look.isDark ? 'bg-[#0e1210] text-[#e9ece8]' : 'bg-white text-[#1b2421]'}`}
    >
      <main
        ref={sheet}
        tabIndex={0}
        aria-label={`${piece.title}, to be read aloud`}
        onScroll={() => !isRunning && count()}
        onClick={() => setRunning((running) => !running)}
        className="relative min-h-0 flex-1 overflow-y-auto outline-none"
        style={{ transform: look.isMirrored ? 'scaleX(-1)' : undefined }}
      >
        <span aria-hidden className="pointer-events-none fixed top-[35%] left-1 text-[20px] opacity-70">
          ▸
        </span>
        <div aria-hidden className="h-[35%]" />
        <div
          ref={text}
          className="written mx-auto max-w-[22em] px-6 leading-[1.45]"
          style={{ fontSize: `min(${sizes[look.size]}px, 9vw)` }}
        >
          <h1 data-section className="text-[0.8em] font-semibold opacity-80">
            {piece.title}
          </h1>
          {piece.sections.map((section, nth) => (
            <section key={nth}>
              {section.title && (
                <h2 data-section className="mt-[1.2em] font-sans text-[0.5em] font-semibold opacity-80">
                  {section.title}
                </h2>
              )}
              {section.paragraphs.map((paragraph, at) => (
                <p key={at} className="mt-[0.6em]">
                  {paragraph}
                </p>
              ))}
            </section>
          ))}
          {piece.sections.length === 0 && <p className="mt-[0.6em]">There is nothing to read in it yet.</p>}
        </div>
        <div aria-hidden className="h-[65%]" />
      </main>
      <footer className="flex flex-wrap items-center gap-x-3 gap-y-0 border-t border-current/25 px-4 py-1">
        <Press title="Space" onPress={() => setRunning(!isRunning)}>
          {isRunning ? 'Stop' : 'Go'}
        </Press>
        <span className="figures text-[15px] font-bold" role="timer" aria-label={`${minutes(Math.round(left))} left`}>
          {minutes(Math.round(left))}
        </span>
        <span className="flex items-center">
          <Press title="Slower: ←" onPress={() => setPace(Math.max(slowest, pace - 5))}>
            –
          </Press>
          <span className="figures text-[13px] whitespace-nowrap">{pace} words a minute</span>
          <Press title="Faster: →" onPress={() => setPace(Math.min(fastest, pace + 5))}>
            +
          </Press>
        </span>
        {told && <span className="text-[12.5px] opacity-80">{told}</span>}
        <span className="ml-auto flex flex-wrap items-center">
          <Press title="Up: the section before" onPress={() => goTo(-1)}>
            section ↑
          </Press>
          <Press title="Down: the next section" onPress={() => goTo(1)}>
            section ↓
          </Press>
          {nth && (
            <Press title={next ? `N: ${next}` : 'This is the last one'} onPress={() => onTurn(1)}>
              next piece
            </Press>
          )}
          {nth && <span className="figures px-1 text-[12.5px]">{nth}</span>}
          <Press title="Minus" onPress={() => change({ size: Math.max(0, look.size - 1) })}>
            smaller
          </Press>
          <Press title="Plus" onPress={() => change({ size: Math.min(sizes.length - 1, look.size + 1) })}>
            larger
          </Press>
          <Press title="M" onPress={() => change({ isMirrored: !look.isMirrored })} isOn={look.isMirrored}>
            mirrored
          </Press>
          <Press title="D" onPress={() => change({ isDark: !look.isDark })} isOn={look.isDark}>
            dark
          </Press>
          <Link to={back} className="inline-flex min-h-9 items-center px-2 text-[13px] font-semibold hover:underline">
            leave
          </Link>
        </span>
      </footer>
    </div>
  );
}

function Press({
  title,
  isOn,
  onPress,
  children,
}: {
  title: string;
  isOn?: boolean;
  onPress: () => void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      title={title}
      aria-pressed={isOn}
      onClick={onPress}
      className={`min-h-9 px-2 text-[13px] font-semibold whitespace-nowrap underline-offset-4 hover:underline ${isOn ? 'underline' : ''}`}
    >
      {children}
    </button>
  );
}
