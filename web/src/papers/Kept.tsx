import { useKeeping } from './keeping';

const words = {
  saved: '',
  typing: 'writing…',
  saving: 'keeping…',
  kept: 'in this browser, not on the server yet',
  clash: 'changed in two places',
};

/** The one place that tells how safe everything typed in this tab is. */
export function Kept() {
  const { state, at } = useKeeping();
  const isBad = state === 'kept' || state === 'clash';
  return (
    <span
      role="status"
      aria-label="What was typed"
      className={`figures narrow text-right text-[12px] leading-tight max-md:text-[11.5px] ${isBad ? 'max-w-32 font-semibold text-red' : 'whitespace-nowrap text-second'}`}
    >
      {state === 'saved' ? at && `kept ${at}` : words[state]}
    </span>
  );
}
