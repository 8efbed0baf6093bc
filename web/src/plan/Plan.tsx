import { Empty } from '../ui/States';

export function Plan() {
  return (
    <Empty title="Plan is not built yet">
      Here the pieces will stand on dates: the weeks ahead with what goes out when, how full each week is, and the open
      dates that no piece fills. Until then each piece carries its own due date, and Bench lists them by it.
    </Empty>
  );
}
