import { useCallback, useEffect, useRef, useState } from 'react';
import { Problem } from '../api/client';
import { keeping, type SaveState } from '../papers/keeping';

/** A text as it was loaded, with the version a save is based on. */
export type Versioned = { text: string; version: number };

/**
 * Saves a text a moment after typing pauses and on leaving. What is not yet on the server is kept in the browser; when the
 * server is away it is sent again until it answers.
 */
export function useAutosave(
  place: string,
  loaded: Versioned | undefined,
  save: (text: string, version: number) => Promise<Versioned>,
) {
  const [state, setShown] = useState<SaveState>('saved');
  const setState = useCallback(
    (next: SaveState) => {
      setShown(next);
      keeping(place, next);
    },
    [place],
  );
  const [text, setText] = useState<string>();
  const [clash, setClash] = useState<Versioned>();
  const [error, setError] = useState('');
  const now = useRef({ text: '', origin: '', version: -1, dirty: false, busy: false, place: '' });
  const timer = useRef(0);

  const running = useRef<Promise<void>>(Promise.resolve());

  /** Saves one after another. With a save of its own, which goes even when nothing is unsaved, a failure is also thrown. */
  const flush = useCallback(
    async (own?: typeof save): Promise<void> => {
      const it = now.current;
      clearTimeout(timer.current);
      // Who waits for a save waits for the one under way as well; a second one beside it would clash with the first.
      while (it.busy) await running.current;
      if (!it.dirty && !own) return;
      let over: () => void = () => undefined;
      running.current = new Promise((resolve) => (over = resolve));
      it.busy = true;
      if (it.dirty) setState('saving');
      const { text: sent, place: at } = it;
      let again = 0;
      try {
        const kept = await (own ?? save)(sent, it.version);
        if (it.place !== at) return;
        it.version = kept.version;
        it.origin = sent;
        setError('');
        if (it.text === sent) {
          it.dirty = false;
          localStorage.removeItem(at);
          setState('saved');
        } else again = 300;
      } catch (problem) {
        if (it.place !== at) return;
        if (problem instanceof Problem && problem.status === 409 && problem.current) {
          setClash(problem.current as Versioned);
          setState('clash');
        } else {
          setError((problem as Error).message);
          if (it.dirty) setState('kept');
          again = 2_000;
        }
        if (own) throw problem;
      } finally {
        it.busy = false;
        over();
        if (again) timer.current = window.setTimeout(() => void flush(), again);
      }
    },
    [save, setState],
  );

  useEffect(() => {
    if (!loaded) return;
    const it = now.current;
    if (it.place !== place) {
      // Something else is shown now: begin with what this browser still holds of it, if anything.
      const held = localStorage.getItem(place);
      const rest = held === null ? null : (JSON.parse(held) as Versioned);
      now.current = {
        text: rest?.text ?? loaded.text,
        origin: loaded.text,
        version: rest?.version ?? loaded.version,
        dirty: rest !== null && rest.text !== loaded.text,
        busy: false,
        place,
      };
      setText(now.current.text);
      setClash(undefined);
      setState(now.current.dirty ? 'kept' : 'saved');
      if (now.current.dirty) void flush();
    } else if (!it.dirty && !it.busy && loaded.version > it.version) {
      it.text = loaded.text;
      it.origin = loaded.text;
      it.version = loaded.version;
      setText(loaded.text);
    }
  }, [loaded, place, flush, setState]);

  const change = (next: string) => {
    const it = now.current;
    it.text = next;
    it.dirty = true;
    setText(next);
    setState('typing');
    localStorage.setItem(place, JSON.stringify({ text: next, version: it.version }));
    clearTimeout(timer.current);
    timer.current = window.setTimeout(() => void flush(), 700);
  };

  /** Decides a clash: this text goes on top of what the server has. */
  const settle = (chosen: string) => {
    if (!clash) return;
    now.current.version = clash.version;
    now.current.origin = clash.text;
    setClash(undefined);
    change(chosen);
    void flush();
  };

  useEffect(() => {
    const leave = () => void flush();
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      void flush();
    };
  }, [flush]);

  /** The text that this one and the other grew out of. */
  const origin = () => now.current.origin;
  return { origin, text: text ?? loaded?.text ?? '', change, state, clash, settle, error, flush };
}
