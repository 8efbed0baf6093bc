import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { api, ask, type ComparedParagraph, type VersionShown } from '../../api/client';
import { keys } from '../../api/queries';
import { Button } from '../../ui/Button';
import { Failed, Loading } from '../../ui/States';
import { TextField } from '../../ui/TextField';
import { clock, longDay } from '../../ui/dates';
import { calledSo } from './VersionsPart';

type Taken = { section?: number; paragraphs?: number[] };

/** A stretch of the comparison: one paragraph, or several that are as they were and folded away. */
type Stretch = { at: number; paragraph: ComparedParagraph } | { at: number; folded: number };

const plain = (text: string) => text.replace(/^#{1,6}\s+/, '').trim();

/** Two versions beside each other, what changed first; each paragraph, section or the whole can be taken back. */
export function Compared({
  piece,
  old,
  next,
  choices,
  onAgainst,
  onName,
  onTake,
}: {
  piece: number;
  old: VersionShown;
  /** The draft as it is now, or another version. */
  next: VersionShown;
  choices: readonly VersionShown[];
  onAgainst: (next: number | undefined) => void;
  onName: (name: string) => Promise<unknown>;
  onTake: (what: Taken, said: string) => Promise<unknown>;
}) {
  const [isBeside, setBeside] = useState(() => localStorage.getItem('nachlass.versions') === 'beside');
  const [opened, setOpened] = useState<ReadonlySet<number>>(new Set());
  const [isTaking, setTaking] = useState(false);
  const box = useRef<HTMLDivElement>(null);
  const compared = useQuery({
    queryKey: keys.compared(piece, old.number!, next.number),
    queryFn: () =>
      ask(
        api.GET('/api/pieces/{number}/versions/{a}/against/{b}', {
          params: { path: { number: String(piece), a: String(old.number), b: String(next.number ?? 'now') } },
        }),
      ),
  });
  if (compared.error) return <Failed error={compared.error} onRetry={() => void compared.refetch()} />;
  if (!compared.data) return <Loading what="Opening both versions" />;
  const { paragraphs, added, removed } = compared.data.comparison;
  const isNow = next.number === null;
  const take = (what: Taken, said: string) => {
    setTaking(true);
    void onTake(what, said)
      .then(() => compared.refetch())
      .catch(() => undefined)
      .finally(() => setTaking(false));
  };
  const changedIn = ({ oldSection, newSection }: ComparedParagraph) =>
    paragraphs.some(
      (one) =>
        one.change !== 'same' &&
        ((oldSection !== null && one.oldSection === oldSection) ||
          (newSection !== null && one.newSection === newSection)),
    );
  const stretches: Stretch[] = [];
  paragraphs.forEach((paragraph, at) => {
    const last = stretches.at(-1);
    const isShown = paragraph.change !== 'same' || (paragraph.isHeading && changedIn(paragraph)) || opened.has(at);
    if (isShown) stretches.push({ at, paragraph });
    else if (last && 'folded' in last) last.folded++;
    else stretches.push({ at, folded: 1 });
  });
  const changes = paragraphs.filter((one) => one.change !== 'same').length;
  const step = (by: 1 | -1) => {
    const all = [...(box.current?.querySelectorAll<HTMLElement>('[data-change]') ?? [])];
    const here = all.findIndex((one) => one === document.activeElement || one.contains(document.activeElement));
    const to = all[here < 0 ? (by > 0 ? 0 : all.length - 1) : (here + by + all.length) % all.length];
    to?.focus({ preventScroll: true });
    to?.scrollIntoView({ block: 'center' });
  };
  return (
    <section
      aria-label="What changed"
      className="flex min-w-0 flex-1 flex-col border-l border-hair max-md:border-l-0"
      onKeyDown={(event) => {
        if (event.altKey && (event.key === 'ArrowDown' || event.key === 'ArrowUp')) {
          event.preventDefault();
          step(event.key === 'ArrowDown' ? 1 : -1);
        }
      }}
    >
      <header className="border-b border-hair px-8 pt-4 pb-3 max-md:px-4">
        <div className="flex flex-wrap items-start gap-x-6 gap-y-2">
          <div className="min-w-52 flex-1">
            <TextField
              label="Name of this version"
              place={`version.${old.number}.name`}
              shown={false}
              value={old.why === 'named' ? old.name : ''}
              placeholder={calledSo(old)}
              onSave={onName}
              className="written text-[19px] leading-7 font-semibold"
            />
            <p className="text-[12.5px] text-second">
              {longDay(old.at.slice(0, 10))}, {clock(old.at)} · {old.words.toLocaleString('en')} words
              {old.why !== 'named' && ' · with a name it stays for good'}
            </p>
          </div>
          <Button
            look="main"
            disabled={isTaking || (isNow && changes === 0)}
            onClick={() => take({}, 'The draft is this version again; what it was is kept.')}
          >
            Take it back whole
          </Button>
        </div>
        <div className="mt-3 flex flex-wrap items-center gap-x-5 gap-y-1 text-[12.5px]">
          <label className="flex min-h-6 items-center gap-2">
            beside
            <select
              value={next.number ?? ''}
              onChange={(event) => onAgainst(event.target.value ? Number(event.target.value) : undefined)}
              className="min-h-6 max-w-60 border-b border-hair bg-transparent"
            >
              {choices.map((one) => (
                <option key={one.number ?? 'now'} value={one.number ?? ''}>
                  {one.number === null ? 'the draft as it is now' : `${calledSo(one)}, ${longDay(one.at.slice(0, 10))}`}
                </option>
              ))}
            </select>
          </label>
          <span className="figures text-second">
            {changes === 0
              ? 'nothing is different'
              : `${added.toLocaleString('en')} words came, ${removed.toLocaleString('en')} went`}
          </span>
          <span className="ml-auto flex items-center gap-4">
            {changes > 0 && (
              <button type="button" className="link min-h-6" title="Alt ↓; back with Alt ↑" onClick={() => step(1)}>
                next change
              </button>
            )}
            <button
              type="button"
              aria-pressed={isBeside}
              className="link min-h-6"
              onClick={() => {
                localStorage.setItem('nachlass.versions', isBeside ? 'one' : 'beside');
                setBeside(!isBeside);
              }}
            >
              {isBeside ? 'in one text' : 'side by side'}
            </button>
          </span>
        </div>
      </header>
      <div
        ref={box}
        tabIndex={0}
        role="group"
        aria-label="Both versions"
        className="min-h-0 flex-1 overflow-y-auto px-8 pt-3 pb-16 max-md:overflow-visible max-md:px-4"
      >
        <div className={isBeside ? '' : 'max-w-[46rem]'}>
          {stretches.map((stretch) =>
            'folded' in stretch ? (
              <button
                key={stretch.at}
                type="button"
                className="my-1 block min-h-6 w-full border-y border-rule py-1 text-left text-[12.5px] text-second hover:text-blue"
                onClick={() =>
                  setOpened(new Set([...opened, ...Array.from({ length: stretch.folded }, (_, i) => stretch.at + i)]))
                }
              >
                {stretch.folded === 1 ? 'one paragraph' : `${stretch.folded} paragraphs`} as before
              </button>
            ) : (
              <Paragraph
                key={stretch.at}
                paragraph={stretch.paragraph}
                isBeside={isBeside}
                onTake={
                  isNow && !isTaking && stretch.paragraph.change !== 'same'
                    ? () => take({ paragraphs: [stretch.at] }, 'The paragraph is as it was.')
                    : undefined
                }
                onSection={
                  isNow &&
                  !isTaking &&
                  stretch.paragraph.isHeading &&
                  stretch.paragraph.oldSection !== null &&
                  changedIn(stretch.paragraph)
                    ? () =>
                        take(
                          { section: stretch.paragraph.oldSection! },
                          `“${plain(stretch.paragraph.old)}” is as it was.`,
                        )
                    : undefined
                }
              />
            ),
          )}
        </div>
      </div>
    </section>
  );
}

const fate: Record<ComparedParagraph['change'], string> = {
  same: '',
  changed: 'changed',
  added: 'new',
  removed: 'gone',
  movedAway: 'stood here',
  movedHere: 'stands here now',
};

const back: Record<ComparedParagraph['change'], string> = {
  same: '',
  changed: 'take back',
  added: 'take it out',
  removed: 'take back',
  movedAway: 'move it back',
  movedHere: 'move it back',
};

function Paragraph({
  paragraph,
  isBeside,
  onTake,
  onSection,
}: {
  paragraph: ComparedParagraph;
  isBeside: boolean;
  onTake?: () => void;
  onSection?: () => void;
}) {
  const { change, isHeading } = paragraph;
  const look = `written whitespace-pre-wrap ${isHeading ? 'text-[17px] font-semibold' : 'text-[15.5px] leading-relaxed'}`;
  const isChange = change !== 'same';
  return (
    <div
      data-change={isChange || undefined}
      tabIndex={isChange ? -1 : undefined}
      className={`group flex items-start gap-4 py-1.5 pl-3 ${isHeading ? 'mt-3' : ''} ${isChange ? 'border-l-[3px] border-blue focus:bg-wash' : 'border-l-[3px] border-transparent'}`}
    >
      {isBeside ? (
        <div className="grid min-w-0 flex-1 grid-cols-2 gap-8">
          <p className={look}>
            <Words paragraph={paragraph} side="old" />
          </p>
          <p className={look}>
            <Words paragraph={paragraph} side="new" />
          </p>
        </div>
      ) : (
        <p className={`min-w-0 flex-1 ${look}`}>
          <Words paragraph={paragraph} side="both" />
        </p>
      )}
      <span className="flex w-28 shrink-0 flex-col items-end text-right text-[12px] text-second max-md:w-20">
        {isChange && <span>{fate[change]}</span>}
        {onTake && (
          <button type="button" className="link min-h-6" onClick={onTake}>
            {back[change]}
          </button>
        )}
        {onSection && (
          <button type="button" className="link min-h-6" onClick={onSection}>
            take the section back
          </button>
        )}
      </span>
    </div>
  );
}

const came = 'bg-wash text-blue decoration-blue';
const went = 'text-second decoration-second';

/** The words of a paragraph on one side, or of both in one text. */
function Words({ paragraph, side }: { paragraph: ComparedParagraph; side: 'old' | 'new' | 'both' }) {
  const { change, isHeading } = paragraph;
  if (change === 'changed' || (change === 'movedHere' && paragraph.words.length > 0 && side !== 'old'))
    return paragraph.words
      .map((word, at) => (isHeading && at === 0 ? { ...word, text: plain(word.text) + ' ' } : word))
      .filter((word) => side === 'both' || word.in === 'both' || word.in === side)
      .map((word, at) =>
        word.in === 'both' ? (
          <span key={at}>{word.text}</span>
        ) : word.in === 'new' ? (
          <ins key={at} className={came}>
            {word.text}
          </ins>
        ) : (
          <del key={at} className={went}>
            {word.text}
          </del>
        ),
      );
  const isNew = change === 'added' || change === 'movedHere';
  const isOld = change === 'removed' || change === 'movedAway';
  if ((isNew && side === 'old') || (isOld && side === 'new')) return null;
  const whole = isOld ? paragraph.old : paragraph.new;
  const text = isHeading ? plain(whole) : whole.trimEnd();
  return isNew ? <ins className={came}>{text}</ins> : isOld ? <del className={went}>{text}</del> : <span>{text}</span>;
}
