import { Link, useLocation } from 'react-router';

const parts = [
  ['/plan', 'Weeks'],
  ['/plan/stages', 'Stages'],
  ['/plan/moves', 'Moves'],
  ['/plan/occasions', 'Occasions'],
  ['/plan/figures', 'Figures'],
  ['/plan/outlets', 'Outlets and hours'],
] as const;

/** The pages of the plan, beside each other. */
export function PlanNav() {
  const { pathname } = useLocation();
  return (
    <nav aria-label="Plan" className="ml-auto flex flex-wrap items-baseline gap-x-4 gap-y-1 text-[13px]">
      {parts.map(([to, name]) =>
        to === pathname ? (
          <span key={to} aria-current="page" className="font-semibold text-blue">
            {name}
          </span>
        ) : (
          <Link key={to} to={to} className="link">
            {name}
          </Link>
        ),
      )}
    </nav>
  );
}
