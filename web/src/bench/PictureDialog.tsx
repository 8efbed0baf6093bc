import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState } from 'react';
import { api, ask, done, type Attachment } from '../api/client';
import { keys, queryClient } from '../api/queries';
import { attach } from '../papers/Attachments';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { mustBeShowable } from './showable';

/** A picture as it stands in a draft. */
export type PictureAt = { from: number; to: number; address: string; shows: string; caption: string };

/** The picture at a place of a text. */
export function pictureAt(text: string, at: number): PictureAt | undefined {
  for (const found of text.matchAll(/!\[([^[\]]*)\]\(([^()\s]+)(?:[ \t]+"((?:[^"\\\n]|\\.)*)")?[ \t]*\)/g))
    if (found.index <= at && found.index + found[0].length >= at)
      return {
        from: found.index,
        to: found.index + found[0].length,
        shows: found[1]!,
        address: found[2]!,
        caption: (found[3] ?? '').replaceAll('\\"', '"'),
      };
  return undefined;
}

/** A picture in Markdown: what it shows, where it lies, what stands under it. */
export const writtenPicture = (address: string, shows: string, caption: string) =>
  `![${shows.replace(/[[\]\n]/g, ' ').trim()}](${address}${caption.trim() ? ` "${caption.trim().replaceAll('"', '\\"').replace(/\n/g, ' ')}"` : ''})`;

const addressOf = (attachment: number) => `/api/attachments/${attachment}/content`;
const numberOf = (address: string) => Number(/^\/api\/attachments\/(\d+)\/content$/.exec(address)?.[1] ?? 0);

/** Puts a picture into the draft with what is said of it, or changes the one at the cursor. */
export function PictureDialog({
  piece,
  file,
  at,
  onPut,
  onClose,
}: {
  piece: number;
  /** One that was pasted or dropped. */
  file: File | undefined;
  at: PictureAt | undefined;
  onPut: (picture: string) => void;
  onClose: () => void;
}) {
  const kept = useQuery({
    queryKey: keys.attachments('piece', piece),
    queryFn: () =>
      ask(api.GET('/api/attachments/{kind}/{number}', { params: { path: { kind: 'piece', number: piece } } })),
  });
  const pictures = (kept.data ?? []).filter((one) => one.type.startsWith('image/'));
  const [chosen, setChosen] = useState<File | undefined>(file);
  const [number, setNumber] = useState(at ? numberOf(at.address) : 0);
  const [shows, setShows] = useState(at?.shows ?? '');
  const [caption, setCaption] = useState(at?.caption ?? '');
  const known = pictures.find((one) => one.number === number);
  const [typedCredit, setCredit] = useState<string>();
  const credit = typedCredit ?? known?.credit ?? '';
  const [busy, setBusy] = useState(false);
  const [error, setError] = useState('');
  const chooser = useRef<HTMLInputElement>(null);
  const preview = useMemo(() => chosen && URL.createObjectURL(chosen), [chosen]);
  useEffect(() => () => void (preview && URL.revokeObjectURL(preview)), [preview]);
  const put = async () => {
    setBusy(true);
    setError('');
    try {
      let attachment: Attachment | undefined = known;
      if (chosen) {
        await mustBeShowable(chosen);
        attachment = await attach('piece', piece, chosen);
      }
      if (attachment && credit.trim() !== attachment.credit)
        await done(
          api.PATCH('/api/attachments/{number}', {
            params: { path: { number: String(attachment.number) } },
            body: { credit, version: attachment.version },
          }),
        );
      await queryClient.invalidateQueries({ queryKey: keys.attachments('piece', piece) });
      onPut(writtenPicture(attachment ? addressOf(attachment.number) : at!.address, shows, caption));
    } catch (problem) {
      setError((problem as Error).message);
      setBusy(false);
    }
  };
  const field = (label: string, value: string, change: (value: string) => void, about: string) => (
    <label className="mt-3 block">
      <span className="label block text-second">{label}</span>
      <input
        value={value}
        placeholder={about}
        onChange={(event) => change(event.target.value)}
        className="written block w-full border-b border-hair bg-transparent py-1 text-[15px] outline-none focus:border-blue"
      />
    </label>
  );
  const isReady = chosen !== undefined || known !== undefined || (at !== undefined && number === 0);
  return (
    <Dialog open title={at ? 'The picture' : 'A picture for the draft'} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (isReady && !busy) void put();
        }}
      >
        <input
          ref={chooser}
          type="file"
          accept="image/*"
          aria-label="Choose a picture"
          className="sr-only"
          onChange={(event) => setChosen(event.target.files?.[0])}
        />
        <div className="flex items-center gap-3">
          {(preview ?? known) && (
            <img src={preview ?? addressOf(known!.number)} alt="" className="max-h-16 max-w-24 border border-hair" />
          )}
          <span className="min-w-0 flex-1 truncate">
            {chosen?.name ?? known?.name ?? (at ? at.address : 'No picture yet.')}
          </span>
          <Button onClick={() => chooser.current?.click()}>{isReady ? 'Another file…' : 'Choose a file…'}</Button>
        </div>
        {!chosen && pictures.length > 0 && (
          <label className="mt-2 flex items-center gap-2 text-[12.5px] text-second">
            or one that lies with the piece
            <select
              aria-label="A picture of the piece"
              value={number}
              onChange={(event) => {
                setNumber(Number(event.target.value));
                setCredit(undefined);
              }}
              className="min-h-7 min-w-0 flex-1 bg-transparent text-ink"
            >
              <option value={0}>…</option>
              {pictures.map((one) => (
                <option key={one.number} value={one.number}>
                  {one.name}
                </option>
              ))}
            </select>
          </label>
        )}
        {field('What it shows', shows, setShows, 'for those who cannot see it')}
        {field('Caption', caption, setCaption, 'stands under it')}
        {field('Credit', credit, setCredit, 'whose it is, or who made it')}
        {error && (
          <p role="alert" className="mt-3 text-red">
            {error}
          </p>
        )}
        <div className="mt-4 flex justify-end gap-3">
          <Button look="quiet" onClick={onClose}>
            Leave it
          </Button>
          <Button type="submit" look="main" disabled={!isReady || busy}>
            {at ? 'Change it' : 'Put it in'}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
