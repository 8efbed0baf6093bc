import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { api, ask, done, type TopicColour } from '../api/client';
import type { components } from '../api/schema';
import { keys, queryClient } from '../api/queries';
import { carryOut } from '../papers/notices';
import { ActionMenu } from '../ui/ActionMenu';
import { AddLine } from '../ui/AddLine';
import { Failed, Loading } from '../ui/States';
import { FormatsField } from '../ui/FormatsField';
import { TextField } from '../ui/TextField';
import { ConnectionLine } from '../catalogue/queue/ConnectionLine';
import { CadenceLine } from './CadenceLine';
import { HoursPart } from './HoursPart';
import type { Outlet } from './planning';
import { PlanNav } from './PlanNav';
import { useFormats } from '../api/queries';

const colours: TopicColour[] = ['teal', 'violet', 'brick', 'ochre', 'moss', 'slate', 'plum', 'umber'];
const said = (day: string) => day.charAt(0).toUpperCase() + day.slice(1);
const weekdays = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday'] as const;

/** Where pieces go out, how often, and the hours there are for them. */
export default function OutletsPage() {
  const outlets = useQuery({ queryKey: keys.outlets, queryFn: () => ask(api.GET('/api/outlets')) });
  const cadences = useQuery({ queryKey: keys.cadences, queryFn: () => ask(api.GET('/api/cadences')) });
  useEffect(() => {
    document.title = 'Outlets and hours · Nachlass';
  }, []);
  if (outlets.error) return <Failed error={outlets.error} onRetry={() => void outlets.refetch()} />;
  if (!outlets.data || !cadences.data) return <Loading />;
  return (
    <div className="flex h-full max-lg:block max-lg:overflow-y-auto">
      <div className="min-w-0 flex-1 overflow-y-auto px-9 py-6 max-lg:overflow-visible max-md:px-4">
        <header className="flex flex-wrap items-baseline gap-x-4">
          <h1 className="written text-[27px] leading-tight font-semibold">Outlets and hours</h1>
          <PlanNav />
        </header>
        {outlets.data.length === 0 && (
          <p className="mt-2 max-w-[38rem] text-[14px] leading-relaxed text-second">
            An outlet is a place where pieces go out: a letter, a site, a feed, a stage. Say how often something goes
            out there (“every second Thursday”, “weekdays except in August”), and the dates stand in the weeks, open
            until a piece fills them.
          </p>
        )}
        {outlets.data.map((outlet) => (
          <OutletPart
            key={outlet.number}
            outlet={outlet}
            cadences={cadences.data.filter((ahead) => ahead.cadence.outlet === outlet.number)}
          />
        ))}
        <div className="mt-6 max-w-[560px]">
          <AddLine
            place="outlet.new"
            label="A new outlet"
            placeholder="A letter, a site, a feed, a stage …"
            press="Make an outlet"
            onAdd={async (name) => {
              const used = new Set(outlets.data.map((outlet) => outlet.colour));
              const colour = colours.find((one) => !used.has(one)) ?? 'teal';
              await carryOut(
                done(api.POST('/api/outlets', { body: { name, colour } })),
                (made) => `Made the outlet “${made.name}”.`,
                true,
              );
              await queryClient.invalidateQueries();
            }}
          />
        </div>
      </div>
      <aside
        aria-label="Hours"
        className="w-[380px] shrink-0 overflow-y-auto border-l border-hair bg-quiet px-[26px] py-6 max-lg:w-auto max-lg:border-t max-lg:border-l-0 max-md:px-4"
      >
        <HoursPart />
      </aside>
    </div>
  );
}

function OutletPart({
  outlet,
  cadences,
}: {
  outlet: Outlet;
  cadences: readonly components['schemas']['CadenceAhead'][];
}) {
  const formats = useFormats().data ?? [];
  const [isOpen, setOpen] = useState(false);
  const path = { number: String(outlet.number) };
  const change = async (body: Omit<components['schemas']['OutletChange'], 'version'>, said: string) => {
    await carryOut(
      done(api.PATCH('/api/outlets/{number}', { params: { path }, body: { version: outlet.version, ...body } })),
      said,
      true,
    );
    await queryClient.invalidateQueries();
  };
  const act = (made: Promise<unknown>) => void made.catch(() => undefined);
  const taken = formats.filter(
    (f) =>
      cadences.some((ahead) => ahead.cadence.format === f.key) ||
      (!f.isPutAway && (outlet.formats.length === 0 ? false : outlet.formats.includes(f.key))),
  );
  const more = formats.filter((f) => !f.isPutAway && !taken.includes(f));
  const [added, setAdded] = useState<string>();
  const shown = added ? [...taken, ...formats.filter((f) => f.key === added && !taken.includes(f))] : taken;
  const row = (label: string, field: React.ReactNode) => (
    <div className="flex items-baseline gap-3 border-b border-rule py-1.5">
      <span className="w-32 shrink-0 text-[12.5px] text-second">{label}</span>
      <span className="min-w-0 flex-1">{field}</span>
    </div>
  );
  return (
    <section aria-label={outlet.name} className="mt-6 border-t border-ink pt-3">
      <header className="flex items-baseline gap-3">
        <span
          aria-hidden
          className="narrow min-w-8 border-b-[3px] px-1 text-center text-[12px] font-semibold"
          style={{ borderColor: `var(--${outlet.colour})` }}
        >
          {outlet.mark}
        </span>
        <div className="min-w-0 flex-1">
          <TextField
            label={`Name of ${outlet.name}`}
            place={`outlet.${outlet.number}.name`}
            shown={false}
            value={outlet.name}
            onSave={(name) => change({ name }, 'Renamed.')}
            className="written text-[19px] font-semibold"
          />
        </div>
        {outlet.isPutAway && <span className="text-[12.5px] text-second">put away</span>}
        <ActionMenu
          label={`What to do with ${outlet.name}`}
          className="link px-1"
          actions={[
            { key: 'more', label: isOpen ? 'Less' : 'All about it', onChoose: () => setOpen(!isOpen) },
            {
              key: 'away',
              label: outlet.isPutAway ? 'Take it out again' : 'Put it away',
              onChoose: () =>
                act(
                  change(
                    { isPutAway: !outlet.isPutAway },
                    outlet.isPutAway ? `${outlet.name} is in use again.` : `${outlet.name} is put away.`,
                  ),
                ),
            },
            {
              key: 'gone',
              label: 'Take it out of these papers',
              onChoose: () =>
                act(
                  carryOut(
                    done(api.DELETE('/api/outlets/{number}', { params: { path } })),
                    `Took ${outlet.name} away.`,
                  ).then(() => queryClient.invalidateQueries()),
                ),
            },
          ]}
        >
          ⋯
        </ActionMenu>
      </header>
      <div className="mt-1 pl-11 max-md:pl-0">
        {row(
          'takes',
          <FormatsField
            label={`What ${outlet.name} takes`}
            none="every format"
            value={outlet.formats}
            onChange={(keysOf) => act(change({ formats: keysOf }, `${outlet.name} takes that now.`))}
          />,
        )}
        {row('reached', <ConnectionLine outlet={outlet.number} name={outlet.name} />)}
        {shown.map((format) => (
          <CadenceLine
            key={format.key}
            outlet={outlet}
            format={format.key}
            name={format.name}
            ahead={cadences.find((ahead) => ahead.cadence.format === format.key)}
          />
        ))}
        {outlet.formats.length === 0 && more.length > 0 && (
          <p className="py-1.5">
            <ActionMenu
              label={`A cadence on ${outlet.name}`}
              actions={more.map((f) => ({ key: f.key, label: f.name, onChoose: () => setAdded(f.key) }))}
            >
              a cadence for ▾
            </ActionMenu>
          </p>
        )}
        {!isOpen ? (
          <button type="button" className="link mt-1 text-[12.5px]" onClick={() => setOpen(true)}>
            {[
              outlet.limit && `at most ${outlet.limit.most.toLocaleString('en')} ${outlet.limit.in}`,
              outlet.bestDay &&
                `best on ${said(outlet.bestDay)}${outlet.bestHour === null ? '' : ` at ${outlet.bestHour}`}`,
              outlet.address.replace(/^https?:\/\//, ''),
              outlet.blocks.length === 1
                ? '1 block of text'
                : outlet.blocks.length > 1 && `${outlet.blocks.length} blocks of text`,
            ]
              .filter(Boolean)
              .join(' · ') || 'mark, colour, limit, best day, address, texts'}
          </button>
        ) : (
          <>
            {row(
              'mark',
              <TextField
                label={`Mark of ${outlet.name}`}
                place={`outlet.${outlet.number}.mark`}
                shown={false}
                value={outlet.mark}
                onSave={(mark) => change({ mark }, 'Mark set.')}
              />,
            )}
            {row(
              'colour',
              <span role="group" aria-label={`Colour of ${outlet.name}`} className="inline-flex gap-1.5">
                {colours.map((colour) => (
                  <button
                    key={colour}
                    type="button"
                    aria-label={colour}
                    aria-pressed={colour === outlet.colour}
                    onClick={() => act(change({ colour }, 'Colour set.'))}
                    className={`h-6 w-7 border-b-[4px] ${colour === outlet.colour ? 'bg-hair/50' : 'hover:bg-hair/30'}`}
                    style={{ borderColor: `var(--${colour})` }}
                  />
                ))}
              </span>,
            )}
            {row(
              'at most',
              <span className="flex items-baseline gap-3">
                <span className="w-24">
                  <TextField
                    label={`Limit of ${outlet.name}`}
                    place={`outlet.${outlet.number}.limit`}
                    shown={false}
                    value={outlet.limit ? String(outlet.limit.most) : ''}
                    placeholder="no limit"
                    onSave={async (text) => {
                      const most = Number(text.replace(/[,\s]/g, ''));
                      if (text.trim() && !Number.isInteger(most)) throw new Error(`“${text}” is no whole number.`);
                      await change({ limitMost: text.trim() ? most : null }, 'Limit set.');
                    }}
                    className="figures"
                  />
                </span>
                {outlet.limit && (
                  <ActionMenu
                    label="Counted in"
                    actions={(['characters', 'words'] as const).map((unit) => ({
                      key: unit,
                      label: unit,
                      onChoose: () => act(change({ limitIn: unit }, 'Limit set.')),
                    }))}
                  >
                    {outlet.limit.in} ▾
                  </ActionMenu>
                )}
              </span>,
            )}
            {row(
              'best day and hour',
              <span className="flex items-baseline gap-3">
                <ActionMenu
                  label={`Best day of ${outlet.name}`}
                  actions={[null, ...weekdays].map((day) => ({
                    key: day ?? 'none',
                    label: day ? said(day) : 'not said',
                    onChoose: () => act(change({ bestDay: day }, 'Best day set.')),
                  }))}
                >
                  {outlet.bestDay ? said(outlet.bestDay) : 'no day'} ▾
                </ActionMenu>
                <ActionMenu
                  label={`Best hour of ${outlet.name}`}
                  actions={[null, ...Array.from({ length: 24 }, (_, hour) => hour)].map((hour) => ({
                    key: String(hour),
                    label: hour === null ? 'not said' : `${hour}:00`,
                    onChoose: () => act(change({ bestHour: hour }, 'Best hour set.')),
                  }))}
                >
                  {outlet.bestHour === null ? 'no hour' : `${outlet.bestHour}:00`} ▾
                </ActionMenu>
              </span>,
            )}
            {row(
              'address',
              <TextField
                label={`Address of ${outlet.name}`}
                place={`outlet.${outlet.number}.address`}
                shown={false}
                value={outlet.address}
                placeholder="https://"
                onSave={(address) => change({ address }, 'Address set.')}
              />,
            )}
            {outlet.blocks.map((block, at) => (
              <div key={at} className="border-b border-rule py-1.5">
                <TextField
                  label={`Name of text ${at + 1} of ${outlet.name}`}
                  place={`outlet.${outlet.number}.block.${at}.name`}
                  shown={false}
                  value={block.name}
                  onSave={(name) =>
                    change(
                      {
                        blocks: name.trim()
                          ? outlet.blocks.map((one, i) => (i === at ? { ...one, name } : one))
                          : outlet.blocks.filter((_, i) => i !== at),
                      },
                      name.trim() ? 'Renamed.' : 'Took the text out.',
                    )
                  }
                  className="text-[12.5px] font-semibold"
                />
                <TextField
                  label={`${block.name}, text of ${outlet.name}`}
                  place={`outlet.${outlet.number}.block.${at}`}
                  shown={false}
                  lines
                  value={block.text}
                  placeholder="What stands there"
                  onSave={(text) =>
                    change({ blocks: outlet.blocks.map((one, i) => (i === at ? { ...one, text } : one)) }, 'Text kept.')
                  }
                  className="written text-[14.5px]"
                />
              </div>
            ))}
            <AddLine
              place={`outlet.${outlet.number}.block`}
              label={`A text that goes with ${outlet.name}`}
              placeholder="About, leaving, thanks …"
              press="Add a text"
              onAdd={(name) => change({ blocks: [...outlet.blocks, { name, text: '' }] }, 'Added a text.')}
              className="text-[13px]"
            />
          </>
        )}
      </div>
    </section>
  );
}
