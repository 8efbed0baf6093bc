import { useQuery } from '@tanstack/react-query';
import { useRef } from 'react';
import { Link } from 'react-router';
import { api, ask, done, type Draft, type PieceReference } from '../../api/client';
import { keys } from '../../api/queries';
import { attach } from '../../papers/Attachments';
import { carryOut, complain } from '../../papers/notices';
import { AddLine } from '../../ui/AddLine';
import { Button } from '../../ui/Button';
import { TextField } from '../../ui/TextField';
import { numbered } from '../headings';
import { refreshPiece } from '../refreshPiece';

/** What the piece refers to: a page, a picture or a passage, with why and where in the text; pictures beside each other. */
export function References({ piece, sections }: { piece: number; sections: Draft['sections'] }) {
  const path = { number: String(piece) };
  const chooser = useRef<HTMLInputElement>(null);
  const list =
    useQuery({
      queryKey: keys.references(piece),
      queryFn: () => ask(api.GET('/api/pieces/{number}/references', { params: { path } })),
    }).data ?? [];
  const post = (body: { address: string } | { slip: number } | { picture: number }) =>
    carryOut(done(api.POST('/api/pieces/{number}/references', { params: { path }, body })), 'Reference added.').then(
      refreshPiece,
    );
  const addPictures = async (files: readonly File[]) => {
    try {
      for (const file of files) {
        const made = await attach('piece', piece, file);
        await post({ picture: made.number });
      }
    } catch (problem) {
      complain(problem);
    }
  };
  const pictures = list.filter((one) => one.picture);
  return (
    <section
      aria-label="References"
      className="mt-8"
      onDragOver={(event) => event.dataTransfer.types.includes('Files') && event.preventDefault()}
      onDrop={(event) => {
        if (event.dataTransfer.files.length === 0) return;
        event.preventDefault();
        void addPictures([...event.dataTransfer.files]);
      }}
    >
      <h2 className="label border-b border-hair pb-1">References</h2>
      {list
        .filter((one) => !one.picture)
        .map((one) => (
          <div key={one.number} className="border-b border-rule py-2">
            <div className="flex items-baseline gap-3">
              <div className="min-w-0 flex-1">
                {one.slip ? (
                  <Link
                    to={`/library/slip/${one.slip.number}`}
                    className="written line-clamp-2 text-[15px] hover:text-blue"
                  >
                    <span className="narrow font-sans text-[11.5px] text-second">slip {one.slip.number}</span>{' '}
                    {one.slip.title || one.slip.text}
                  </Link>
                ) : (
                  <a
                    href={one.address}
                    target="_blank"
                    rel="noopener noreferrer"
                    className="link block truncate text-[14px]"
                  >
                    {one.address.replace(/^https?:\/\//, '')}
                  </a>
                )}
              </div>
              <Where one={one} piece={piece} sections={sections} />
            </div>
            <Why one={one} piece={piece} />
          </div>
        ))}
      {pictures.length > 0 && (
        <div className="mt-3 grid grid-cols-2 gap-x-4 gap-y-3 md:grid-cols-3">
          {pictures.map((one) => (
            <figure key={one.number}>
              <a href={`/api/attachments/${one.picture!.number}/content`} target="_blank" rel="noopener noreferrer">
                <img
                  src={`/api/attachments/${one.picture!.number}/content`}
                  alt={one.why || one.picture!.why || one.picture!.name}
                  loading="lazy"
                  className="aspect-[3/2] w-full border border-hair object-cover"
                />
              </a>
              <figcaption>
                <Why one={one} piece={piece} />
                <Where one={one} piece={piece} sections={sections} />
              </figcaption>
            </figure>
          ))}
        </div>
      )}
      <AddLine
        place={`piece.${piece}.reference`}
        label="Address of a page, or number of a slip"
        placeholder="https://… or the number of a slip"
        press="Refer to it"
        className=""
        onAdd={(text) => {
          const slip = /^(?:slip\s*)?(\d+)$/i.exec(text.trim())?.[1];
          return post(slip ? { slip: Number(slip) } : { address: text });
        }}
        others={() => <Button onClick={() => chooser.current?.click()}>Pictures…</Button>}
      />
      <input
        ref={chooser}
        type="file"
        accept="image/*"
        multiple
        aria-label="Choose pictures to refer to"
        className="sr-only"
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          event.target.value = '';
          void addPictures(files);
        }}
      />
    </section>
  );
}

const nameOf = (one: PieceReference) =>
  one.slip ? `slip ${one.slip.number}` : one.picture ? one.picture.name : one.address;

function Why({ one, piece }: { one: PieceReference; piece: number }) {
  return (
    <TextField
      label={`Why ${nameOf(one)} is referred to`}
      shown={false}
      place={`piece.${piece}.reference.${one.number}`}
      value={one.why}
      placeholder="why?"
      onSave={(why) =>
        carryOut(
          done(
            api.PATCH('/api/pieces/{number}/references/{reference}', {
              params: { path: { number: String(piece), reference: String(one.number) } },
              body: { why },
            }),
          ),
          'Kept.',
        ).then(refreshPiece)
      }
      className="text-[13px] italic"
    />
  );
}

function Where({ one, piece, sections }: { one: PieceReference; piece: number; sections: Draft['sections'] }) {
  const path = { number: String(piece), reference: String(one.number) };
  const numbers = numbered(sections.map((section) => section.depth));
  const act = (asked: Parameters<typeof carryOut>[0], words: string) =>
    void carryOut(asked, words).then(refreshPiece, () => undefined);
  return (
    <span className="flex shrink-0 items-baseline gap-1 text-[12.5px]">
      <select
        aria-label={`Where ${nameOf(one)} belongs`}
        value={one.section ?? ''}
        onChange={(event) =>
          act(
            done(
              api.PATCH('/api/pieces/{number}/references/{reference}', {
                params: { path },
                body: { section: event.target.value === '' ? null : Number(event.target.value) },
              }),
            ),
            event.target.value === '' ? 'Nowhere in the text yet.' : 'It belongs there.',
          )
        }
        className="field-sizing-content max-w-40 bg-transparent text-second"
      >
        <option value="">nowhere yet</option>
        {sections.map((section, at) => (
          <option key={section.number} value={section.number}>
            in {numbers[at]} {section.title}
          </option>
        ))}
      </select>
      <button
        type="button"
        aria-label={`Take the reference to ${nameOf(one)} away`}
        className="min-h-6 min-w-6 text-second hover:text-red"
        onClick={() =>
          act(done(api.DELETE('/api/pieces/{number}/references/{reference}', { params: { path } })), 'Taken away.')
        }
      >
        ×
      </button>
    </span>
  );
}
