import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { api, ask, done, Problem } from '../../api/client';
import { keys, queryClient } from '../../api/queries';
import { whenSaid } from '../../catalogue/queue/queue';
import { complain, say } from '../../papers/notices';
import { Button } from '../../ui/Button';
import { Failed, Loading } from '../../ui/States';
import { useHeld } from '../../ui/useField';
import { Sent } from './LookFirst';
import { hostOf, numbered, useService, type Asked, type Stands } from './service';

type Typed = {
  address: string;
  form: 'ideas' | 'chat';
  model: string;
  isOn: boolean;
  seconds: string;
  requestsADay: string;
  tokensAMonth: string;
};

/** A service that makes ideas: where it is, what it may cost, and what was asked of it. */
export default function ServicePage() {
  const stands = useService();
  useEffect(() => {
    document.title = 'A service of ideas · Nachlass';
  }, []);
  if (stands.error) return <Failed error={stands.error} onRetry={() => void stands.refetch()} />;
  if (!stands.data) return <Loading what="Opening the service" />;
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[860px] px-9 py-7 max-md:px-4">
        <header className="flex flex-wrap items-baseline gap-x-5 gap-y-1 pb-2">
          <h1 className="written text-[30px] leading-tight font-semibold">A service of ideas</h1>
          <span role="status" className="text-[13px] text-second">
            {stands.data.service ? (stands.data.service.isOn ? 'switched on' : 'switched off') : 'none is set'}
          </span>
          <Link to="/bench/ideas" className="link ml-auto text-[13px] max-md:ml-0">
            to the ideas
          </Link>
        </header>
        <p className="max-w-[68ch] text-[14px] leading-relaxed text-second">
          Ideas are made here, of your own papers, and nothing of them leaves this machine. If you want, a service of
          your choice can be asked too. You see all that is sent before it is, and what comes is proposed like
          everything else, one by one.
        </p>
        <Setting stands={stands.data} />
        <Log />
      </div>
    </div>
  );
}

const line = 'border-b border-hair bg-transparent py-1 outline-none focus:border-blue';
const field = `w-full ${line}`;

function Setting({ stands }: { stands: Stands }) {
  const { service, hasKey, use } = stands;
  // What is being changed is held in this browser until it is kept; a key never is.
  const [held, setHeld] = useHeld('idea service');
  const [key, setKey] = useState('');
  const [wrong, setWrong] = useState<{ field: string; message: string }>();
  const typed: Typed = held
    ? (JSON.parse(held) as Typed)
    : {
        address: service?.address ?? '',
        form: service?.form ?? 'chat',
        model: service?.model ?? '',
        isOn: service?.isOn ?? false,
        seconds: String(service?.limits.seconds ?? 60),
        requestsADay: String(service?.limits.requestsADay ?? 20),
        tokensAMonth: String(service?.limits.tokensAMonth ?? 300_000),
      };
  const change = (fields: Partial<Typed>) => setHeld(JSON.stringify({ ...typed, ...fields }));
  const keep = async (isOn: boolean) => {
    setWrong(undefined);
    const limits: Record<string, number> = {};
    for (const name of ['seconds', 'requestsADay', 'tokensAMonth'] as const) {
      const count = Number(typed[name].replaceAll(/[\s,.]/g, ''));
      if (!Number.isInteger(count) || typed[name].trim() === '') {
        setWrong({ field: name, message: `“${typed[name]}” is no whole number.` });
        return;
      }
      limits[name] = count;
    }
    try {
      await done(
        api.PUT('/api/ideas/service', {
          body: {
            address: typed.address,
            form: typed.form,
            model: typed.model,
            key: key.trim() || undefined,
            isOn,
            limits: limits as never,
          },
        }),
      );
      setHeld('');
      setKey('');
      say(isOn ? 'It is kept, and switched on. Nothing is sent until you say so.' : 'It is kept, and switched off.');
      await queryClient.invalidateQueries({ queryKey: keys.ideaService });
    } catch (error) {
      setWrong({
        field: error instanceof Problem ? error.field : '',
        message: error instanceof Error ? error.message : String(error),
      });
    }
  };
  const part = () =>
    done(api.DELETE('/api/ideas/service'))
      .then(() => {
        setHeld('');
        say('It is forgotten, with its key. The log of what was asked stays.');
        return queryClient.invalidateQueries({ queryKey: keys.ideaService });
      })
      .catch(complain);
  const problem = (of: string) =>
    wrong?.field === of && (
      <p role="alert" className="col-start-2 -mt-1 text-[12.5px] text-red max-md:col-start-1">
        {wrong.message}
      </p>
    );
  const known = ['address', 'model', 'key', 'seconds', 'requestsADay', 'tokensAMonth'];
  const count = (name: 'seconds' | 'requestsADay' | 'tokensAMonth', label: string, unit: string) => (
    <>
      <label htmlFor={`service-${name}`} className="label text-second">
        {label}
      </label>
      <span className="flex items-baseline gap-2">
        <input
          id={`service-${name}`}
          inputMode="numeric"
          className={`figures ${line} w-24`}
          value={typed[name]}
          onChange={(event) => change({ [name]: event.target.value })}
        />
        <span className="text-[13px] text-second">{unit}</span>
      </span>
      {problem(name)}
    </>
  );
  return (
    <form
      aria-label="The service"
      className="mt-5 border-t border-ink pt-4"
      onSubmit={(event) => {
        event.preventDefault();
        void keep(typed.isOn);
      }}
    >
      <div className="grid max-w-[640px] grid-cols-[120px_minmax(0,1fr)] items-baseline gap-x-4 gap-y-3 max-md:grid-cols-1 max-md:gap-y-1">
        <span className="label text-second">It speaks</span>
        <div role="radiogroup" aria-label="It speaks" className="flex flex-wrap gap-x-5 gap-y-1 text-[13.5px]">
          {(
            [
              ['chat', 'chat completions over HTTP'],
              ['ideas', 'the open form for ideas'],
            ] as const
          ).map(([form, name]) => (
            <label key={form} className="flex min-h-6 items-center gap-2">
              <input
                type="radio"
                name="form"
                checked={typed.form === form}
                onChange={() => change({ form })}
                className="accent-(--blue)"
              />
              {name}
            </label>
          ))}
        </div>
        <label htmlFor="service-address" className="label text-second">
          Address
        </label>
        <input
          id="service-address"
          className={field}
          value={typed.address}
          placeholder={typed.form === 'chat' ? 'https://models.example/v1' : 'https://ideas.example/ideas'}
          spellCheck={false}
          autoComplete="off"
          onChange={(event) => change({ address: event.target.value })}
        />
        {problem('address')}
        {typed.form === 'chat' && (
          <>
            <label htmlFor="service-model" className="label text-second">
              Model
            </label>
            <input
              id="service-model"
              className={field}
              value={typed.model}
              placeholder="as the service calls it"
              spellCheck={false}
              autoComplete="off"
              onChange={(event) => change({ model: event.target.value })}
            />
            {problem('model')}
          </>
        )}
        <label htmlFor="service-key" className="label text-second">
          Key
        </label>
        <input
          id="service-key"
          type="password"
          className={field}
          value={key}
          placeholder={hasKey ? 'the one that is kept' : 'where it wants one'}
          spellCheck={false}
          autoComplete="off"
          onChange={(event) => setKey(event.target.value)}
        />
        {problem('key')}
        {count('seconds', 'Time', 'seconds for an answer')}
        {count('requestsADay', 'Asked', `times a day at most; ${numbered(use.today)} today`)}
        {count('tokensAMonth', 'Tokens', `a month at most; about ${numbered(use.thisMonth)} in this one`)}
      </div>
      {wrong && !known.includes(wrong.field) && (
        <p role="alert" className="mt-3 text-[12.5px] text-red">
          {wrong.message}
        </p>
      )}
      <p className="mt-3 max-w-[68ch] text-[12.5px] leading-relaxed text-second">
        The key is kept encrypted on this machine, is never shown again, goes out with no copy of your papers, and is
        forgotten when the address is another’s.
      </p>
      <div className="mt-3 flex flex-wrap items-center gap-2">
        {service?.isOn ? (
          <>
            <Button look="main" type="submit" disabled={!held && !key}>
              Keep what I changed
            </Button>
            <Button onClick={() => void keep(false)}>Switch it off</Button>
          </>
        ) : (
          <>
            <Button look="main" onClick={() => void keep(true)}>
              Keep it and switch it on
            </Button>
            {(held || key) && <Button type="submit">Keep it switched off</Button>}
          </>
        )}
        {service && <Button onClick={() => void part()}>Forget it</Button>}
        {held && (
          <button type="button" className="link min-h-6 text-[12.5px]" onClick={() => setHeld('')}>
            leave it as it was
          </button>
        )}
      </div>
    </form>
  );
}

/** What was asked of it, and what came, to the letter. */
function Log() {
  const log = useQuery({ queryKey: keys.ideaRequests, queryFn: () => ask(api.GET('/api/ideas/service/log')) });
  const [open, setOpen] = useState<number>();
  return (
    <section aria-label="What was asked" className="mt-9">
      <h2 className="label border-b border-ink pb-1">What was asked, and what came</h2>
      {log.error && <Failed error={log.error} onRetry={() => void log.refetch()} />}
      {log.data?.length === 0 && <p className="py-2 text-[13.5px] text-second">Nothing was ever asked of a service.</p>}
      <ul>
        {log.data?.map((one) => (
          <li key={one.number} className="border-b border-rule py-1.5">
            <button
              type="button"
              aria-expanded={open === one.number}
              onClick={() => setOpen(open === one.number ? undefined : one.number)}
              className="flex min-h-6 w-full flex-wrap items-baseline gap-x-4 text-left text-[13.5px] hover:text-blue"
            >
              <span className="figures w-32">{whenSaid(one.at)}</span>
              <span className="min-w-0 break-all">
                {hostOf(one.address)}
                {one.model && <span className="text-second"> {one.model}</span>}
              </span>
              <span className="figures ml-auto text-second max-md:ml-0">{outcome(one)}</span>
            </button>
            {one.problem && <p className="text-[12.5px] text-red">{one.problem}</p>}
            {open === one.number && <Whole number={one.number} />}
          </li>
        ))}
      </ul>
    </section>
  );
}

const outcome = (one: Asked) =>
  [
    one.ideas === 1 ? '1 idea' : `${one.ideas} ideas`,
    `${one.isCounted ? '' : 'about '}${numbered(one.tokens)} tokens`,
    one.seconds === null ? 'not brought to an end' : `${one.seconds.toFixed(1)} s`,
  ].join(' · ');

function Whole({ number }: { number: number }) {
  const whole = useQuery({
    queryKey: [...keys.ideaRequests, number],
    queryFn: () => ask(api.GET('/api/ideas/service/log/{number}', { params: { path: { number } } })),
  });
  if (whole.error) return <Failed error={whole.error} onRetry={() => void whole.refetch()} />;
  if (!whole.data) return <Loading what="Opening what was sent" />;
  return whole.data.sent || whole.data.came ? (
    <>
      <Sent name="Sent" text={whole.data.sent} />
      <Sent name="Came" text={whole.data.came || 'Nothing.'} />
    </>
  ) : (
    <p className="py-1 text-[13px] text-second">
      Of requests as old as this it is kept how much there was, and not what it said.
    </p>
  );
}
