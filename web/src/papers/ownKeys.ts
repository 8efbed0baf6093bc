import { useQuery } from '@tanstack/react-query';
import { useEffect, useSyncExternalStore } from 'react';
import { api, ask } from '../api/client';
import { keys as queryKeys } from '../api/queries';
import { screens } from './screens';

/** Where a key counts: on one screen, everywhere, or as the second after the key that goes somewhere. */
export type KeyGroup = 'everywhere' | 'go' | 'desk' | 'sift' | 'library' | 'bench' | 'plan' | 'catalogue';

type Act = { group: KeyGroup; born: string; what: string };

const act = (group: KeyGroup, born: string, what: string): Act => ({ group, born, what });

/** All that a key can be given to, with the key it is born with. */
export const acts = {
  'all.catch': act('everywhere', 'c', 'catch something: the cursor goes into the strip'),
  'all.catchAnywhere': act('everywhere', 'Ctrl+Shift+Space', 'catch something from inside any text, and back'),
  'all.draw': act('everywhere', 'Alt+q', 'draw a card to begin from, into the text where the cursor is'),
  'all.find': act('everywhere', '/', 'find, or go to a number or a date'),
  'all.go': act('everywhere', 'g', 'go somewhere: then one of the letters below'),
  'all.keys': act('everywhere', '?', 'show these keys'),
  'all.pinned1': act('everywhere', 'F2', 'to the first pinned piece'),
  'all.pinned2': act('everywhere', 'F4', 'to the second'),
  'all.pinned3': act('everywhere', 'F8', 'to the third'),
  'all.pinned4': act('everywhere', 'F9', 'to the fourth'),
  'go.desk': act('go', 'd', 'to the Desk'),
  'go.sift': act('go', 's', 'to Sift'),
  'go.library': act('go', 'l', 'to the Library'),
  'go.topics': act('go', 't', 'to Topics'),
  'go.bench': act('go', 'b', 'to the Bench'),
  'go.plan': act('go', 'p', 'to Plan'),
  'go.catalogue': act('go', 'a', 'to the Catalogue'),
  'desk.write': act('desk', 'w', 'write: the cursor goes into the free writing'),
  'desk.date': act('desk', 'y', 'go to a day by typing it'),
  'desk.before': act('desk', 'ArrowLeft', 'the day before'),
  'desk.after': act('desk', 'ArrowRight', 'the day after'),
  'desk.title': act('desk', 'Alt+Enter', 'title and words for a ruled line'),
  'desk.lift': act('desk', 'Ctrl+Enter', 'lift the selection or paragraph out of the free writing'),
  'desk.up': act('desk', 'Alt+ArrowUp', 'move the block of the plan, or the move, up'),
  'desk.down': act('desk', 'Alt+ArrowDown', 'move the block of the plan, or the move, down'),
  'sift.keep': act('sift', 'k', 'keep'),
  'sift.start': act('sift', 's', 'start a piece'),
  'sift.piece': act('sift', 'p', 'put into another piece'),
  'sift.hold': act('sift', 'h', 'hold: a date, an occasion, enough sources, something to look up'),
  'sift.merge': act('sift', 'm', 'merge into another slip'),
  'sift.drop': act('sift', 'd', 'drop'),
  'sift.pass': act('sift', 'n', 'leave as it is (when going through again)'),
  'sift.back': act('sift', 'z', 'take the last decision back, again and again'),
  'sift.topics': act('sift', 't', 'topics; Tab takes the likeliest'),
  'sift.change': act('sift', 'e', 'change the text'),
  'sift.split': act('sift', 'x', 'split the slip'),
  'sift.refine': act('sift', 'r', 'refine it into a claim'),
  'sift.strong': act('sift', 'f', 'its pull as strong as can be, and back'),
  'review.keep': act('library', 'k', 'keep a new source (while going through them)'),
  'review.drop': act('library', 'd', 'drop a new source'),
  'review.back': act('library', 'z', 'take the last decision back'),
  'plan.today': act('plan', 't', 'the move that is chosen: to today'),
  'plan.tomorrow': act('plan', 'o', 'to tomorrow'),
  'plan.week': act('plan', 'w', 'to a week from now'),
  'plan.done': act('plan', 'd', 'done'),
  'closing.keep': act('catalogue', 'k', 'keep the passage as a slip (while closing a piece)'),
  'closing.claim': act('catalogue', 'r', 'keep it as a claim'),
  'closing.back': act('catalogue', 'z', 'take the last one back'),
  'ideas.take': act('bench', 'k', 'take a proposed idea, as a slip'),
  'ideas.start': act('bench', 's', 'take it and start a piece from it'),
  'ideas.later': act('bench', 'h', 'not now: behind the others'),
  'ideas.refuse': act('bench', 'd', 'no: neither it nor its kin is proposed again'),
  'ideas.change': act('bench', 'e', 'change its words'),
  'ideas.choose': act('bench', 'x', 'choose it with others'),
  'ideas.back': act('bench', 'z', 'take the last decision back'),
  'bench.stageBack': act('bench', '[', 'one stage back'),
  'bench.stageOn': act('bench', ']', 'one stage on'),
  'bench.up': act('bench', 'Alt+ArrowUp', 'move the section up (in the outline)'),
  'bench.down': act('bench', 'Alt+ArrowDown', 'move the section down'),
  'bench.shallower': act('bench', 'Alt+ArrowLeft', 'nest the section less'),
  'bench.deeper': act('bench', 'Alt+ArrowRight', 'nest the section more'),
  'bench.outline': act('bench', 'Ctrl+Enter', 'leave the draft for the outline'),
  'bench.lift': act('bench', 'Ctrl+Shift+Enter', 'lift the paragraph or selection out as a slip'),
  'bench.split': act('bench', 'Alt+Enter', 'split the section at the cursor'),
  'bench.jump': act('bench', 'Alt+g', 'go to a section or a mark'),
  'bench.mark': act('bench', 'Alt+m', 'mark the place at the cursor, to come back to'),
  'bench.attention': act('bench', 'Alt+a', 'attend to the section, the paragraph, the sentence, the whole text'),
  'bench.hold': act('bench', 'Alt+l', 'hold the line one writes in at one height, and let it go'),
  'bench.alone': act('bench', 'Alt+s', 'nothing but the sheet, and back'),
  'bench.find': act('bench', 'Ctrl+f', 'find and replace in the draft'),
  'bench.lastEdit': act('bench', 'Alt+e', 'go to the last change, and to the one before it'),
  'bench.words': act('bench', 'Alt+w', 'the word at the cursor: spelling, synonyms, meanings'),
  'bench.note': act('bench', 'Alt+n', 'a note below the paragraph'),
  'bench.remark': act('bench', 'Alt+r', 'a remark to yourself, which never goes out'),
  'bench.pattern': act('bench', 'Alt+p', 'put in a pattern, a standing text or a bit'),
  'bench.picture': act('bench', 'Alt+i', 'put in a picture, or change the one at the cursor'),
  'bench.beside': act('bench', 'Alt+b', 'beside the text: choose what stands there; Escape goes back'),
  'bench.back': act('bench', 'Ctrl+z', 'step back, over draft, outline and material'),
  'bench.forward': act('bench', 'Ctrl+Shift+z', 'step forward again'),
} satisfies Record<string, Act>;

export type ActName = keyof typeof acts;

export const actNames = Object.keys(acts) as ActName[];

let own: Readonly<Record<string, string>> = {};
const watchers = new Set<() => void>();

const watch = (told: () => void) => {
  watchers.add(told);
  return () => void watchers.delete(told);
};

/** The key that does it now. */
export const keyOf = (name: ActName): string => own[name] ?? acts[name].born;

export const isOwn = (name: ActName): boolean => name in own;

/** The key that does it, followed as it changes. */
export const useKeyOf = (name: ActName): string => useSyncExternalStore(watch, () => keyOf(name));

/** Keeps the keys in step with the papers; once, for the whole app. */
export function useOwnKeys(): void {
  const given = useQuery({
    queryKey: queryKeys.ownKeys,
    queryFn: () => ask(api.GET('/api/own-keys')),
    staleTime: 60_000,
  }).data;
  useEffect(() => {
    if (!given) return;
    own = Object.fromEntries(given.map((key) => [key.action, key.keys]));
    watchers.forEach((told) => told());
  }, [given]);
}

/** What was pressed, as it is kept: "k", "Ctrl+Shift+Enter"; nothing while only a modifier is down. */
export function pressed(event: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>): string {
  if (['Control', 'Meta', 'Alt', 'Shift', 'AltGraph', 'Dead', 'Process', 'Unidentified'].includes(event.key)) return '';
  const ctrl = event.ctrlKey || event.metaKey;
  const key = event.key === ' ' ? 'Space' : event.key;
  const isSign = [...key].length === 1;
  return [
    ctrl ? 'Ctrl' : '',
    event.altKey ? 'Alt' : '',
    // Shift is in the sign itself already, unless Ctrl takes the sign apart.
    event.shiftKey && (!isSign || ctrl) ? 'Shift' : '',
    isSign && ctrl ? key.toLowerCase() : key,
  ]
    .filter(Boolean)
    .join('+');
}

/** Whether a key that was pressed is the one for this. */
export const isKey = (event: Parameters<typeof pressed>[0], name: ActName): boolean => pressed(event) === keyOf(name);

/** What already goes by a key where the other would count too. */
export function clashing(name: ActName, keys: string): ActName | undefined {
  const { group } = acts[name];
  return actNames.find(
    (other) =>
      other !== name &&
      keyOf(other) === keys &&
      (acts[other].group === group ||
        (group !== 'go' && acts[other].group === 'everywhere') ||
        (group === 'everywhere' && acts[other].group !== 'go')),
  );
}

const lost = [
  'Ctrl+w',
  'Ctrl+t',
  'Ctrl+n',
  'Ctrl+Shift+w',
  'Ctrl+Shift+t',
  'Ctrl+Shift+n',
  'F5',
  'Ctrl+r',
  'F11',
  'F12',
];
const meant = ['Escape', 'Tab', 'Shift+Tab', 'Enter', 'Space', 'Backspace'];

/** Why a key can't be given to something; nothing when it can. */
export function refusal(keys: string): string {
  if (lost.includes(keys)) return `${keysShown(keys)} belongs to the browser.`;
  if (meant.includes(keys)) return `${keysShown(keys)} goes through fields, lists and dialogs everywhere.`;
  if (/^[0-9]$/.test(keys)) return 'Digits choose what is offered under them.';
  return '';
}

const signs: Record<string, string> = {
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  Enter: '↵',
  Shift: '⇧',
};

/** A key as it is shown: "Ctrl ⇧ ↵", "K". */
export const keysShown = (keys: string): string =>
  keys === '+'
    ? keys
    : keys
        .split('+')
        .map((part) => signs[part] ?? (part.length === 1 ? part.toUpperCase() : part))
        .join(' ');

/** The act of going to a screen. */
export const goAct = (path: string): ActName => `go.${path.slice(1)}` as ActName;

/** The screen a key goes to after the one that goes somewhere. */
export const screenFor = (event: KeyboardEvent) => screens.find((screen) => isKey(event, goAct(screen.path)));
