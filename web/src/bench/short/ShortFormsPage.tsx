import { Link } from 'react-router';
import { api, done } from '../../api/client';
import { queryClient } from '../../api/queries';
import { carryOut } from '../../papers/notices';
import { Button } from '../../ui/Button';
import { TextField } from '../../ui/TextField';
import { Failed, Loading } from '../../ui/States';
import { patternKeys, usePatterns, useStandingTexts, type Pattern, type StandingText } from './PutInDialog';

const kinds = [
  ['opening', 'Openings', 'How a text can begin.'],
  ['post', 'Posts', 'For short posts and threads.'],
  ['title', 'Titles', 'Shapes of titles.'],
  ['bit', 'Bits', 'Lines and asides in stock; each is ticked when it is used.'],
] as const;

const refresh = () =>
  Promise.all([
    queryClient.invalidateQueries({ queryKey: patternKeys.patterns }),
    queryClient.invalidateQueries({ queryKey: patternKeys.standing }),
  ]);

/** Standing texts, patterns and bits: made and changed in one place. */
export default function ShortFormsPage() {
  const standing = useStandingTexts();
  const patterns = usePatterns();
  if (standing.error) return <Failed error={standing.error} onRetry={() => void standing.refetch()} />;
  if (patterns.error) return <Failed error={patterns.error} onRetry={() => void patterns.refetch()} />;
  if (!standing.data || !patterns.data) return <Loading what="Opening the texts" />;
  const addStanding = async () => {
    await carryOut(
      done(api.POST('/api/standing-texts', { body: { name: 'New standing text', text: '' } })),
      'Made; give it a name and its words.',
    );
    await refresh();
  };
  const addPattern = async (kind: Pattern['kind']) => {
    await carryOut(
      done(api.POST('/api/patterns', { body: { kind, name: 'New', text: kind === 'bit' ? '…' : '{{ place }}' } })),
      'Made; write its shape.',
    );
    await refresh();
  };
  return (
    <div className="h-full overflow-y-auto px-8 pb-16 max-md:px-4">
      <div className="mx-auto max-w-[56rem]">
        <header className="flex flex-wrap items-baseline gap-x-5 pt-7 pb-2">
          <h1 className="written text-[25px] font-semibold">Standing texts and patterns</h1>
          <Link className="link min-h-6 text-[12.5px]" to="/bench">
            back to the Bench
          </Link>
        </header>
        <p className="max-w-[40rem] text-second">
          A standing text is edited here once and stands wherever a draft names it, until its piece goes out; then it
          stays there as it was. A pattern is a shape with places to fill: <code>{'{{ place }}'}</code> is a place,{' '}
          <code>{'{{ title }}'}</code> is filled in by itself.
        </p>
        <section aria-label="Standing texts" className="mt-7">
          <h2 className="label flex items-baseline justify-between border-b border-hair pb-1">
            Standing texts
            <button
              type="button"
              className="link min-h-6 font-sans text-[12.5px] font-semibold tracking-normal normal-case"
              onClick={() => void addStanding()}
            >
              make one
            </button>
          </h2>
          {standing.data.length === 0 && (
            <p className="py-3 text-second">
              None yet. A sign-off, credits, the address of the letter: what every piece says alike.
            </p>
          )}
          {standing.data.map((one) => (
            <Standing key={one.number} text={one} />
          ))}
        </section>
        {kinds.map(([kind, name, about]) => (
          <section key={kind} aria-label={name} className="mt-8">
            <h2 className="label flex items-baseline justify-between gap-4 border-b border-hair pb-1">
              <span>
                {name} <span className="font-normal tracking-normal text-second normal-case">{about}</span>
              </span>
              <button
                type="button"
                aria-label={`make one of the ${name.toLowerCase()}`}
                className="link min-h-6 font-sans text-[12.5px] font-semibold tracking-normal normal-case"
                onClick={() => void addPattern(kind)}
              >
                make one
              </button>
            </h2>
            {patterns.data.filter((one) => one.kind === kind).length === 0 && (
              <p className="py-3 text-second">None yet.</p>
            )}
            {patterns.data
              .filter((one) => one.kind === kind)
              .map((one) => (
                <PatternRow key={one.number} pattern={one} />
              ))}
          </section>
        ))}
      </div>
    </div>
  );
}

function Standing({ text }: { text: StandingText }) {
  const path = { number: String(text.number) };
  const change = async (body: { name?: string; text?: string }) => {
    const made = await carryOut(
      done(api.PATCH('/api/standing-texts/{number}', { params: { path }, body: { ...body, version: text.version } })),
      text.pieces.length > 0
        ? `Changed, and with it in ${text.pieces.map((one) => `P ${one}`).join(', ')}.`
        : 'Changed.',
    );
    await refresh();
    return made;
  };
  const remove = async () => {
    await carryOut(
      done(api.DELETE('/api/standing-texts/{number}', { params: { path } })),
      `The standing text “${text.name}” is gone.`,
    );
    await refresh();
  };
  return (
    <article
      aria-label={text.name}
      className="grid grid-cols-[12rem_1fr_auto] gap-x-5 border-b border-rule py-3 max-md:grid-cols-1"
    >
      <TextField
        label="Name of the standing text"
        shown={false}
        place={`standing.${text.number}.name`}
        value={text.name}
        onSave={(name) => change({ name })}
        className="font-semibold"
      />
      <div>
        <TextField
          label={`Words of ${text.name}`}
          shown={false}
          lines
          place={`standing.${text.number}.text`}
          value={text.text}
          placeholder="its words"
          onSave={(words) => change({ text: words })}
          className="written text-[15px]"
        />
        <p className="mt-1 text-[12px] text-second">
          <code>[[standing text {text.number}]]</code>
          {text.pieces.length > 0 && (
            <>
              {' '}
              stands in{' '}
              {text.pieces.map((one) => (
                <Link key={one} className="link mr-1.5 inline-flex min-h-6 items-center" to={`/bench/${one}`}>
                  P {one}
                </Link>
              ))}
            </>
          )}
          {text.frozen.length > 0 && ` · as it was in ${text.frozen.map((one) => `P ${one}`).join(', ')}`}
          {text.formats.length > 0 && ` · in the template of ${text.formats.join(', ')}`}
          {text.pieces.length + text.frozen.length + text.formats.length === 0 && ' stands nowhere yet'}
        </p>
      </div>
      <Button
        look="quiet"
        className="justify-self-start"
        aria-label={`take away ${text.name}`}
        onClick={() => void remove().catch(() => undefined)}
      >
        take away
      </Button>
    </article>
  );
}

function PatternRow({ pattern }: { pattern: Pattern }) {
  const path = { number: String(pattern.number) };
  const change = async (body: { name?: string; text?: string; used?: boolean }) => {
    const made = await carryOut(
      done(api.PATCH('/api/patterns/{number}', { params: { path }, body: { ...body, version: pattern.version } })),
      body.used === undefined ? 'Pattern changed.' : body.used ? 'Ticked as used.' : 'In stock again.',
    );
    await refresh();
    return made;
  };
  const remove = async () => {
    await carryOut(done(api.DELETE('/api/patterns/{number}', { params: { path } })), `“${pattern.name}” is gone.`);
    await refresh();
  };
  return (
    <article
      aria-label={pattern.name}
      className="grid grid-cols-[12rem_1fr_auto] items-start gap-x-5 border-b border-rule py-2.5 max-md:grid-cols-1"
    >
      <div className="flex items-start gap-2">
        {pattern.kind === 'bit' && (
          <input
            type="checkbox"
            aria-label={`“${pattern.name}” is used`}
            checked={pattern.usedAt !== null}
            onChange={(event) => void change({ used: event.target.checked }).catch(() => undefined)}
            className="mt-1.5"
          />
        )}
        <div className="min-w-0 flex-1">
          <TextField
            label="Name of the pattern"
            shown={false}
            place={`pattern.${pattern.number}.name`}
            value={pattern.name}
            onSave={(name) => change({ name })}
            className={`font-semibold ${pattern.usedAt ? 'text-second line-through' : ''}`}
          />
        </div>
      </div>
      <div>
        <TextField
          label={`Shape of ${pattern.name}`}
          shown={false}
          lines
          place={`pattern.${pattern.number}.text`}
          value={pattern.text}
          onSave={(text) => change({ text })}
          className="written text-[15px]"
        />
      </div>
      <Button
        look="quiet"
        className="justify-self-start"
        aria-label={`take away ${pattern.name}`}
        onClick={() => void remove().catch(() => undefined)}
      >
        take away
      </Button>
    </article>
  );
}
