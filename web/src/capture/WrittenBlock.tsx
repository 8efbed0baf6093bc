import { useCallback } from 'react';
import { api, ask } from '../api/client';
import type { components } from '../api/schema';
import { TwoTexts } from '../ui/TwoTexts';
import { useAutosave } from '../ui/useAutosave';
import { GrowingText } from './GrowingText';

type Block = components['schemas']['SheetBlock'];

/** A question to answer, a text to go on from, or what was written there the last time; it saves itself. */
export function WrittenBlock({ day, block }: { day: string; block: Block }) {
  const save = useCallback(
    (text: string, version: number) =>
      ask(
        api.PUT('/api/desk/{day}/blocks/{block}', {
          params: { path: { day, block: block.block } },
          body: { text, version },
        }),
      ),
    [day, block.block],
  );
  const { text, change, state, clash, settle, origin, error } = useAutosave(
    `nachlass.block.${day}.${block.block}`,
    block,
    save,
  );
  return (
    <>
      {block.prompt && <p className="written mb-0.5 text-[15.5px] text-second italic">{block.prompt}</p>}
      <GrowingText
        label={block.heading || block.prompt || 'Text'}
        value={text}
        least={30}
        placeholder={block.kind === 'question' ? 'answer' : ''}
        onChange={change}
      />
      {block.fault && (
        <p role="alert" className="mt-1 border-l-[3px] border-red pl-2 text-[12px]">
          {block.fault.line > 0 && `Line ${block.fault.line}, place ${block.fault.column}: `}
          {block.fault.reason} The text stands as it is in the plan.
        </p>
      )}
      {state === 'kept' && <p className="text-[12px] text-red">{error}</p>}
      {clash && <TwoTexts mine={text} theirs={clash.text} origin={origin()} onChoose={settle} />}
    </>
  );
}
