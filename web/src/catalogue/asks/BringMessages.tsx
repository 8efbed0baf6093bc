import { useRef, useState } from 'react';
import { api, done } from '../../api/client';
import { queryClient } from '../../api/queries';
import { complain, say } from '../../papers/notices';
import { Button } from '../../ui/Button';
import { several } from '../catalogue';

/** Takes in files of messages and says what came of them. */
export function BringMessages() {
  const files = useRef<HTMLInputElement>(null);
  const [isBusy, setBusy] = useState(false);
  const [unread, setUnread] = useState<readonly string[]>([]);
  const bring = async (chosen: FileList | null) => {
    if (!chosen || chosen.length === 0) return;
    const form = new FormData();
    for (const file of chosen) form.append('files', file, file.name);
    setBusy(true);
    setUnread([]);
    try {
      const { answer, command } = await done(
        api.POST('/api/messages/import', { body: form as never, bodySerializer: (body) => body }),
      );
      setUnread(answer.unread);
      say(
        answer.messages === 0
          ? `All ${answer.there} were there already.`
          : `Brought in ${several(answer.messages, 'message')}${answer.there > 0 ? `, ${answer.there} were there already` : ''}; ${several(answer.wishes, 'wish').replace('wishs', 'wishes')}, ${several(answer.asks, 'new ask')}.`,
        command,
      );
      await queryClient.invalidateQueries();
    } catch (error) {
      complain(error);
    } finally {
      setBusy(false);
      if (files.current) files.current.value = '';
    }
  };
  return (
    <>
      <Button disabled={isBusy} onClick={() => files.current?.click()}>
        {isBusy ? 'Reading…' : 'Bring in messages…'}
      </Button>
      <input
        ref={files}
        type="file"
        multiple
        aria-label="Files with messages"
        accept=".csv,.tsv,.json,.jsonl,.mbox,.eml,.zip"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => void bring(event.target.files)}
      />
      {unread.length > 0 && (
        <details role="alert" className="w-full text-[12.5px] text-red">
          <summary className="min-h-6 cursor-pointer">{several(unread.length, 'place')} could not be read</summary>
          <ul>
            {unread.map((place) => (
              <li key={place}>{place}</li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}
