declare module 'nspell' {
  /** A speller made of the two files of a word list in the Hunspell format. */
  export default function nspell(
    aff: string,
    dic: string,
  ): { correct: (word: string) => boolean; suggest: (word: string) => string[] };
}
