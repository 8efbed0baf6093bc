import { memo, useEffect, useState } from 'react';
import { api, ask, type Counts, type Measured, type Section } from '../api/client';
import { keyOf, keysShown, type ActName } from '../papers/ownKeys';
import { ActionMenu } from '../ui/ActionMenu';
import type { components } from '../api/schema';
import type { DraftAct } from './DraftEditor';
import { drawCard } from '../ideas/decks/drawing';
import { attentions, type Quiet } from './quiet';
import { KeyOf } from '../ui/KeyOf';
import { minutes } from '../ui/dates';

/** The counts of selection, section and text. */
export const DraftFoot = memo(function DraftFoot({
  draft,
  measured,
  section,
  selected,
  sitting,
  onSitting,
  onAct,
  onTable,
  quiet,
  onQuiet,
}: {
  draft: Counts;
  /** The whole against its format's limit. */
  measured: Measured | null | undefined;
  section: Section | undefined;
  selected: string;
  sitting: components['schemas']['SittingShown'] | undefined;
  onSitting: () => void;
  onAct: (act: DraftAct) => void;
  onTable: () => void;
  quiet: Quiet;
  onQuiet: (next: Partial<Quiet>) => void;
}) {
  const counted = useSelectionCounts(selected);
  // Behind the menu, which gives the focus back to its button.
  const put = (label: string, act: DraftAct) => ({
    key: act,
    label,
    note: keysShown(keyOf(act)),
    onChoose: () => setTimeout(() => onAct(act), 120),
  });
  if (quiet.isAlone)
    return (
      <footer className="figures flex items-baseline justify-end gap-4 px-6 py-2 text-[12px] text-second">
        <SittingMeter sitting={sitting} onPress={onSitting} />
        {(counted ?? draft).words.toLocaleString('en')} words
        <button type="button" className="link" onClick={() => onQuiet({ isAlone: false })}>
          leave the sheet
        </button>
        <KeyOf act="bench.alone" />
      </footer>
    );
  return (
    <footer className="figures flex flex-col gap-y-0.5 border-t max-md:px-4 border-hair px-6 py-1 text-[12px] text-second">
      <span className="flex flex-wrap items-center gap-x-3.5">
        <span className="flex flex-1 flex-wrap items-center gap-x-3.5 whitespace-nowrap">
          <SittingMeter sitting={sitting} onPress={onSitting} />
          <FootAct name="find" act="bench.find" title="Finds and replaces" onPress={() => onAct('bench.find')} />
          <FootAct name="go to" act="bench.jump" title="A section or a mark" onPress={() => onAct('bench.jump')} />
          <ActionMenu
            label="At the cursor"
            className="link min-h-6"
            actions={[
              put('A note below the paragraph', 'bench.note'),
              put('A remark to yourself', 'bench.remark'),
              {
                key: 'card',
                label: 'A card from your decks',
                note: keysShown(keyOf('all.draw')),
                onChoose: () => setTimeout(() => drawCard(document.querySelector<HTMLElement>('.cm-content')), 120),
              },
              put('A picture…', 'bench.picture'),
              { key: 'table', label: 'A table…', onChoose: onTable },
              put('A pattern, bit or standing text…', 'bench.pattern'),
              put('Mark the place, to come back to', 'bench.mark'),
              put('Split the section here', 'bench.split'),
              put('The word here: spelling, synonyms', 'bench.words'),
            ]}
          >
            at the cursor
          </ActionMenu>
          <ActionMenu
            label="How quiet it is"
            className="link min-h-6"
            actions={[
              ...attentions.map((one) => ({
                key: one,
                label: `Attend to the ${one === 'text' ? 'whole text' : one}`,
                note: quiet.attention === one ? '✓' : one === 'section' ? keysShown(keyOf('bench.attention')) : '',
                onChoose: () => onQuiet({ attention: one }),
              })),
              {
                key: 'held',
                label: quiet.isHeld ? 'Let the line go' : 'Hold the line at one height',
                note: keysShown(keyOf('bench.hold')),
                onChoose: () => onQuiet({ isHeld: !quiet.isHeld }),
              },
              {
                key: 'alone',
                label: 'Nothing but the sheet',
                note: keysShown(keyOf('bench.alone')),
                onChoose: () => onQuiet({ isAlone: true }),
              },
            ]}
          >
            quiet
          </ActionMenu>
        </span>
        <FootAct
          name="lift out as a slip"
          act="bench.lift"
          title={selected ? 'The selected words become a slip' : 'The paragraph the cursor is in becomes a slip'}
          isKeyShown
          onPress={() => onAct('bench.lift')}
        />
      </span>
      <dl className="grid grid-cols-[auto_auto_auto_auto_auto] w-fit gap-x-4 gap-y-px whitespace-nowrap max-xl:gap-x-2.5 max-md:gap-x-2 max-md:whitespace-normal">
        {counted ? (
          <CountLine name="selection" counts={counted} />
        ) : (
          section && <CountLine name="section" counts={section.counts} aim={section.aim} measured={section.measured} />
        )}
        <CountLine name="text" counts={draft} measured={measured} />
      </dl>
    </footer>
  );
});

/** Words of the sitting, quietly; a press tells more. */
function SittingMeter({
  sitting,
  onPress,
}: {
  sitting: components['schemas']['SittingShown'] | undefined;
  onPress: () => void;
}) {
  if (!sitting || (!sitting.now && !sitting.sittingAim)) return null;
  const written = sitting.now?.written ?? 0;
  const isThere = sitting.sittingAim !== null && written >= sitting.sittingAim;
  return (
    <button
      type="button"
      title="This sitting: aims, what was written, and its end"
      onClick={onPress}
      className={`min-h-6 whitespace-nowrap hover:text-blue ${isThere ? 'text-done' : ''}`}
    >
      <b className="font-semibold">+{written.toLocaleString('en')}</b>
      {sitting.sittingAim ? ` of ${sitting.sittingAim.toLocaleString('en')}` : ''} now
    </button>
  );
}

/** Something done to the text, with its key; the cursor stays where it is. */
function FootAct({
  name,
  act,
  title,
  isKeyShown = false,
  onPress,
}: {
  name: string;
  act?: ActName;
  title: string;
  isKeyShown?: boolean;
  onPress: () => void;
}) {
  return (
    <button
      type="button"
      className="link flex min-h-6 items-center gap-2 whitespace-nowrap"
      title={act && !isKeyShown ? `${title}: ${keyOf(act).replace('+', ' ')}` : title}
      onMouseDown={(event) => event.preventDefault()}
      onClick={onPress}
    >
      {name} {act && isKeyShown && <KeyOf act={act} />}
    </button>
  );
}

/** Words, characters and both reading times of one stretch of text. */
function CountLine({
  name,
  counts,
  aim,
  measured,
}: {
  name: string;
  counts: Counts;
  aim?: number | null;
  /** Against a limit of its format, counted as that counts. */
  measured?: Measured | null;
}) {
  const over = measured && measured.has > measured.most;
  const limited = (unit: 'words' | 'characters') =>
    measured?.in === unit && (
      <span
        className={over ? 'font-bold text-red' : ''}
        title={`counted as its format counts: ${measured.has.toLocaleString('en')} of ${measured.most.toLocaleString('en')}`}
      >
        {measured.has.toLocaleString('en')} of {measured.most.toLocaleString('en')} {unit}
      </span>
    );
  return (
    <div className="contents">
      <dt>{name}</dt>
      <dd className="text-right">
        {limited('words') || (
          <>
            <b className="font-semibold text-ink">{counts.words.toLocaleString('en')}</b>
            {aim ? ` of ${aim.toLocaleString('en')}` : ''} words
          </>
        )}
      </dd>
      <dd className="text-right">{limited('characters') || `${counts.characters.toLocaleString('en')} characters`}</dd>
      <dd title="Read silently at 238 words a minute (Brysbaert 2019)">reads {minutes(counts.silentSeconds)}</dd>
      <dd title="Read aloud at 183 words a minute (Brysbaert 2019)">aloud {minutes(counts.aloudSeconds)}</dd>
    </div>
  );
}

function useSelectionCounts(selected: string): Counts | undefined {
  const [counted, setCounted] = useState<{ text: string; counts: Counts }>();
  useEffect(() => {
    if (!selected) return;
    const timer = setTimeout(() => {
      ask(api.POST('/api/counts', { body: { text: selected, asDraft: true } }))
        .then((counts) => setCounted({ text: selected, counts }))
        .catch(() => undefined);
    }, 120);
    return () => clearTimeout(timer);
  }, [selected]);
  return selected && counted?.text === selected ? counted.counts : undefined;
}
