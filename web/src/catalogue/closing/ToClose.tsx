import { Link } from 'react-router';
import { useClosings } from './closing';

const shown = 3;

/** The latest pieces that went out and are not closed yet. */
export function ToClose() {
  const open = (useClosings().data ?? []).filter((one) => one.isDue);
  if (open.length === 0) return null;
  return (
    <section aria-label="To close" className="mb-7">
      <h2 className="label flex items-baseline border-b border-ink pb-2">
        To close
        <Link to="/catalogue/learned" className="link ml-auto text-[12.5px] tracking-normal normal-case">
          {open.length > shown ? `all ${open.length}` : 'what was learned'}
        </Link>
      </h2>
      <ul className="mt-2">
        {open.slice(0, shown).map((one) => (
          <li key={one.piece} className="py-0.5">
            <Link
              to={`/catalogue/close/${one.piece}`}
              className="written text-[15.5px] leading-snug break-words hover:text-blue"
            >
              {one.title}
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
