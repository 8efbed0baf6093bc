import { PinnedInHead } from '../plan/Pinned';
import { Reminders } from '../plan/moves/Reminders';
import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { Link, Outlet, useLocation, useNavigate } from 'react-router';
import { useTally } from '../api/queries';
import { useLine } from '../api/events';
import { CaptureStrip } from '../capture/CaptureStrip';
import { ActionMenu } from '../ui/ActionMenu';
import { DrawnCard } from '../ideas/decks/DrawnCard';
import { LinkOffers } from '../text/LinkOffers';
import { FindBox } from './FindBox';
import { Busy } from './Busy';
import { Kept } from './Kept';
import { KeysDialog } from './KeysDialog';
import { Notices } from './Notices';
import { isTyping } from './keys';
import { isKey, keyOf, keysShown, screenFor, useOwnKeys } from './ownKeys';
import { inSight } from '../ui/useNarrow';
import { screens } from './screens';
import { chooseTheme, chosenTheme } from './theme';
import { CaptureKeysDialog } from './CaptureKeysDialog';
import { PapersDialog } from './PapersDialog';
import { PassphraseDialog } from './PassphraseDialog';

/** What stands around every screen: the masthead with the seven tabs, the find box, and the capture strip. */
export function Frame() {
  const location = useLocation();
  const navigate = useNavigate();
  const screen = location.pathname.split('/')[1] ?? '';
  const [keysOpen, setKeysOpen] = useState(false);
  const [papersOpen, setPapersOpen] = useState(false);
  const [doorsOpen, setDoorsOpen] = useState(false);
  const [passphraseOpen, setPassphraseOpen] = useState(false);
  const going = useRef(-Infinity);
  useOwnKeys();

  // Before the screen's own effects, which may say more exactly where one is.
  useLayoutEffect(() => {
    const name = screens.find((s) => s.path === `/${screen}`)?.name;
    document.title = name ? `${name} · Nachlass` : 'Nachlass';
  }, [screen]);

  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.defaultPrevented || isTyping(event.target)) return;
      // By when the keys were pressed, not by when a busy page came to hear of it.
      if (event.timeStamp - going.current < 2_000) {
        going.current = -Infinity;
        const to = screenFor(event);
        if (to) {
          event.preventDefault();
          event.stopImmediatePropagation();
          void navigate(to.path);
        }
        return;
      }
      if (isKey(event, 'all.go')) going.current = event.timeStamp;
      if (isKey(event, 'all.keys')) setKeysOpen(true);
    };
    // Before the screens' own letters, since "g s" is not "s".
    window.addEventListener('keydown', listen, true);
    return () => window.removeEventListener('keydown', listen, true);
  }, [navigate]);

  return (
    <div className="fixed inset-0 flex flex-col overflow-clip">
      <LinkOffers />
      <a href="#screen" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-2">
        To the sheet
      </a>
      <header className="flex h-[54px] shrink-0 items-end gap-4 bg-board pl-6 pr-4 max-md:h-auto max-md:flex-wrap max-md:gap-x-2 max-md:px-3 max-md:pt-2">
        <Link
          to="/desk"
          className="written mb-2.5 text-[23px] leading-none italic max-md:mb-1"
          aria-label="Nachlass, to the desk"
        >
          Nachlass
        </Link>
        <Tabs screen={screen} />
        <div className="mb-2 flex flex-1 items-center justify-end gap-2 max-md:order-2 max-md:mb-1">
          <PinnedInHead />
          <Kept />
          <FindBox />
          <ActionMenu
            label="More"
            className="h-8 w-8 rounded-key border border-hair text-second hover:text-ink"
            actions={[
              { key: 'keys', label: 'Keys', note: keysShown(keyOf('all.keys')), onChoose: () => setKeysOpen(true) },
              ...(['day', 'night', 'system'] as const).map((theme) => ({
                key: theme,
                label: { day: 'Day light', night: 'Night light', system: 'Light as the system has it' }[theme],
                note: chosenTheme() === theme ? '✓' : '',
                onChoose: () => chooseTheme(theme),
              })),
              { key: 'in', label: 'Bring in', onChoose: () => void navigate('/bring-in') },
              { key: 'doors', label: 'Keys for other programs', onChoose: () => setDoorsOpen(true) },
              { key: 'safe', label: 'Copies and mirror', onChoose: () => void navigate('/papers') },
              { key: 'papers', label: 'Take out or bring in papers', onChoose: () => setPapersOpen(true) },
              { key: 'passphrase', label: 'Passphrase', onChoose: () => setPassphraseOpen(true) },
            ]}
          >
            ⋯
          </ActionMenu>
        </div>
      </header>
      <Busy />
      <Away />
      <main id="screen" tabIndex={-1} className="min-h-0 flex-1 overflow-hidden bg-sheet outline-none">
        <Outlet />
      </main>
      <CaptureStrip />
      <Reminders />
      <Notices />
      <DrawnCard />
      <KeysDialog screen={screen} open={keysOpen} onClose={() => setKeysOpen(false)} />
      <CaptureKeysDialog open={doorsOpen} onClose={() => setDoorsOpen(false)} />
      <PassphraseDialog open={passphraseOpen} onClose={() => setPassphraseOpen(false)} />
      <PapersDialog open={papersOpen} onClose={() => setPapersOpen(false)} />
    </div>
  );
}

function Tabs({ screen }: { screen: string }) {
  const tally = useTally().data;
  const bar = useRef<HTMLElement>(null);
  const isCounted = tally !== undefined;
  // On the phone not all of them have room at once, with their counts less than without.
  useEffect(() => {
    inSight(bar.current?.querySelector('[aria-current=page]'));
  }, [screen, isCounted]);
  return (
    <nav
      ref={bar}
      aria-label="Screens"
      className="flex h-[38px] items-stretch max-md:order-3 max-md:-mx-3 max-md:w-[calc(100%+1.5rem)] max-md:overflow-x-auto max-md:px-2"
    >
      {screens.map(({ name, path, count, counts }) => {
        const current = path === `/${screen}`;
        const number = count && tally?.[count];
        return (
          <Link
            key={path}
            to={path}
            aria-current={current ? 'page' : undefined}
            title={number ? `${number} ${counts}` : undefined}
            className={`relative flex items-baseline gap-1.5 px-[14px] pt-[9px] text-[13.5px] font-semibold max-md:px-2.5 ${current ? 'bg-sheet text-ink' : 'text-second hover:text-ink'}`}
          >
            {current && <span className="absolute inset-x-3 top-0 h-[3px] bg-blue" />}
            {name}
            {number ? <span className="narrow figures text-[11px] font-medium text-faint">{number}</span> : null}
          </Link>
        );
      })}
    </nav>
  );
}

/** Says when the server is away, after a moment, and that nothing is lost. */
function Away() {
  const line = useLine();
  const [late, setLate] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLate(!line), line ? 0 : 2_500);
    return () => clearTimeout(timer);
  }, [line]);
  if (line || !late) return null;
  return (
    <p role="status" className="border-b border-manila-edge bg-manila px-6 py-1.5 text-[12.5px] text-manila-ink">
      The server can’t be reached. What you write is kept in this browser and goes on when it is back.
    </p>
  );
}
