import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { api, ask, done } from '../../api/client';
import { queryClient } from '../../api/queries';
import { carryOut } from '../../papers/notices';
import { Loading } from '../../ui/States';
import { speller } from '../spelling';
import type { Language } from '../typing';

export type WordAt = { from: number; to: number; word: string };

/** What is known of one word: how it may be meant to be spelt, other words for it, what it means. Enter puts one in. */
export function WordsView({
  at,
  language,
  spelling,
  typesets,
  onSpelling,
  onTypesets,
  languages,
  onLanguage,
  onPut,
}: {
  at: WordAt | undefined;
  language: Language | undefined;
  spelling: boolean;
  typesets: boolean;
  onSpelling: (isOn: boolean) => void;
  onTypesets: (isOn: boolean) => void;
  languages: readonly Language[];
  onLanguage: (tag: string) => void;
  onPut: (word: string) => void;
}) {
  const word = at?.word ?? '';
  const meanings = useQuery({
    queryKey: ['synonyms', word, language?.tag],
    queryFn: () =>
      ask(
        api.GET('/api/words/{word}/synonyms', {
          params: { path: { word }, query: { language: language?.tag } },
        }),
      ),
    enabled: word !== '' && language !== undefined,
    staleTime: Infinity,
  });
  const plain = word.replaceAll('’', "'");
  const wrong = useWrong(plain, spelling && language?.speller !== '');
  const list = useRef<HTMLDivElement>(null);
  /** Up and down through all words that could go in. */
  const walk = (event: React.KeyboardEvent) => {
    const way = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (!way) return;
    event.preventDefault();
    const all = [...(list.current?.querySelectorAll<HTMLElement>('button[data-word]') ?? [])];
    all[Math.max(0, all.indexOf(document.activeElement as HTMLElement) + way)]?.focus();
  };
  const takeIn = async () => {
    const made = await carryOut(done(api.POST('/api/spelling/words', { body: { word } })), `“${word}” is spelt right.`);
    queryClient.setQueryData(['spelling'], made);
  };
  const choices = (words: readonly string[]) => (
    <span className="flex flex-wrap gap-x-3">
      {words.map((one) => (
        <button
          key={one}
          type="button"
          data-word
          className="link written min-h-6 text-[14.5px]"
          onClick={() => onPut(one)}
        >
          {one}
        </button>
      ))}
    </span>
  );
  return (
    <div className="px-3.5 py-3" onKeyDown={walk} ref={list}>
      {word === '' ? (
        <p className="text-second">Put the cursor into a word.</p>
      ) : (
        <h2 className="written text-[19px] leading-tight font-semibold">{word}</h2>
      )}
      {wrong.isWrong && (
        <div className="mt-2 border-b border-hair pb-2">
          <h3 className="label mb-1 text-red">Not in the word list</h3>
          {wrong.suggestions.length > 0 ? choices(wrong.suggestions) : <p className="text-second">Nothing like it.</p>}
          <button type="button" data-word className="link mt-1 min-h-6 text-[12.5px]" onClick={() => void takeIn()}>
            it is right; keep it in the own list
          </button>
        </div>
      )}
      {meanings.isFetching && <Loading what="Looking it up" />}
      {meanings.data?.says && <p className="mt-2 text-second">{meanings.data.says}</p>}
      {meanings.data?.meanings.map((meaning, nth) => (
        <div key={nth} className="mt-3">
          <p className="text-[12.5px] leading-snug">
            <i className="text-second">{meaning.part}</i> {meaning.means}
          </p>
          {meaning.same.length > 0 && choices(meaning.same)}
          {meaning.near.length > 0 && (
            <details className="text-[12.5px]">
              <summary className="min-h-6 cursor-pointer text-second">near to it</summary>
              {choices(meaning.near)}
            </details>
          )}
        </div>
      ))}
      <fieldset className="mt-6 border-t border-hair pt-2 text-[12.5px]">
        <legend className="sr-only">What the draft does by itself</legend>
        <label className="flex min-h-7 items-center gap-2">
          written in
          <select
            aria-label="Language of the piece"
            value={language?.tag ?? ''}
            onChange={(event) => onLanguage(event.target.value)}
            className="min-w-0 flex-1 bg-transparent"
          >
            {languages.map((one) => (
              <option key={one.tag} value={one.tag}>
                {one.name}
              </option>
            ))}
          </select>
        </label>
        <label className="flex min-h-6 items-center gap-2">
          <input type="checkbox" checked={spelling} onChange={(event) => onSpelling(event.target.checked)} />
          mark words that are not in the list
        </label>
        {language && !language.speller && (
          <p className="text-second">There is no word list for {language.name} at hand.</p>
        )}
        <label className="flex min-h-6 items-center gap-2">
          <input type="checkbox" checked={typesets} onChange={(event) => onTypesets(event.target.checked)} />
          set {language?.quotes[0]}quotes{language?.quotes[1]}, dashes and … as {language?.name ?? 'the language'} does
        </label>
      </fieldset>
    </div>
  );
}

/** Whether a word is wrong, and what it may be meant to be. */
function useWrong(word: string, isOn: boolean) {
  const [told, setTold] = useState<{ word: string; suggestions: string[] }>();
  useEffect(() => {
    let here = true;
    if (!isOn || word === '' || /\s/.test(word)) return;
    void speller.look([word]).then(async () => {
      if (!speller.isWrong(word)) return here && setTold(undefined);
      const suggestions = await speller.suggest(word);
      if (here) setTold({ word, suggestions });
    });
    return () => {
      here = false;
    };
  }, [word, isOn]);
  return {
    isWrong: isOn && told?.word === word && speller.isWrong(word) === true,
    suggestions: told?.suggestions ?? [],
  };
}
