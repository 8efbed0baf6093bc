import { Empty } from '../ui/States';

export function Catalogue() {
  return (
    <Empty title="Catalogue is not built yet">
      Here everything that went out will stay findable: when, where, the text as it was sent, and what readers said.
      Until then Bench lists the pieces that are out below those in hand.
    </Empty>
  );
}
