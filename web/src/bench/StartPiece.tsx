import { useState } from 'react';
import { useNavigate } from 'react-router';
import { api, done, type Format } from '../api/client';
import { queryClient, useFormats } from '../api/queries';
import { carryOut } from '../papers/notices';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { useHeld } from '../ui/useField';

/** What a piece is begun from. */
export type Beginning =
  { slip: number } | { usable: number; title: string; format: string | undefined } | Record<string, never>;

/** Begins a piece. */
export function StartPiece({ open, onClose, from }: { open: boolean; onClose: () => void; from: Beginning }) {
  return (
    <Dialog title="Start a piece" open={open} onClose={onClose}>
      <StartForm from={from} onClose={onClose} />
    </Dialog>
  );
}

function StartForm({ onClose, from }: { onClose: () => void; from: Beginning }) {
  const formats = (useFormats().data ?? []).filter((f) => !f.isPutAway);
  const [title, setTitle] = useHeld(`piece.new${'slip' in from ? `.${from.slip}` : ''}`);
  const [format, setFormat] = useState('');
  const [error, setError] = useState('');
  const navigate = useNavigate();
  const isSlip = 'slip' in from;
  const key = format || formats[0]?.key || '';
  const start = async () => {
    try {
      const piece = isSlip
        ? (
            await carryOut(
              done(
                api.POST('/api/slips/{number}/decision', {
                  params: { path: { number: String(from.slip) } },
                  body: { decision: 'start', format: format || null, title: title.trim() || null },
                }),
              ),
              (settled) => `Started P ${settled.piece}.`,
            )
          ).piece
        : 'usable' in from
          ? (
              await carryOut(
                done(api.POST('/api/usable/{number}/use', { params: { path: { number: String(from.usable) } } })),
                (made) => `It is P ${made.piece} now.`,
              )
            ).piece
          : (
              await carryOut(
                done(api.POST('/api/pieces', { body: { title, format: key } })),
                (made) => `Started P ${made.number}.`,
              )
            ).number;
      await queryClient.invalidateQueries();
      setTitle('');
      onClose();
      void navigate(`/bench/${piece}`);
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  const chosen = formats.find((f) => f.key === key);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void start();
      }}
    >
      <label className="block">
        <span className="label block text-second">Title</span>
        <input
          autoFocus
          value={title}
          placeholder={isSlip ? 'as the slip begins' : ''}
          onChange={(event) => setTitle(event.target.value)}
          className="written w-full border-b border-ink bg-transparent py-1 text-[18px] outline-none focus:border-blue"
        />
      </label>
      {error && (
        <p role="alert" className="mt-1 text-red">
          {error}
        </p>
      )}
      <FormatChoice formats={formats} chosen={key} onChoose={setFormat} />
      {chosen && (
        <p className="mt-3 text-second">
          It begins with: {chosen.skeleton.map((section) => section.title.toLowerCase()).join(', ')}.
        </p>
      )}
      <div className="mt-5 text-right">
        <Button type="submit" look="main" disabled={!isSlip && !('usable' in from) && !title.trim()}>
          Start
        </Button>
      </div>
    </form>
  );
}

function FormatChoice({
  formats,
  chosen,
  onChoose,
}: {
  formats: readonly Format[];
  chosen: string;
  onChoose: (key: string) => void;
}) {
  return (
    <fieldset className="mt-5">
      <legend className="label text-second">Format</legend>
      {formats.map((f) => (
        <label
          key={f.key}
          className={`flex cursor-pointer items-baseline gap-3 border-b border-rule py-2 ${f.key === chosen ? 'bg-wash' : ''}`}
        >
          <input
            type="radio"
            name="format"
            value={f.key}
            checked={f.key === chosen}
            onChange={() => onChoose(f.key)}
            className="ml-2 accent-(--blue)"
          />
          <span className="w-28 font-semibold">{f.name}</span>
          <span className="text-second">
            {f.skeleton.length} sections, {f.aim.toLocaleString('en')} words
          </span>
        </label>
      ))}
    </fieldset>
  );
}
