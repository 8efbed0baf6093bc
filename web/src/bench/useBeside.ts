import { useEffect, useState } from 'react';
import { besideViews, type BesideView } from './beside/BesideColumn';

const place = 'nachlass.beside';

/** What stands beside the text, remembered in this browser, and whether it stands beside the sheet alone. */
export function useBeside(isAlone: boolean) {
  const [view, setView] = useState<BesideView>(
    () => besideViews.find(([key]) => key === localStorage.getItem(place))?.[0] ?? 'material',
  );
  const [asked, setAsked] = useState(0);
  const [isOver, setOver] = useState(false);
  useEffect(() => {
    document.body.classList.toggle('sheet-beside', isAlone && isOver);
    return () => document.body.classList.remove('sheet-beside');
  }, [isAlone, isOver]);
  const show = (next: BesideView, isFocused = false) => {
    localStorage.setItem(place, next);
    setView(next);
    setOver(true);
    if (isFocused) setAsked((times) => times + 1);
  };
  return {
    view,
    asked,
    show,
    /** By key: the choice of what stands there. */
    choose: () => show(view, true),
    leave: () => {
      setOver(false);
      setAsked(0);
    },
  };
}
