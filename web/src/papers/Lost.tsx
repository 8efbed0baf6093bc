import { Link } from 'react-router';
import { Empty } from '../ui/States';

export function Lost() {
  return (
    <Empty
      title="There is nothing at this address"
      action={
        <Link to="/desk" className="link text-[14px] font-semibold">
          To the desk
        </Link>
      }
    >
      Nothing was lost; the address may be mistyped, or what stood here has another number.
    </Empty>
  );
}
