import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ask, type SideTextShown, done } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { carryOut, complain, say } from '../papers/notices';

/** Captions, credits and works, gathered from what the draft really uses. */
export function CreditsUsed({ piece, sides }: { piece: number; sides: readonly SideTextShown[] }) {
  const path = { number: String(piece) };
  const used = useQuery({
    queryKey: ['piece', piece, 'credits'],
    queryFn: () => ask(api.GET('/api/pieces/{number}/credits', { params: { path } })),
  }).data;
  if (!used) return null;
  const { pictures, works, text } = used;
  const into = async (side: SideTextShown) => {
    await carryOut(
      done(
        api.PUT('/api/pieces/{number}/side-texts/{name}', {
          params: { path: { ...path, name: side.key } },
          body: { text: side.text.trim() === '' ? text : `${side.text.trimEnd()}\n\n${text}`, version: side.version },
        }),
      ),
      `They stand in ${side.name.toLowerCase()} now.`,
    ).catch(() => undefined);
    await queryClient.invalidateQueries({ queryKey: keys.sideTexts(piece) });
  };
  return (
    <section aria-label="Captions and credits" className="mt-8">
      <h2 className="label border-b border-hair pb-1">Captions and credits</h2>
      {pictures.length + works.length === 0 && (
        <p className="py-2 text-second">Nothing yet: they are gathered from the pictures and works the draft uses.</p>
      )}
      {pictures.map((picture) => (
        <p key={picture.at} className="border-b border-rule py-2">
          <span className="written block text-[14.5px]">{picture.caption || picture.shows || picture.address}</span>
          <span className="flex flex-wrap gap-x-4 text-[12.5px] text-second">
            {picture.credit ? (
              <span>{picture.credit}</span>
            ) : (
              <Link className="inline-flex min-h-6 items-center text-red hover:underline" to={`/bench/${piece}`}>
                no credit yet
              </Link>
            )}
            {!picture.shows && <span className="text-red">nobody says what it shows</span>}
          </span>
        </p>
      ))}
      {works.map((work) => (
        <p key={work.source} className="border-b border-rule py-2 text-[13px]">
          <Link className="hover:text-blue" to={`/library/source/${work.source}`}>
            {work.line.replaceAll('*', '')}
          </Link>
        </p>
      ))}
      {text && (
        <p className="flex flex-wrap gap-x-4 pt-1 text-[12.5px]">
          <button
            type="button"
            className="link min-h-6"
            onClick={() => void navigator.clipboard.writeText(text).then(() => say('Copied.'), complain)}
          >
            copy them
          </button>
          {sides.map((side) => (
            <button key={side.key} type="button" className="link min-h-6" onClick={() => void into(side)}>
              put them into {side.name.toLowerCase()}
            </button>
          ))}
        </p>
      )}
    </section>
  );
}
