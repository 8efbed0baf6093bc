import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { api, ask, done, type Attachment } from '../api/client';
import { newKey } from '../api/key';
import { keys, queryClient } from '../api/queries';
import { Dialog } from '../ui/Dialog';
import { TextField } from '../ui/TextField';
import { carryOut, complain, say } from './notices';

const size = (bytes: number) =>
  bytes < 1024
    ? `${bytes} B`
    : bytes < 1 << 20
      ? `${Math.round(bytes / 1024)} kB`
      : `${(bytes / (1 << 20)).toFixed(1)} MB`;

/** Sends a file to be tied to a thing; the body is the file itself. */
export async function attach(kind: string, number: number, file: File): Promise<Attachment> {
  const response = await fetch(`/api/attachments/${kind}/${number}?name=${encodeURIComponent(file.name)}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/octet-stream', 'Idempotency-Key': newKey() },
    body: file,
  });
  const answer = (await response.json()) as Attachment & { detail?: string };
  if (!response.ok) throw new Error(answer.detail ?? `The server answered ${response.status}.`);
  say(`Attached ${answer.name}.`, Number(response.headers.get('Nachlass-Command') ?? 0));
  return answer;
}

/** The files and pictures of a thing: pictures small, each with a line on why it matters; chosen, dropped or pasted. */
export function Attachments({ kind, number }: { kind: 'slip' | 'source' | 'piece'; number: number }) {
  const chooser = useRef<HTMLInputElement>(null);
  const [large, setLarge] = useState<Attachment>();
  const [over, setOver] = useState(false);
  const [busy, setBusy] = useState(false);
  const list = useQuery({
    queryKey: keys.attachments(kind, number),
    queryFn: () => ask(api.GET('/api/attachments/{kind}/{number}', { params: { path: { kind, number } } })),
  });
  const refresh = () => queryClient.invalidateQueries({ queryKey: keys.attachments(kind, number) });
  const add = async (files: Iterable<File>) => {
    setBusy(true);
    try {
      for (const file of files) await attach(kind, number, file);
    } catch (error) {
      complain(error);
    } finally {
      setBusy(false);
      await refresh();
    }
  };
  useEffect(() => {
    // A picture is pasted onto the thing that is open, unless a text is being written.
    const pasted = (event: ClipboardEvent) => {
      const files = event.clipboardData?.files;
      // Words that were copied together with a picture are meant as words.
      if (!files?.length || event.defaultPrevented || event.clipboardData?.getData('text/plain')) return;
      if (document.querySelector('[role=dialog]')) return;
      event.preventDefault();
      void add([...files]);
    };
    window.addEventListener('paste', pasted);
    return () => window.removeEventListener('paste', pasted);
  });
  const all = list.data ?? [];
  const content = (attachment: Attachment) => `/api/attachments/${attachment.number}/content`;

  return (
    <section
      aria-label="Files and pictures"
      className={`mt-7 ${over ? 'bg-wash' : ''}`}
      onDragOver={(event) => {
        if (!event.dataTransfer.types.includes('Files')) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        void add([...event.dataTransfer.files]);
      }}
    >
      <h2 className="label flex items-baseline justify-between border-b border-hair pb-1 text-second">
        <span>Files and pictures {all.length > 0 && `· ${all.length}`}</span>
        <button
          type="button"
          className="link text-[12.5px] font-semibold tracking-normal normal-case"
          onClick={() => chooser.current?.click()}
        >
          {busy ? 'attaching…' : 'attach a file'}
        </button>
      </h2>
      <input
        ref={chooser}
        type="file"
        multiple
        aria-label="Attach files"
        className="sr-only"
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          event.target.value = '';
          void add(files);
        }}
      />
      {all.map((attachment) => (
        <div key={attachment.number} className="flex gap-4 border-b border-rule py-2">
          {attachment.isPicture ? (
            <button
              type="button"
              aria-label={`Show ${attachment.name} large`}
              onClick={() => setLarge(attachment)}
              className="h-[58px] w-[78px] shrink-0 overflow-hidden border border-hair bg-quiet"
            >
              <img src={content(attachment)} alt="" loading="lazy" className="h-full w-full object-cover" />
            </button>
          ) : (
            <a
              href={content(attachment)}
              download={attachment.name}
              aria-label={`Download ${attachment.name}`}
              className="narrow flex h-[58px] w-[78px] shrink-0 items-center justify-center border border-hair bg-quiet text-[12px] font-semibold text-second uppercase hover:text-blue"
            >
              {attachment.name.includes('.') ? attachment.name.split('.').pop()!.slice(0, 5) : 'file'}
            </a>
          )}
          <span className="min-w-0 flex-1">
            <TextField
              label={`Why ${attachment.name} matters`}
              shown={false}
              value={attachment.why}
              placeholder="Why does it matter?"
              onSave={(why) =>
                carryOut(
                  done(
                    api.PATCH('/api/attachments/{number}', {
                      params: { path: { number: String(attachment.number) } },
                      body: { why, version: attachment.version },
                    }),
                  ),
                ).then(refresh)
              }
              className="written text-[15px] leading-snug"
            />
            {attachment.type.startsWith('audio/') && (
              <audio
                controls
                preload="none"
                aria-label={`Listen to ${attachment.name}`}
                src={content(attachment)}
                className="mt-1 h-9 w-full max-w-96"
              />
            )}
            <span className="mt-0.5 flex gap-4 text-[12px] text-second">
              <span className="truncate">
                {attachment.name}, {size(attachment.bytes)}
              </span>
              <a className="link shrink-0" href={content(attachment)} download={attachment.name}>
                download
              </a>
              <button
                type="button"
                aria-label={`Take away ${attachment.name}`}
                className="shrink-0 hover:text-red"
                onClick={() =>
                  void carryOut(
                    done(
                      api.DELETE('/api/attachments/{number}', {
                        params: { path: { number: String(attachment.number) } },
                      }),
                    ),
                    'Taken away.',
                  ).then(refresh, () => undefined)
                }
              >
                take away
              </button>
            </span>
          </span>
        </div>
      ))}
      <Dialog
        title={large?.why || large?.name || ''}
        open={large !== undefined}
        onClose={() => setLarge(undefined)}
        wide
      >
        {large && (
          <img
            src={content(large)}
            alt={large.why || large.name}
            className="mx-auto max-h-[72vh] max-w-full object-contain"
          />
        )}
      </Dialog>
    </section>
  );
}
