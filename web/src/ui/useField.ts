import { useCallback, useEffect, useRef, useState } from 'react';
import { Problem, api, ask, soonAgain } from '../api/client';
import { queryClient } from '../api/queries';
import { keeping } from '../papers/keeping';
import { saidAtField, say } from '../papers/notices';

/** So long after the last key a field saves itself. */
const pause = 1_500;
const prefix = 'nachlass.field.';

type Held = { text: string; from: string };

function heldAt(place: string): Held | null {
  try {
    return JSON.parse(localStorage.getItem(prefix + place) ?? 'null') as Held | null;
  } catch {
    return null;
  }
}

/** Whether something was typed into a field and is not kept by the server yet, so that a folded field opens to it. */
export const isHeld = (place: string): boolean => localStorage.getItem(prefix + place) !== null;

/**
 * The habit of every text field: what is typed is held in this browser at once, saves itself on leaving (a longer text also after a
 * pause; a name is not passed on half written), is sent again until the server answers, and is there again after a reload. Escape puts
 * back what stood there before, and that can be undone. Where another tab changed the same text meanwhile, both are shown.
 */
export function useField(
  place: string,
  value: string,
  onSave: (text: string) => Promise<unknown> | void,
  /** Whether a pause saves it too; a number, after how many milliseconds. */
  onPause: boolean | number = false,
) {
  const [typed, setTyped] = useState<string | null>(() => {
    const held = heldAt(place);
    return held && held.text !== value ? held.text : null;
  });
  const [error, setError] = useState('');
  const [clash, setClash] = useState<{ mine: string; theirs: string; origin: string }>();
  const now = useRef({
    typed,
    value,
    from: heldAt(place)?.from ?? value,
    before: value,
    saved: null as string | null,
    onSave,
    /** What stood here since the typing began that this field knows of: where it began, and what it sent. */
    known: new Set([(heldAt(place)?.from ?? value).trim()]),
    /** Whether the next text that comes in is what the server made of what was sent. */
    expects: false,
  });
  const timer = useRef(0);
  const line = useRef<Promise<unknown>>(Promise.resolve());
  useEffect(() => {
    const isNew = now.current.value !== value;
    now.current.onSave = onSave;
    now.current.value = value;
    // The server has it now, perhaps without a space at its end.
    if (now.current.typed === value || (isNew && now.current.typed === now.current.saved)) {
      now.current.typed = null;
      now.current.saved = null;
      setTyped(null);
    }
    if (isNew && now.current.expects) {
      now.current.known.add(value.trim());
      now.current.expects = false;
    }
    if (now.current.typed === null) {
      now.current.from = value;
      now.current.known = new Set([value.trim()]);
    }
  }, [onSave, value]);

  const letGo = useCallback(() => {
    localStorage.removeItem(prefix + place);
    keeping(place, 'saved');
  }, [place]);

  const save = useCallback(async (): Promise<void> => {
    clearTimeout(timer.current);
    const it = now.current;
    const sent = it.typed;
    if (sent === null) return;
    // Saved already; what came of it is on its way.
    if (sent === it.saved) return letGo();
    if (sent === it.value) {
      it.typed = null;
      setTyped(null);
      setError('');
      return letGo();
    }
    // Another tab's text came in meanwhile: with its version this one would pass, and take it away.
    if (!it.known.has(it.value.trim())) return quarrel.current();
    it.known.add(sent.trim());
    keeping(place, 'saving');
    const stood = it.value;
    for (let again = 0; ; again++)
      try {
        await it.onSave(sent);
        setError('');
        if (it.typed === sent && it.value !== stood) {
          // What the server made of it has come in before the answer did.
          it.typed = null;
          it.saved = null;
          it.from = it.value;
          it.known = new Set([it.value.trim()]);
          setTyped(null);
          return letGo();
        }
        it.from = sent;
        it.saved = sent;
        it.expects = it.value !== sent;
        if (it.typed === sent) letGo();
        else keeping(place, 'typing');
        return;
      } catch (problem) {
        if (problem instanceof Problem && problem.status === 409 && problem.current && again < 2) {
          await queryClient.invalidateQueries();
          await new Promise((resolve) => setTimeout(resolve, 60));
          // Something else about the same thing was changed: this text is as it was, and goes on top.
          if (it.value === it.from || it.value === sent) continue;
          return quarrel.current();
        }
        keeping(place, 'kept');
        const later = soonAgain(problem);
        if (later) timer.current = window.setTimeout(() => void flush.current(), later);
        saidAtField(problem);
        if (!(problem instanceof Problem && problem.isAway)) setError((problem as Error).message);
        return;
      }
  }, [place, letGo]);

  /** Lays both texts over each other: what only one changed is taken from that one; where both did, the writer decides. */
  const quarrel = useRef<() => Promise<void>>(() => Promise.resolve());
  useEffect(() => {
    quarrel.current = async () => {
      const it = now.current;
      const both = { mine: it.typed ?? it.value, theirs: it.value, origin: it.from };
      const merged = await ask(api.POST('/api/texts/compare', { body: both })).catch(() => undefined);
      if (it.typed !== both.mine || it.value !== both.theirs) return save();
      if (!merged || merged.parts.some((part) => part.by === 'both')) {
        setClash(both);
        keeping(place, 'clash');
        return;
      }
      it.from = it.value;
      it.known.add(it.value.trim());
      it.typed = merged.parts.map((part) => (part.by === 'theirs' ? part.theirs : part.mine)).join('');
      setTyped(it.typed);
      return save();
    };
  }, [place, save]);

  const flush = useRef<() => Promise<unknown>>(() => Promise.resolve());
  useEffect(() => {
    flush.current = () => {
      line.current = line.current.then(save, save);
      return line.current;
    };
  }, [save]);

  const change = useCallback(
    (text: string) => {
      const it = now.current;
      if (text !== it.saved) it.saved = null;
      it.typed = text;
      setTyped(text);
      setError('');
      try {
        localStorage.setItem(prefix + place, JSON.stringify({ text, from: it.from } satisfies Held));
      } catch {
        // More than the browser holds; it goes to the server after the pause all the same.
      }
      keeping(place, 'typing');
      clearTimeout(timer.current);
      if (onPause !== false)
        timer.current = window.setTimeout(() => void flush.current(), onPause === true ? pause : onPause);
    },
    [place, onPause],
  );

  useEffect(() => {
    // Typed before a reload, or while the server was away.
    if (now.current.typed !== null) void flush.current();
    const leave = () => void flush.current();
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      void flush.current();
    };
  }, [place]);

  return {
    text: typed ?? value,
    isChanged: typed !== null,
    error,
    clash,
    change,
    flush: () => flush.current(),
    /** The cursor comes in: what stands here now is what Escape puts back. */
    enter: () => {
      now.current.before = now.current.typed ?? now.current.value;
    },
    /** Puts back what stood here when the cursor came in; says so, and can be undone. */
    putBack: () => {
      const it = now.current;
      const mine = it.typed ?? it.value;
      if (mine === it.before) return;
      change(it.before);
      void flush.current();
      say('Put back as it was.', () => {
        change(mine);
        void flush.current();
      });
    },
    settle: (text: string) => {
      setClash(undefined);
      now.current.from = now.current.value;
      now.current.known.add(now.current.value.trim());
      now.current.saved = null;
      change(text);
      void flush.current();
    },
  };
}

/** What is being typed to make something new: held in this browser until it is made. */
export function useHeld(place: string): [string, (text: string) => void] {
  const [text, setText] = useState(() => heldAt(place)?.text ?? '');
  const set = useCallback(
    (next: string) => {
      setText(next);
      if (next) localStorage.setItem(prefix + place, JSON.stringify({ text: next, from: '' } satisfies Held));
      else localStorage.removeItem(prefix + place);
    },
    [place],
  );
  return [text, set];
}
