import { keysShown, useKeyOf, type ActName } from '../papers/ownKeys';
import { Key } from './Key';

/** Shows the key that does something now. */
export function KeyOf({ act }: { act: ActName }) {
  return <Key>{keysShown(useKeyOf(act))}</Key>;
}
