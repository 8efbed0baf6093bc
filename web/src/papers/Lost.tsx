import { Link, useRouteError } from 'react-router';
import { Button } from '../ui/Button';
import { Empty } from '../ui/States';

/** An address that leads nowhere, or a screen that could not be drawn. */
export function Lost() {
  const error = useRouteError();
  if (error)
    return (
      <Empty
        title="This screen could not be drawn"
        action={<Button onClick={() => location.reload()}>Draw it again</Button>}
      >
        Something went wrong in the page itself. Nothing was lost: what you wrote is on the server or kept in this
        browser.
      </Empty>
    );
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
