import { useQuery } from '@tanstack/react-query';
import { api, ask, done, type FieldShown, type Piece, type SideTextShown } from '../api/client';
import { keys } from '../api/queries';
import { GrowingText } from '../capture/GrowingText';
import { carryOut } from '../papers/notices';
import { DateField } from '../ui/DateField';
import { Failed, Loading } from '../ui/States';
import { TextField } from '../ui/TextField';
import { TwoTexts } from '../ui/TwoTexts';
import { useField } from '../ui/useField';
import { CreditsUsed } from './CreditsUsed';
import { refreshPiece } from './refreshPiece';

/** What stands beside the draft: the format's own fields, its side texts, and its folders on the disk. */
export function BesidePart({ piece }: { piece: Piece }) {
  const path = { number: String(piece.number) };
  const fields = useQuery({
    queryKey: keys.fields(piece.number),
    queryFn: () => ask(api.GET('/api/pieces/{number}/fields', { params: { path } })),
  });
  const texts = useQuery({
    queryKey: keys.sideTexts(piece.number),
    queryFn: () => ask(api.GET('/api/pieces/{number}/side-texts', { params: { path } })),
  });
  const folders = useQuery({
    queryKey: keys.folders(piece.number),
    queryFn: () => ask(api.GET('/api/pieces/{number}/folders', { params: { path } })),
  }).data;
  if (fields.error ?? texts.error) return <Failed error={(fields.error ?? texts.error)!} />;
  if (!fields.data || !texts.data) return <Loading />;
  const nothing = fields.data.length + texts.data.length + (folders?.folders.length ?? 0) === 0;
  return (
    <div
      className="min-h-0 flex-1 overflow-y-auto px-6 pb-10 max-md:flex-none max-md:overflow-visible max-md:px-4"
      tabIndex={-1}
    >
      <div className="mx-auto grid max-w-[72rem] gap-x-14 md:grid-cols-[2fr_3fr]">
        <div>
          {fields.data.length > 0 && (
            <section aria-label="Fields" className="mt-6">
              <h2 className="label border-b border-ink pb-1">Fields</h2>
              {fields.data.map((field) => (
                <OneField key={field.field.key} shown={field} piece={piece.number} />
              ))}
            </section>
          )}
          <CreditsUsed piece={piece.number} sides={texts.data} />
          {folders?.path && (
            <section aria-label="Folders" className="mt-8">
              <h2 className="label border-b border-hair pb-1">Folders on the disk</h2>
              {folders.folders.map((folder) => (
                <div key={folder.name} className="border-b border-rule py-2">
                  <p className="flex items-baseline gap-3">
                    <span className="min-w-0 flex-1 font-semibold">{folder.name}</span>
                    <span className="figures text-[12px] text-second">
                      {folder.files === 0 ? 'empty' : folder.files === 1 ? '1 file' : `${folder.files} files`}
                    </span>
                  </p>
                  <p className="narrow text-[12px] break-all text-second select-all">{folder.path}</p>
                </div>
              ))}
              <p className="mt-2 text-[12.5px] text-second">
                What you lay into them stays yours; nothing here is ever deleted by Nachlass.
              </p>
            </section>
          )}
        </div>
        <div>
          {texts.data.map((text) => (
            <OneSideText key={text.key} shown={text} piece={piece.number} />
          ))}
          {nothing && (
            <p className="mt-8 text-second">
              This format has no fields, side texts or folders. They are set on the format’s own page.
            </p>
          )}
        </div>
      </div>
    </div>
  );
}

function OneField({ shown, piece }: { shown: FieldShown; piece: number }) {
  const { field, value } = shown;
  const set = (next: string) =>
    carryOut(
      done(
        api.PUT('/api/pieces/{number}/fields', {
          params: { path: { number: String(piece) } },
          body: { values: { [field.key]: next } },
        }),
      ),
      next ? `${field.name} is set.` : `${field.name} is empty.`,
    ).then(async (answer) => {
      await refreshPiece();
      return answer;
    });
  const quietly = (next: string) => void set(next).catch(() => undefined);
  const label = `${field.name}`;
  return (
    <div className="grid grid-cols-[112px_minmax(0,1fr)] items-baseline gap-3 border-b border-rule py-1.5">
      <span className="text-second">
        {field.name}
        {!shown.isOfFormat && <span className="block text-[11.5px]">not in the format any more</span>}
      </span>
      {field.kind === 'tick' ? (
        <input
          type="checkbox"
          aria-label={label}
          checked={value !== ''}
          onChange={(event) => quietly(event.target.checked ? 'yes' : '')}
          className="h-[15px] w-[15px] justify-self-start accent-(--blue)"
        />
      ) : field.kind === 'date' ? (
        <span>
          <DateField label={label} empty="no day" value={value || null} onChange={(day) => quietly(day ?? '')} />
        </span>
      ) : field.kind === 'choice' ? (
        <select
          aria-label={label}
          value={value}
          onChange={(event) => quietly(event.target.value)}
          className="field-sizing-content min-w-0 bg-transparent"
        >
          <option value="">not said</option>
          {[...new Set([...(field.choices ?? []), value])].filter(Boolean).map((choice) => (
            <option key={choice}>{choice}</option>
          ))}
        </select>
      ) : (
        <span className="flex min-w-0 items-baseline gap-2">
          <span className="min-w-0 flex-1">
            <TextField
              label={label}
              shown={false}
              place={`piece.${piece}.field.${field.key}`}
              value={value}
              lines={field.kind === 'longText'}
              placeholder={field.kind === 'link' ? 'https://' : field.kind === 'number' ? 'a number' : 'nothing yet'}
              onSave={set}
              className={field.kind === 'number' ? 'figures' : 'written text-[15px]'}
            />
          </span>
          {field.kind === 'link' && value && (
            <a className="link text-[12px]" href={value} target="_blank" rel="noopener noreferrer">
              open
            </a>
          )}
        </span>
      )}
    </div>
  );
}

function OneSideText({ shown, piece }: { shown: SideTextShown; piece: number }) {
  const field = useField(
    `piece.${piece}.beside.${shown.key}`,
    shown.text,
    async (text) => {
      const saved = await done(
        api.PUT('/api/pieces/{number}/side-texts/{name}', {
          params: { path: { number: String(piece), name: shown.key } },
          body: { text, version: shown.version },
        }),
      );
      await refreshPiece();
      return saved;
    },
    true,
  );
  const measured = shown.measured;
  // While it is typed the number follows roughly; what the server counts stands once it is kept.
  const has = field.text === shown.text ? (measured?.has ?? 0) : [...field.text].length;
  const over = measured !== null && has > measured.most;
  return (
    <section aria-label={shown.name} className="mt-6">
      <h2 className="label flex items-baseline border-b border-hair pb-1">
        {shown.name}
        {measured && (
          <span className={`figures ml-auto font-medium normal-case ${over ? 'font-bold text-red' : 'text-second'}`}>
            {measured.in === 'words' && field.text !== shown.text ? '…' : has.toLocaleString('en')} of{' '}
            {measured.most.toLocaleString('en')} {measured.in}
          </span>
        )}
      </h2>
      <div className="pt-2" onFocus={field.enter} onBlur={() => void field.flush()}>
        <GrowingText
          label={shown.name}
          value={field.text}
          least={56}
          placeholder="nothing written yet"
          onChange={field.change}
          onKeyDown={(event) => {
            if (event.key === 'Escape') field.putBack();
          }}
        />
      </div>
      {field.error && (
        <p role="alert" className="text-red">
          {field.error}
        </p>
      )}
      {field.clash && <TwoTexts {...field.clash} onChoose={field.settle} />}
    </section>
  );
}
