import { useRef, useState } from 'react';
import { queryClient } from '../../api/queries';
import type { components } from '../../api/schema';
import { attach } from '../../papers/Attachments';
import { complain } from '../../papers/notices';
import { timeOf } from './queue';

/** What listeners get of a piece: its recording, which can be attached here, and the chapters its text names. */
export function Heard({ piece, preview }: { piece: number; preview: components['schemas']['SendingPreview'] }) {
  const chooser = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const { sound, chapters } = preview;
  const take = async (file: File | undefined) => {
    if (!file) return;
    setBusy(true);
    try {
      await attach('piece', piece, file);
      await queryClient.invalidateQueries();
    } catch (error) {
      complain(error);
    } finally {
      setBusy(false);
      if (chooser.current) chooser.current.value = '';
    }
  };
  return (
    <section aria-label="What is heard" className="mt-1.5 text-[13px]">
      {sound && (
        <>
          <p className="figures">
            <span className="font-semibold break-words">{sound.name}</span>
            {sound.length && <span className="text-second">, {sound.length}</span>}
          </p>
          <audio
            controls
            preload="none"
            aria-label={`Listen to ${sound.name}`}
            src={`/api/attachments/${sound.attachment}/content`}
            className="mt-1 h-9 w-full"
          />
        </>
      )}
      <p className="mt-1">
        <button type="button" className="link min-h-6" disabled={busy} onClick={() => chooser.current?.click()}>
          {busy ? 'attaching …' : sound ? 'another recording' : 'attach the recording'}
        </button>
        <input
          ref={chooser}
          type="file"
          accept="audio/*"
          aria-label="The recording"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => void take(event.target.files?.[0])}
        />
      </p>
      {chapters.length > 0 ? (
        <ol aria-label="Chapters" className="figures mt-1 max-h-40 overflow-y-auto">
          {chapters.map((chapter, nth) => (
            <li key={nth} className="flex gap-3 border-b border-rule py-1">
              <span className="w-12 shrink-0 text-right text-second">{timeOf(chapter.ms)}</span>
              <span className="min-w-0 break-words">{chapter.title}</span>
            </li>
          ))}
        </ol>
      ) : (
        <p className="mt-1 text-second">
          No chapters yet: a line that begins with a time, as in “4:10 The lane”, is one.
        </p>
      )}
    </section>
  );
}
