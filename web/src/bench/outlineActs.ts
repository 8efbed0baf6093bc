import { api, done, type Done, type Draft } from '../api/client';
import { carryOut } from '../papers/notices';
import type { OutlineActs } from './OutlineColumn';

/** What can be done with the outline of a piece, each as one step that can be taken back. */
export function outlineActsOf(
  number: number,
  outline: (change: (version: number) => Promise<Done<Draft>>) => Promise<Done<Draft>>,
  goTo: (section: number) => void,
): OutlineActs {
  const path = { number: String(number) };
  const ofOutline = (change: Parameters<typeof outline>[0], said?: string) => carryOut(outline(change), said);
  const outlinePath = (section: number) => ({ path: { number: String(number), section: String(section) } });
  return {
    add: (title, after, depth) =>
      ofOutline(
        (version) =>
          done(
            api.POST('/api/pieces/{number}/outline', {
              params: { path },
              body: { title, after: after ?? undefined, depth, version },
            }),
          ),
        'Section added.',
      ),
    edit: (section, change) =>
      ofOutline(
        (version) =>
          done(
            api.PATCH('/api/pieces/{number}/outline/{section}', {
              params: outlinePath(section),
              body: { ...change, version },
            }),
          ),
        'Section changed.',
      ),
    move: ([section, ...others], before, depth) =>
      ofOutline(
        (version) =>
          done(
            api.POST('/api/pieces/{number}/outline/{section}/move', {
              params: outlinePath(section!),
              body: { version, before, depth, with: others },
            }),
          ),
        others.length === 0 ? 'Section moved.' : `${others.length + 1} sections moved.`,
      ),
    remove: (section, inside) =>
      ofOutline(
        (version) =>
          done(
            api.DELETE('/api/pieces/{number}/outline/{section}', {
              params: { ...outlinePath(section.number), query: { version } },
            }),
          ),
        `Deleted “${section.title}” with its text${inside === 0 ? '' : inside === 1 ? ' and the section inside it' : ` and the ${inside} sections inside it`}.`,
      ),
    join: (section) =>
      ofOutline(
        (version) =>
          done(
            api.POST('/api/pieces/{number}/outline/{section}/join', {
              params: outlinePath(section.number),
              body: { version },
            }),
          ),
        `“${section.title}” is joined to the one before.`,
      ),
    several: (numbers, act) =>
      ofOutline(
        (version) =>
          done(
            api.POST('/api/pieces/{number}/outline/several', {
              params: { path },
              body: { version, sections: [...numbers], act },
            }),
          ),
        `${numbers.length === 1 ? 'Section' : `${numbers.length} sections`} ${act === 'settle' ? 'settled' : act === 'unsettle' ? 'open again' : act === 'remove' ? 'deleted with their text' : 'moved'}.`,
      ),
    lay: (section) =>
      ofOutline(
        (version) =>
          done(
            api.POST('/api/pieces/{number}/outline', {
              params: { path },
              body: {
                title: section.title,
                depth: section.depth,
                aim: section.aim ?? undefined,
                beat: section.beat,
                version,
              },
            }),
          ),
        `“${section.title}” stands at the end of the outline.`,
      ),
    goTo,
  };
}
