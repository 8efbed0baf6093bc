import { useQuery } from '@tanstack/react-query';
import { api, ask, done } from '../api/client';
import type { components } from '../api/schema';
import { keys, queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';
import { TextField } from '../ui/TextField';

/** Longer aims: one text for all sheets, folded away until it is wanted. */
export function Aims({ block }: { block: components['schemas']['SheetBlock'] }) {
  const plan = useQuery({ queryKey: keys.dayPlan, queryFn: () => ask(api.GET('/api/desk/plan')) }).data;
  const save = async (text: string) => {
    if (!plan) throw new Error('The plan has not come yet. What you typed is still here.');
    await carryOut(
      done(
        api.PUT('/api/desk/plan', {
          body: {
            version: plan.version,
            daysOff: plan.daysOff,
            blocks: plan.blocks.map((one) => (one.number === block.block ? { ...one, text } : one)),
          },
        }),
      ),
      'Aims changed, on every sheet.',
    );
    await queryClient.invalidateQueries();
  };
  return (
    <details>
      <summary className="label cursor-pointer text-second">{block.heading || 'Longer aims'}</summary>
      <TextField
        label={block.heading || 'Longer aims'}
        shown={false}
        lines
        value={block.prompt}
        placeholder="What is all this to come to, and by when?"
        onSave={save}
        className="written mt-1 max-w-[46rem] text-[15.5px] leading-[1.55]"
      />
    </details>
  );
}
