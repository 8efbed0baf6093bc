import { useQuery } from '@tanstack/react-query';
import { useEffect, useState, type RefObject } from 'react';
import { api, ask } from '../api/client';
import type { DraftHandle } from './DraftEditor';
import { useStandingTexts } from './short/PutInDialog';
import { speller } from './spelling';

const marksPlace = 'nachlass.spelling';
const setsPlace = 'nachlass.typesets.off';

const offFor = (): string[] => JSON.parse(localStorage.getItem(setsPlace) ?? '[]') as string[];

export const useLanguages = () =>
  useQuery({ queryKey: ['languages'], queryFn: () => ask(api.GET('/api/languages')), staleTime: Infinity });

/** What the draft does by itself in its language: signs as they are set, words that are not in the list marked. */
export function useWriting(tag: string | undefined, editor: RefObject<DraftHandle | undefined>, isOpen: boolean) {
  const languages = useLanguages().data ?? [];
  const language = languages.find((one) => one.tag === tag);
  const [spelling, setSpelling] = useState(() => localStorage.getItem(marksPlace) !== 'off');
  const [off, setOff] = useState(offFor);
  const typesets = language !== undefined && !off.includes(language.tag);
  const words = useQuery({
    queryKey: ['spelling'],
    queryFn: () => ask(api.GET('/api/spelling/words')),
    enabled: isOpen,
    staleTime: 60_000,
  }).data;
  useEffect(() => {
    if (isOpen) editor.current?.typing(typesets ? language : null);
  }, [editor, isOpen, typesets, language]);
  useEffect(() => {
    const has = spelling && language !== undefined && language.speller !== '';
    speller.use(has && words ? language.speller : '', words ? [...words.own, ...words.names] : []);
    if (isOpen) editor.current?.spelling(has);
  }, [editor, isOpen, spelling, language, words]);
  const standing = useStandingTexts().data;
  useEffect(() => {
    if (isOpen && standing) editor.current?.standing(new Map(standing.map((one) => [one.number, one.text])));
  }, [editor, isOpen, standing]);
  return {
    language,
    languages,
    spelling,
    typesets,
    markSpelling: (isOn: boolean) => {
      localStorage.setItem(marksPlace, isOn ? 'on' : 'off');
      setSpelling(isOn);
    },
    typeset: (isOn: boolean) => {
      if (!language) return;
      const next = isOn ? off.filter((one) => one !== language.tag) : [...off, language.tag];
      localStorage.setItem(setsPlace, JSON.stringify(next));
      setOff(next);
    },
  };
}
