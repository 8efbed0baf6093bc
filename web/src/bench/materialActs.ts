import { api, done, type Done, type Draft, type Section } from '../api/client';
import type { components } from '../api/schema';
import { carryOut } from '../papers/notices';
import type { DraftHandle } from './DraftEditor';
import type { MaterialActs, Thing } from './MaterialColumn';
import { refreshPiece } from './refreshPiece';

type Inserted = components['schemas']['Inserted'];

/** How a slip or a source is said. */
export const named = (thing: Thing) => (thing.slip ? `Slip ${thing.slip}` : `Source ${thing.source}`);

/** What can be done with the material of a piece. */
export function materialActsOf({
  number,
  sections,
  current,
  editor,
  flush,
  onNewest,
}: {
  number: number;
  sections: readonly Section[];
  /** The section the cursor is in, counted from 0. */
  current: number;
  editor: () => DraftHandle | undefined;
  flush: () => Promise<unknown>;
  onNewest: (
    act: (version: number) => Promise<Done<Inserted>>,
    made: (answer: Inserted) => Draft,
  ) => Promise<Done<Inserted>>;
}): MaterialActs {
  const path = { number: String(number) };
  return {
    place: async (thing, section) => {
      const to = sections.find((s) => s.number === section);
      await carryOut(
        done(
          api.PUT('/api/pieces/{number}/material', {
            params: { path },
            body: { ...thing, section: section ?? undefined },
          }),
        ),
        to ? `${named(thing)} placed in “${to.title}”.` : `${named(thing)} lies loose beside the piece.`,
      );
      await refreshPiece();
    },
    untie: async (thing) => {
      await carryOut(
        done(
          api.DELETE('/api/pieces/{number}/material/{kind}/{thing}', {
            params: {
              path: {
                number: String(number),
                kind: thing.slip ? 'slip' : 'source',
                thing: thing.slip ?? thing.source!,
              },
            },
          }),
        ),
        `${named(thing)} taken away; it stays in the library.`,
      );
      await refreshPiece();
    },
    insert: async (slip, as) => {
      await flush();
      // In a section without text the cursor stands in room that is not part of the draft.
      const isInRoom = sections[current] !== undefined && sections[current].counts.words === 0;
      const made = await carryOut(
        onNewest(
          (version) =>
            done(
              api.POST('/api/pieces/{number}/insertion', {
                params: { path },
                body: {
                  slip,
                  as,
                  version,
                  ...(isInRoom ? { section: sections[current]!.number } : { at: editor()?.cursor() ?? undefined }),
                },
              }),
            ),
          (inserted) => inserted.draft,
        ),
        (inserted) => {
          const into = inserted.draft.sections.find((section) => section.number === inserted.section);
          return `Slip ${slip} stands ${into ? `in “${into.title}”` : 'before the first section'}.`;
        },
      );
      editor()?.goTo(made.end);
    },
    note: (slip) => editor()?.note(`“${slip.text.replace(/\s+/g, ' ').trim()}” [[slip ${slip.number}]]`),
    cite: (reference) => editor()?.insert(` ${reference}`),
  };
}
