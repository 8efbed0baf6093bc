import { useEffect, useState } from 'react';
import { isKey } from '../papers/ownKeys';
import { attentions, type Quiet } from './quiet';

const place = 'nachlass.quiet';
const loud: Quiet = { attention: 'text', isHeld: false, isAlone: false };

/** How quiet the draft is, remembered in this browser. While the sheet is alone, what stands round it is away. */
export function useQuiet(isDraft: boolean) {
  const [quiet, setQuiet] = useState<Quiet>(() => ({
    ...loud,
    ...(JSON.parse(localStorage.getItem(place) ?? '{}') as Partial<Quiet>),
  }));
  const change = (next: Partial<Quiet>) =>
    setQuiet((before) => {
      const whole = { ...before, ...next };
      localStorage.setItem(place, JSON.stringify(whole));
      return whole;
    });
  const isAlone = isDraft && quiet.isAlone;
  useEffect(() => {
    document.body.classList.toggle('sheet-alone', isAlone);
    return () => document.body.classList.remove('sheet-alone');
  }, [isAlone]);
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (!isDraft || event.defaultPrevented || (event.target as HTMLElement).closest('[role=dialog]')) return;
      if (!isKey(event, 'bench.alone') && !(isAlone && event.key === 'Escape')) return;
      event.preventDefault();
      change({ isAlone: !isAlone });
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [isDraft, isAlone]);
  return {
    quiet,
    change,
    /** From the whole text to the sentence, and round again. */
    narrow: () => change({ attention: attentions[(attentions.indexOf(quiet.attention) + 1) % attentions.length]! }),
  };
}
