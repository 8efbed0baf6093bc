/** Words as they are read, where a text is shown without being laid out: a sign behind a backslash is that sign. */
export const asRead = (markdown: string) => markdown.replace(/\\([!-/:-@[-`{-~])/g, '$1');
