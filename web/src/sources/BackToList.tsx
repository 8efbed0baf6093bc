import { Link, useLocation } from 'react-router';

/** On a narrow screen the list and what is opened from it take turns. */
export function BackToList() {
  const { search } = useLocation();
  return (
    <Link to={{ pathname: '/library', search }} className="link mb-3 hidden text-[13px] max-md:inline-block">
      ‹ to the list
    </Link>
  );
}
