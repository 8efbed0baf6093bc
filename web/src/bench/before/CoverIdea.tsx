import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { Link } from 'react-router';
import { api, ask, type Brief, type BriefChange, type Piece } from '../../api/client';
import { keys } from '../../api/queries';
import { attach } from '../../papers/Attachments';
import { complain } from '../../papers/notices';
import { Dialog } from '../../ui/Dialog';
import { TextField } from '../../ui/TextField';
import { refreshPiece } from '../refreshPiece';

const content = (picture: number) => `/api/attachments/${picture}/content`;

/** A picture and a line for the cover, and the covers of other pieces beside each other. */
export function CoverIdea({
  piece,
  brief,
  onSettle,
}: {
  piece: Piece;
  brief: Brief;
  onSettle: (edit: BriefChange, said?: string) => Promise<unknown>;
}) {
  const chooser = useRef<HTMLInputElement>(null);
  const [sheet, setSheet] = useState(false);
  const [over, setOver] = useState(false);
  const pictures = (
    useQuery({
      queryKey: keys.attachments('piece', piece.number),
      queryFn: () =>
        ask(api.GET('/api/attachments/{kind}/{number}', { params: { path: { kind: 'piece', number: piece.number } } })),
    }).data ?? []
  ).filter((attachment) => attachment.isPicture);
  const covers = useQuery({ queryKey: keys.covers, queryFn: () => ask(api.GET('/api/covers')) }).data ?? [];
  const others = covers.filter((cover) => cover.piece !== piece.number);
  const take = (cover: number | null) =>
    void onSettle({ cover }, cover === null ? 'Without a cover.' : 'It is the cover.').catch(() => undefined);
  const add = async (file: File | undefined) => {
    if (!file) return;
    try {
      const made = await attach('piece', piece.number, file);
      await onSettle({ cover: made.number }, 'It is the cover.');
    } catch (error) {
      complain(error);
    } finally {
      await refreshPiece();
    }
  };
  return (
    <section
      aria-label="Cover idea"
      className="mt-8"
      onDragOver={(event) => {
        if (!event.dataTransfer.types.includes('Files')) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        void add(event.dataTransfer.files[0]);
      }}
    >
      <h2 className="label flex items-baseline border-b border-hair pb-1">
        Cover idea
        {others.length > 0 && (
          <button
            type="button"
            className="link ml-auto text-[12.5px] font-semibold tracking-normal normal-case"
            onClick={() => setSheet(true)}
          >
            the covers before it
          </button>
        )}
      </h2>
      <input
        ref={chooser}
        type="file"
        accept="image/*"
        aria-label="Choose a picture for the cover"
        className="sr-only"
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          void add(file);
        }}
      />
      <div className={`mt-2.5 flex gap-5 ${over ? 'bg-wash' : ''}`}>
        <button
          type="button"
          aria-label={brief.cover ? 'Choose another picture' : 'Choose a picture for the cover'}
          onClick={() => chooser.current?.click()}
          className="flex h-[112px] w-[168px] shrink-0 items-center justify-center overflow-hidden border border-hair bg-quiet text-[12.5px] text-second hover:border-second"
        >
          {brief.cover ? (
            <img src={content(brief.cover)} alt="" className="h-full w-full object-cover" />
          ) : (
            'choose or drop a picture'
          )}
        </button>
        <div className="min-w-0 flex-1">
          <TextField
            label="Line of the cover"
            shown={false}
            place={`piece.${piece.number}.coverLine`}
            value={brief.coverLine}
            placeholder="the line that stands on it"
            onSave={(coverLine) => onSettle({ coverLine }, 'Cover line kept.')}
            className="written text-[17px] leading-snug"
          />
          {pictures.length > 0 && (
            <div className="mt-2 flex flex-wrap gap-1.5">
              {pictures.map((picture) => (
                <button
                  key={picture.number}
                  type="button"
                  aria-label={`Take ${picture.why || picture.name} for the cover`}
                  aria-pressed={picture.number === brief.cover}
                  onClick={() => take(picture.number)}
                  className={`h-[42px] w-[56px] overflow-hidden border-2 ${picture.number === brief.cover ? 'border-blue' : 'border-transparent hover:border-hair'}`}
                >
                  <img src={content(picture.number)} alt="" className="h-full w-full object-cover" />
                </button>
              ))}
            </div>
          )}
          {brief.cover !== null && (
            <button
              type="button"
              className="mt-1 min-h-6 text-[12.5px] text-second hover:text-red"
              onClick={() => take(null)}
            >
              no cover
            </button>
          )}
        </div>
      </div>
      <Dialog title="Covers" open={sheet} onClose={() => setSheet(false)} wide>
        <div className="grid grid-cols-2 gap-x-5 gap-y-4 md:grid-cols-4">
          {covers.map((cover) => (
            <Link
              key={cover.piece}
              to={`/bench/${cover.piece}/before`}
              onClick={() => setSheet(false)}
              className="block"
            >
              <img
                src={content(cover.cover)}
                alt=""
                loading="lazy"
                className={`aspect-[3/2] w-full border object-cover ${cover.piece === piece.number ? 'border-2 border-blue' : 'border-hair'}`}
              />
              <span className="written block text-[14px] leading-snug">{cover.line || cover.title}</span>
              <span className="block text-[12px] text-second">
                P {cover.piece}
                {cover.line && `, ${cover.title}`}
                {cover.piece === piece.number && ' · this one'}
              </span>
            </Link>
          ))}
        </div>
      </Dialog>
    </section>
  );
}
