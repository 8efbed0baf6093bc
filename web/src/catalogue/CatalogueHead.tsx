import { useEffect, type ReactNode } from 'react';
import { Link, useLocation } from 'react-router';

/** The ways of looking at what went out, beside each other. */
export function CatalogueHead({ title, newest, children }: { title: string; newest?: number; children?: ReactNode }) {
  const { pathname } = useLocation();
  useEffect(() => {
    document.title = `${title} · Nachlass`;
  }, [title]);
  const ways: [string, string][] = [
    ['/catalogue', 'as a list'],
    ['/catalogue/outlets', 'by outlet'],
    ['/catalogue/covers', 'covers'],
    ['/catalogue/asks', 'what readers ask'],
    ['/catalogue/messages', 'messages'],
    ['/catalogue/again', 'used again'],
    ['/catalogue/figures', 'figures'],
    ['/catalogue/learned', 'learned'],
    ['/catalogue/pages', 'own pages'],
    ['/catalogue/queue', 'on its way'],
    ...(newest ? ([[`/catalogue/years/${newest}`, 'the year in review']] as [string, string][]) : []),
  ];
  const isHere = (to: string) =>
    to === '/catalogue'
      ? pathname === to
      : pathname.startsWith(to.startsWith('/catalogue/years') ? '/catalogue/years' : to);
  return (
    <header className="mb-3">
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <h1 className="written text-[27px] leading-tight font-semibold">{title}</h1>
        <nav aria-label="Catalogue" className="flex flex-wrap items-baseline gap-x-4 gap-y-1 text-[13px]">
          {ways.map(([to, name]) =>
            isHere(to) ? (
              <span key={to} aria-current="page" className="inline-flex min-h-6 items-center font-semibold text-blue">
                {name}
              </span>
            ) : (
              <Link key={to} to={to} className="inline-flex min-h-6 items-center text-second hover:text-blue">
                {name}
              </Link>
            ),
          )}
        </nav>
      </div>
      {children}
    </header>
  );
}
