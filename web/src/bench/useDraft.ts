import { useCallback, useEffect, useRef, useState } from 'react';
import { api, ask, done, Problem, type Done, type Draft } from '../api/client';
import { onChanged, onLine } from '../api/events';
import { queryClient } from '../api/queries';
import type { SaveState } from '../ui/useAutosave';
import { keepDraft, keptDraft, releaseDraft } from './keptDrafts';

const pause = 700;

/**
 * A piece's draft between editor and server. Every keystroke is held in the browser at once and sent after a pause; the
 * outline's changes are made by the server on the newest text and come back as text. A draft that changed in two places
 * is shown as both texts.
 */
export function useDraft(piece: number) {
  const [draft, setDraft] = useState<Draft>();
  const [state, setState] = useState<SaveState>('saved');
  const [error, setError] = useState<Error>();
  const [clash, setClash] = useState<Draft>();
  /** Text the editor has to show, when it did not write it itself. */
  const [shown, setShown] = useState<{ text: string; change: number }>();
  const now = useRef({ text: '', version: 0, dirty: false, loaded: false, own: new Set<number>() });
  const timer = useRef(0);
  const line = useRef<Promise<unknown>>(Promise.resolve());

  const show = useCallback((text: string) => setShown((before) => ({ text, change: (before?.change ?? 0) + 1 })), []);

  const take = useCallback(
    (next: Draft) => {
      now.current.text = next.text;
      now.current.version = next.version;
      now.current.dirty = false;
      setDraft(next);
      show(next.text);
      setState('saved');
    },
    [show],
  );

  /** Sends what was written; does nothing when all is sent. */
  const send = useCallback(async () => {
    const it = now.current;
    if (!it.dirty || !it.loaded) return;
    const sent = it.text;
    setState('saving');
    try {
      const { answer, command } = await done(
        api.PUT('/api/pieces/{number}/draft', {
          params: { path: { number: String(piece) } },
          body: { text: sent, version: it.version },
        }),
      );
      it.own.add(command);
      it.version = answer.version;
      it.dirty = it.text !== sent;
      setDraft(answer);
      setError(undefined);
      await releaseDraft(piece, sent);
      setState(it.dirty ? 'typing' : 'saved');
      if (it.dirty) plan(pause);
    } catch (problem) {
      if (problem instanceof Problem && problem.status === 409 && problem.current) {
        setClash(problem.current as Draft);
        setState('clash');
      } else {
        setError(problem as Error);
        setState('kept');
        if (problem instanceof Problem && problem.isAway) plan(2_000);
      }
    }
    function plan(wait: number) {
      clearTimeout(timer.current);
      timer.current = window.setTimeout(() => void flush.current(), wait);
    }
  }, [piece]);

  /** One after the other, so that each is based on what the one before it made. */
  const queued = useCallback(<T>(act: () => Promise<T>): Promise<T> => {
    const result = line.current.then(act);
    line.current = result.catch(() => undefined);
    return result;
  }, []);
  const flush = useRef<() => Promise<unknown>>(() => Promise.resolve());
  useEffect(() => {
    flush.current = () => queued(send);
  }, [queued, send]);

  useEffect(() => {
    const it = now.current;
    let here = true;
    it.loaded = false;
    it.dirty = false;
    void (async () => {
      try {
        const kept = await keptDraft(piece);
        const loaded = await ask(
          api.GET('/api/pieces/{number}/draft', { params: { path: { number: String(piece) } } }),
        );
        if (!here) return;
        take(loaded);
        it.loaded = true;
        if (kept && kept.text !== loaded.text) {
          // Written while the server was away, and not sent yet.
          it.text = kept.text;
          it.version = kept.version;
          it.dirty = true;
          show(kept.text);
          void flush.current();
        }
      } catch (problem) {
        if (here) setError(problem as Error);
      }
    })();
    const leave = () => void flush.current();
    window.addEventListener('pagehide', leave);
    return () => {
      here = false;
      window.removeEventListener('pagehide', leave);
      clearTimeout(timer.current);
      void flush.current();
    };
  }, [piece, take, show]);

  useEffect(
    () =>
      onChanged((changed) => {
        const it = now.current;
        if (
          !changed.areas.some((area) => area === 'draft' || area === 'section' || area === 'material') ||
          it.own.has(changed.command) ||
          it.dirty ||
          !it.loaded
        )
          return;
        void queued(async () => {
          const newest = await ask(
            api.GET('/api/pieces/{number}/draft', { params: { path: { number: String(piece) } } }),
          );
          if (it.dirty) return;
          if (newest.version > it.version && newest.text !== it.text) take(newest);
          else setDraft(newest);
          it.version = newest.version;
        }).catch(() => undefined);
      }),
    [piece, queued, take],
  );
  useEffect(() => onLine((open) => open && void flush.current()), []);

  const write = useCallback(
    (text: string) => {
      const it = now.current;
      if (text === it.text) return;
      it.text = text;
      it.dirty = true;
      setState('typing');
      void keepDraft({ piece, text, version: it.version });
      clearTimeout(timer.current);
      timer.current = window.setTimeout(() => void flush.current(), pause);
    },
    [piece],
  );

  /** Makes a change to the outline on the newest text. */
  const outline = useCallback(
    (change: (version: number) => Promise<Done<Draft>>): Promise<Done<Draft>> =>
      queued(async () => {
        await send();
        if (now.current.dirty)
          throw new Problem(0, 'The draft has to reach the server before its outline can be changed.');
        const made = await change(now.current.version);
        now.current.own.add(made.command);
        if (now.current.dirty) {
          // Typed while the outline changed: both are there, and the writer decides.
          setClash(made.answer);
          setState('clash');
        } else take(made.answer);
        void queryClient.invalidateQueries({ predicate: (query) => query.queryKey[0] !== 'draft' });
        return made;
      }),
    [queued, send, take],
  );

  /** Decides a clash: this text goes on top of what the server has. */
  const settle = useCallback(
    (text: string) => {
      const it = now.current;
      if (!clash) return;
      it.version = clash.version;
      it.text = text;
      it.dirty = true;
      setClash(undefined);
      show(text);
      void keepDraft({ piece, text, version: it.version });
      void flush.current();
    },
    [clash, piece, show],
  );

  const mine = () => now.current.text;
  return { draft, state, error, shown, clash, settle, write, outline, mine, flush: () => flush.current() };
}
