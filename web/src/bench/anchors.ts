import { ChangeSet, MapMode, StateEffect, StateField, type ChangeDesc, type EditorState } from '@codemirror/state';
import type { Anchor, Section } from '../api/client';
import { headings } from './headings';

/** A section followed through the editor's own changes. Doubtful, when its heading was taken away from its very first letter on. */
type Followed = { section: number; at: number; doubtful: boolean };

type Following = {
  sections: readonly Followed[];
  /** Everything typed since the text was last sent. */
  since: ChangeDesc;
};

/** What the server counted. With it comes where the sections begin, in the text that was last sent. */
export const setSections = StateEffect.define<readonly Section[]>();

/** The text is on its way to the server; what comes back speaks of the text as it is now. */
export const sending = StateEffect.define<null>();

function follow(one: Followed, changes: ChangeDesc, oldDoc: EditorState['doc']): Followed | null {
  const at = changes.mapPos(one.at, 1, MapMode.TrackAfter);
  if (at !== null) return { ...one, at };
  // Its first letter is gone. As long as no more than the line of the heading went, what is written there next is it again.
  const line = oldDoc.lineAt(one.at);
  let beyond = line.length === 0;
  changes.iterChangedRanges((from, to) => {
    if (from <= one.at && to > line.to) beyond = true;
    if (from < one.at && to > one.at) beyond = true;
  });
  return beyond ? null : { ...one, at: changes.mapPos(one.at, -1), doubtful: true };
}

/** Where the sections of a draft are, whatever a hand does to the text around them. */
export const following = StateField.define<Following>({
  create: (state) => ({ sections: [], since: ChangeSet.empty(state.doc.length).desc }),
  update(value, change) {
    let { sections, since } = value;
    if (change.docChanged) {
      since = since.composeDesc(change.changes.desc);
      sections = sections
        .map((one) => follow(one, change.changes.desc, change.startState.doc))
        .filter((one) => one !== null);
    }
    for (const effect of change.effects) {
      if (effect.is(sending)) since = ChangeSet.empty(change.newDoc.length).desc;
      if (effect.is(setSections)) {
        const told: Followed[] = [];
        for (const { number, start } of effect.value) {
          if (start > since.length) continue;
          const at = since.mapPos(start, 1, MapMode.TrackAfter);
          if (at !== null) told.push({ section: number, at, doubtful: false });
        }
        const known = new Set(told.map((one) => one.section));
        // What the server did not name may come back under the hand.
        sections = [
          ...told,
          ...sections.filter((one) => !known.has(one.section)).map((one) => ({ ...one, doubtful: true })),
        ];
      }
    }
    return sections === value.sections && since === value.since ? value : { sections, since };
  },
});

/** The anchors as the server takes them: each heading is one section at most, and doubt gives way. */
export function anchorsIn(state: EditorState): Anchor[] {
  const starts = new Set(state.field(headings).map((heading) => heading.from));
  const anchors: Anchor[] = [];
  for (const doubtful of [false, true])
    for (const one of state.field(following).sections)
      if (one.doubtful === doubtful && starts.delete(one.at)) anchors.push({ section: one.section, start: one.at });
  return anchors;
}
