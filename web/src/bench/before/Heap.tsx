import { useRef, useState } from 'react';
import { api, ask, done, type Brief, type BriefShown, type Done, type Draft } from '../../api/client';
import { keys, queryClient } from '../../api/queries';
import { GrowingText } from '../../capture/GrowingText';
import { carryOut } from '../../papers/notices';
import { Button } from '../../ui/Button';
import { TwoTexts } from '../../ui/TwoTexts';
import { useField } from '../../ui/useField';
import { numbered } from '../headings';
import { refreshPiece } from '../refreshPiece';

/** Raw words and phrases. Chosen lines go over to a section by key, press or drag, and are gone from here then. */
export function Heap({
  piece,
  brief,
  sections,
  onDraft,
}: {
  piece: number;
  brief: Brief;
  sections: Draft['sections'];
  onDraft: <T extends { draft: Draft }>(run: () => Promise<Done<T>>) => Promise<Done<T>>;
}) {
  const path = { number: String(piece) };
  const area = useRef<HTMLTextAreaElement>(null);
  const [into, setInto] = useState<number | null>(null);
  const [over, setOver] = useState<number | null>(null);
  const [chosen, setChosen] = useState(0);
  const field = useField(
    `piece.${piece}.heap`,
    brief.heap,
    async (heap) => {
      const saved = await done(
        api.PUT('/api/pieces/{number}/brief', { params: { path }, body: { heap, version: brief.version } }),
      );
      queryClient.setQueryData(keys.brief(piece), saved.answer);
      return saved;
    },
    true,
  );
  const numbers = numbered(sections.map((section) => section.depth));
  // A section that is gone is no place any more.
  const target = sections.find((section) => section.number === into)?.number ?? sections[0]?.number ?? null;
  const send = async (section: number | null) => {
    const own = area.current;
    if (!own || field.text.trim() === '') return;
    const [start, end] = [own.selectionStart, own.selectionEnd];
    await field.flush();
    const title = sections.find((one) => one.number === section)?.title;
    const run = async () => {
      const now =
        queryClient.getQueryData<BriefShown>(keys.brief(piece)) ??
        (await ask(api.GET('/api/pieces/{number}/brief', { params: { path } })));
      return done(
        api.POST('/api/pieces/{number}/heap/over', {
          params: { path },
          body: { start, end, version: now.brief.version, section: section ?? undefined },
        }),
      );
    };
    await carryOut(
      onDraft(run),
      title ? `It stands in “${title}” now, and is gone from the heap.` : 'It stands in the draft now.',
    ).catch(() => undefined);
    await refreshPiece();
    own.focus();
    own.setSelectionRange(start, start);
  };
  const look = () => {
    const own = area.current;
    if (!own) return;
    setChosen(
      own.value
        .slice(own.selectionStart, own.selectionEnd)
        .split('\n')
        .filter((line) => line.trim()).length,
    );
  };
  return (
    <section aria-label="Heap" className="mt-6">
      <h2 className="label flex items-baseline border-b border-ink pb-1">
        A heap
        <span className="ml-auto text-[12px] font-medium tracking-normal text-second normal-case">
          raw words, never counted as draft
        </span>
      </h2>
      <div className="mt-2 border border-hair px-4 py-2.5" onFocus={field.enter} onBlur={() => void field.flush()}>
        <GrowingText
          label="Heap of raw words"
          field={area}
          value={field.text}
          least={140}
          placeholder="Words, phrases, half a sentence; a line each."
          onChange={field.change}
          onSelect={look}
          onKeyDown={(event) => {
            if (event.key === 'Escape') field.putBack();
            if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
              event.preventDefault();
              void send(target);
            }
          }}
        />
      </div>
      {field.error && (
        <p role="alert" className="text-red">
          {field.error}
        </p>
      )}
      {field.clash && <TwoTexts {...field.clash} onChoose={field.settle} />}
      {sections.length === 0 ? (
        <p className="mt-2">
          <Button disabled={field.text.trim() === ''} onClick={() => void send(null)}>
            Put {chosen > 1 ? `${chosen} lines` : 'the line'} into the draft
          </Button>
        </p>
      ) : (
        <>
          <div className="mt-2 flex flex-wrap items-baseline gap-x-3 gap-y-1">
            <Button
              disabled={field.text.trim() === '' || target === null}
              // The choice in the text stays where it is.
              onMouseDown={(event) => event.preventDefault()}
              onClick={() => void send(target)}
            >
              Put {chosen > 1 ? `${chosen} lines` : 'the line'} into
            </Button>
            <select
              aria-label="Section that lines of the heap go into"
              value={target ?? ''}
              onChange={(event) => setInto(Number(event.target.value))}
              className="field-sizing-content max-w-full min-w-0 bg-transparent"
            >
              {sections.map((section, at) => (
                <option key={section.number} value={section.number}>
                  {numbers[at]} {section.title}
                </option>
              ))}
            </select>
            <span className="text-[12px] text-second">Ctrl Enter; or drag chosen words onto a section</span>
          </div>
          <ol aria-label="Sections to drag onto" className="mt-1.5 grid grid-cols-2 gap-x-4">
            {sections.map((section, at) => (
              <li
                key={section.number}
                data-into={section.number}
                onDragOver={(event) => {
                  if (!event.dataTransfer.types.includes('text/plain')) return;
                  event.preventDefault();
                  event.dataTransfer.dropEffect = 'move';
                  setOver(section.number);
                }}
                onDragLeave={() => setOver(null)}
                onDrop={(event) => {
                  event.preventDefault();
                  setOver(null);
                  void send(section.number);
                }}
                className={`flex items-baseline gap-2 border-b py-0.5 text-[12.5px] ${over === section.number ? 'border-blue bg-wash' : 'border-rule'}`}
              >
                <span className="narrow figures text-[11.5px] text-second">{numbers[at]}</span>
                <span className="min-w-0 truncate">{section.title}</span>
                <span className="figures narrow ml-auto text-[11.5px] text-second">{section.counts.words}</span>
              </li>
            ))}
          </ol>
        </>
      )}
    </section>
  );
}
