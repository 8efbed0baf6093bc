import { replaceEqualDeep } from '@tanstack/react-query';
import { startTransition, useCallback, useEffect, useReducer, useRef, useState } from 'react';
import { api, ask, done, Problem, soonAgain, type Anchor, type Done, type Draft, type Merged } from '../api/client';
import { onChanged, onLine } from '../api/events';
import { keys, queryClient } from '../api/queries';
import { keeping, type SaveState } from '../papers/keeping';
import { complain, say } from '../papers/notices';
import type { DraftHandle, Snapshot } from './DraftEditor';
import { difference, hashOf } from '../text/difference';
import { keepDraft, keepDraftNow, keptDraft, releaseDraft } from './keptDrafts';

/** A pause this long ends a step of writing and sends it. */
const pause = 600;
/** Whoever never pauses is sent for all the same. */
const longest = 5_000;
/** So soon after a key the text is held in this browser. */
const holding = 60;

/** Two texts that the writer has to decide between. */
export type Clash = { merged: Merged; theirs: Draft };

const readDraft = (piece: number): Promise<Draft> =>
  ask(api.GET('/api/pieces/{number}/draft', { params: { path: { number: String(piece) } } }));

/** Sends a text as what was changed in it; whole, where the server does not come to the same text. */
async function save(
  piece: number,
  { base, version }: { base: string; version: number },
  text: string,
  anchors: Anchor[] | undefined,
  pasted: number,
): Promise<Done<Draft>> {
  const params = { path: { number: String(piece) } };
  const change = difference(base, text);
  try {
    return await done(
      api.PATCH('/api/pieces/{number}/draft', {
        params,
        body: { version, changes: change ? [change] : [], hash: hashOf(text), anchors, pasted },
      }),
    );
  } catch (problem) {
    if (!(problem instanceof Problem && problem.status === 400)) throw problem;
    return done(api.PUT('/api/pieces/{number}/draft', { params, body: { text, version, anchors } }));
  }
}

/**
 * A piece's draft between editor and server. Each pause in writing is a step on the server, and so are the outline's changes; back and
 * forward walk over all of them, the same in every tab. What is not sent yet is held in the browser. Two texts that changed at once
 * are laid over each other, and the writer decides only where they truly differ.
 */
export function useDraft(piece: number) {
  const place = `draft.${piece}`;
  // What is the same stays the same object, so that only what changed is drawn again.
  const [draft, setDraft] = useReducer(
    (before: Draft | undefined, next: Draft) => replaceEqualDeep(before, next) as Draft,
    undefined,
  );
  const [error, setError] = useState<Error>();
  const [clash, setClash] = useState<Clash>();
  const editor = useRef<DraftHandle>(undefined);
  const it = useRef({
    /** What the server has, as far as this tab knows. */
    base: '',
    version: 0,
    /** What is written here; null when the server has all of it. */
    written: undefined as Snapshot | undefined,
    since: 0,
    isClashing: false,
    /** Words that came by pasting and are not sent. */
    pasted: 0,
    /** Commands this page has run, until the server tells of them. */
    own: new Set<number>(),
    /** Typed in another sitting and not sent: shown as soon as there is an editor. */
    held: undefined as string | undefined,
  });
  const timers = useRef({ send: 0, hold: 0, around: 0 });
  const line = useRef<Promise<unknown>>(Promise.resolve());
  const path = { number: String(piece) };

  const state = useCallback((next: SaveState) => keeping(place, next), [place]);

  /** One after the other, so that each is based on what the one before it made. */
  const queued = useCallback(<T>(act: () => Promise<T>): Promise<T> => {
    const result = line.current.then(act);
    line.current = result.catch(() => undefined);
    return result;
  }, []);

  const take = useCallback(
    (next: Draft, toChange = false) => {
      it.current.base = next.text;
      it.current.version = next.version;
      it.current.written = undefined;
      setDraft(next);
      editor.current?.show(next, toChange);
      state('saved');
    },
    [state],
  );

  const held = useCallback(() => {
    const { written, version, base } = it.current;
    if (!written) return undefined;
    return { piece, text: written.text(), anchors: written.anchors(), version, base, at: Date.now() };
  }, [piece]);

  /** Reads anew what writing changes besides the draft; the rest of the papers is as it was. */
  const refreshAround = useCallback(() => {
    clearTimeout(timers.current.around);
    for (const of of [keys.piece, keys.material, keys.links, keys.history])
      void queryClient.invalidateQueries({ queryKey: of(piece) });
    for (const key of [keys.pieces(), keys.tally]) void queryClient.invalidateQueries({ queryKey: key });
  }, [piece]);

  /** Lays two texts over each other; takes them both when neither is in the other's way. */
  const merge = useCallback(
    async (theirs: Draft): Promise<void> => {
      for (;;) {
        const mine = it.current.written;
        if (!mine) return;
        const merged = await ask(
          api.POST('/api/texts/compare', {
            body: { origin: it.current.base || undefined, mine: mine.text(), theirs: theirs.text },
          }),
        );
        // Typed meanwhile: look again.
        if (!mine.same(it.current.written)) continue;
        if (merged.text === null) {
          it.current.isClashing = true;
          setClash({ merged, theirs });
          state('clash');
          return;
        }
        it.current.base = theirs.text;
        it.current.version = theirs.version;
        editor.current?.replace(merged.text);
        it.current.written = editor.current?.send();
        say('This piece was changed in two places at once. Both changes are in the text.');
        return;
      }
    },
    [state],
  );

  /** Sends what was written; does nothing when all is sent. */
  const send = useCallback(async (): Promise<void> => {
    for (let again = 0; again < 3; again++) {
      const now = it.current;
      if (!now.written || now.isClashing) return;
      clearTimeout(timers.current.send);
      // From a merge on nobody has followed the sections; the server knows them again by their headings.
      const sent = editor.current ? editor.current.send() : now.written;
      const text = sent.text();
      // From here on the longest wait is counted anew; what is typed meanwhile is no reason to send again at once.
      now.since = Date.now();
      state('saving');
      try {
        const { pasted } = now;
        const { answer, command } = await save(piece, now, text, again === 0 ? sent.anchors() : undefined, pasted);
        now.pasted -= pasted;
        now.own.add(command);
        now.version = answer.version;
        now.base = text;
        const isAll = sent.same(now.written) || now.written === undefined;
        if (isAll) now.written = undefined;
        // Whoever types on meanwhile is not kept waiting for the outline and the counts.
        startTransition(() => setDraft({ ...answer, text }));
        editor.current?.counted(answer);
        setError(undefined);
        await releaseDraft(piece, text);
        state(isAll ? 'saved' : 'typing');
        if (!isAll) plan.current(pause);
        // Asked for with each save of one who writes on, what stands around the draft would cost keys.
        clearTimeout(timers.current.around);
        timers.current.around = window.setTimeout(refreshAround, pause);
        return;
      } catch (problem) {
        if (problem instanceof Problem && problem.status === 409 && problem.current) {
          await merge(problem.current as Draft);
          continue;
        }
        setError(problem as Error);
        state('kept');
        // Not with every letter that is typed meanwhile.
        now.since = Date.now();
        const later = soonAgain(problem);
        if (later) plan.current(later);
        if (!(problem instanceof Problem && problem.isAway)) complain(problem);
        return;
      }
    }
  }, [piece, merge, state, refreshAround]);

  const flush = useCallback(() => queued(send), [queued, send]);
  const plan = useRef<(wait: number) => void>(() => undefined);
  useEffect(() => {
    plan.current = (wait) => {
      clearTimeout(timers.current.send);
      timers.current.send = window.setTimeout(() => void flush(), wait);
    };
  }, [flush]);

  useEffect(() => {
    const now = it.current;
    const waiting = timers.current;
    let here = true;
    void (async () => {
      try {
        const kept = await keptDraft(piece);
        const loaded = await readDraft(piece);
        if (!here) return;
        now.base = loaded.text;
        now.version = loaded.version;
        if (kept && kept.text !== loaded.text) {
          // Written while the server was away or the page went, and not sent yet.
          now.base = kept.base ?? (kept.version === loaded.version ? loaded.text : '');
          now.version = kept.version;
          now.held = kept.text;
        } else if (kept) void releaseDraft(piece, kept.text);
        setDraft(loaded);
      } catch (problem) {
        if (here) setError(problem as Error);
      }
    })();
    const leave = () => {
      const last = held();
      if (last) keepDraftNow(last);
      void flush();
    };
    window.addEventListener('pagehide', leave);
    return () => {
      here = false;
      window.removeEventListener('pagehide', leave);
      clearTimeout(waiting.send);
      clearTimeout(waiting.hold);
      const last = held();
      if (last) keepDraftNow(last);
      void flush().then(() => {
        keeping(place, now.written ? 'kept' : 'saved');
        refreshAround();
      });
    };
  }, [piece, flush, held, place, refreshAround]);

  /** The editor is there. */
  const attach = useCallback(
    (handle: DraftHandle | undefined) => {
      editor.current = handle;
      const now = it.current;
      if (!handle || now.held === undefined) return;
      handle.replace(now.held);
      now.held = undefined;
      now.written = handle.send();
      void flush();
    },
    [flush],
  );

  useEffect(
    () =>
      onChanged((changed) => {
        const now = it.current;
        if (!changed.areas.some((area) => area === 'draft' || area === 'section' || area === 'material')) return;
        // What this page has done itself it knows by now, since its answers come first in the queue; a step that was taken back from a
        // notice is news to it, though the same tab asked for it.
        void queued(async () => {
          if (now.own.delete(changed.command)) return;
          if (now.written || now.version === 0) return;
          const newest = await readDraft(piece);
          if (now.written) return;
          if (newest.version > now.version) take(newest);
          else setDraft(newest);
        }).catch(() => undefined);
      }),
    [piece, queued, take],
  );
  useEffect(() => onLine((open) => open && void flush()), [flush]);

  const write = useCallback(
    (snapshot: Snapshot) => {
      const now = it.current;
      if (!now.written) now.since = Date.now();
      now.written = snapshot;
      if (now.isClashing) return;
      clearTimeout(timers.current.around);
      state('typing');
      clearTimeout(timers.current.hold);
      timers.current.hold = window.setTimeout(() => {
        const last = held();
        if (last) void keepDraft(last);
      }, holding);
      plan.current(Math.min(pause, Math.max(0, now.since + longest - Date.now())));
    },
    [held, state],
  );

  /** Words came by pasting: nobody wrote them here. */
  const pasted = useCallback((text: string) => {
    it.current.pasted += text.split(/[\s—–]+/).filter((word) => /[\p{L}\p{N}]/u.test(word)).length;
  }, []);

  /** Runs a command that changes the draft on the newest text, and shows what came of it. */
  const onNewest = useCallback(
    <T>(act: (version: number) => Promise<Done<T>>, made: (answer: T) => Draft, toChange = false): Promise<Done<T>> =>
      queued(async () => {
        await send();
        if (it.current.written)
          throw new Problem(0, 'The draft has to reach the server before this can be done. Nothing was lost.');
        const result = await act(it.current.version);
        it.current.own.add(result.command);
        const now = made(result.answer);
        if (it.current.written) await merge(now);
        else take(now, toChange);
        void queryClient.invalidateQueries({ predicate: (query) => query.queryKey[0] !== 'draft' });
        return result;
      }),
    [queued, send, take, merge],
  );

  /** Makes a change to the outline. */
  const outline = useCallback(
    (change: (version: number) => Promise<Done<Draft>>) => onNewest(change, (answer) => answer),
    [onNewest],
  );

  /** One step back or forward, over draft, outline and material in the order in which they happened. */
  const step = useCallback(
    async (way: 'back' | 'forward'): Promise<void> => {
      try {
        const { answer } = await onNewest(
          () =>
            done(
              api.POST(way === 'back' ? '/api/pieces/{number}/back' : '/api/pieces/{number}/forward', {
                params: { path: { number: String(piece) } },
              }),
            ),
          (stepped) => stepped.draft,
          true,
        );
        // What happens in the text can be seen there; the rest is said.
        if (!answer.what.includes(`wrote in P ${piece}`))
          say(answer.what.charAt(0).toUpperCase() + answer.what.slice(1) + '.');
      } catch (problem) {
        if (problem instanceof Problem && problem.isAway) editor.current?.local(way);
        else complain(problem);
      }
    },
    [onNewest, piece],
  );

  /** Decides a clash: this text goes on top of what the server has. */
  const settle = useCallback(
    (text: string) => {
      const now = it.current;
      if (!clash) return;
      now.base = clash.theirs.text;
      now.version = clash.theirs.version;
      now.isClashing = false;
      setClash(undefined);
      editor.current?.replace(text);
      now.written = editor.current?.send();
      void flush();
    },
    [clash, flush],
  );

  return { draft, error, clash, settle, write, pasted, outline, onNewest, step, attach, flush, editor, path };
}
