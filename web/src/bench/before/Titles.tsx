import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask, done, type TitleLine } from '../../api/client';
import { keys } from '../../api/queries';
import { carryOut } from '../../papers/notices';
import { AddLine } from '../../ui/AddLine';
import { Failed, Loading } from '../../ui/States';
import { TextField } from '../../ui/TextField';
import { refreshPiece } from '../refreshPiece';
import { laidInto, nextPlace } from '../short/laying';
import { PutInDialog, type LaidPattern } from '../short/PutInDialog';
import { TitlesOffered } from './Variants';

/** Titles side by side: the one the piece has, and those that are kept beside it. */
export function Titles({ piece }: { piece: number }) {
  const path = { number: String(piece) };
  const titles = useQuery({
    queryKey: keys.titles(piece),
    queryFn: () => ask(api.GET('/api/pieces/{number}/titles', { params: { path } })),
  });
  const [puttingIn, setPuttingIn] = useState(false);
  const [offering, setOffering] = useState(false);
  /** A title of a pattern's shape lies beside the others, its first place chosen. */
  const lay = async (laid: LaidPattern) => {
    setPuttingIn(false);
    const made = await carryOut(
      done(api.POST('/api/pieces/{number}/titles', { params: { path }, body: { text: laid.text } })),
      'A title to be filled in.',
    ).catch(() => undefined);
    await refreshPiece();
    const added = made && Math.max(...made.others.map((line) => line.number ?? 0));
    setTimeout(() => {
      const field = document.querySelector<HTMLTextAreaElement>(`[aria-label="Title ${added}"]`);
      if (!field) return;
      field.setSelectionRange(0, 0);
      laidInto(field, laid);
      field.focus();
      nextPlace(field, 0);
    }, 150);
  };
  if (titles.error) return <Failed error={titles.error} />;
  if (!titles.data) return <Loading />;
  return (
    <section aria-label="Titles" className="mt-8">
      <h2 className="label border-b border-ink pb-1">Titles</h2>
      <Title line={titles.data.chosen} piece={piece} />
      {titles.data.others.map((line) => (
        <Title key={line.number} line={line} piece={piece} />
      ))}
      <button type="button" className="link min-h-6 text-[12.5px]" onClick={() => setPuttingIn(true)}>
        from a pattern…
      </button>
      <button
        type="button"
        aria-expanded={offering}
        className="link ml-5 min-h-6 text-[12.5px]"
        onClick={() => setOffering(!offering)}
      >
        from its own words
      </button>
      {offering && <TitlesOffered piece={piece} />}
      {puttingIn && (
        <PutInDialog
          piece={piece}
          only={['title']}
          onLay={(laid) => void lay(laid)}
          onClose={() => setPuttingIn(false)}
        />
      )}
      <AddLine
        place={`piece.${piece}.title.new`}
        label="Another title"
        placeholder="another title"
        press="Lay beside"
        className="written text-[16px]"
        onAdd={(text) =>
          carryOut(
            done(api.POST('/api/pieces/{number}/titles', { params: { path }, body: { text } })),
            'Title noted.',
          ).then(refreshPiece)
        }
      />
    </section>
  );
}

function Title({ line, piece }: { line: TitleLine; piece: number }) {
  const { look, number } = line;
  const path = { number: String(piece), title: String(number) };
  const act = (asked: Parameters<typeof carryOut>[0], said: string) => carryOut(asked, said).then(refreshPiece);
  const quietly = (asked: Parameters<typeof carryOut>[0], said: string) => void act(asked, said).catch(() => undefined);
  return (
    <article
      aria-label={number === null ? `The piece’s title: ${line.text}` : `Title: ${line.text}`}
      className={`border-b border-rule py-2.5 ${number === null ? '' : 'pl-5'}`}
    >
      <div className="flex items-baseline gap-4">
        <div className="min-w-0 flex-1">
          {number === null ? (
            <p className="written text-[18px] leading-snug font-semibold">{line.text}</p>
          ) : (
            <TextField
              label={`Title ${number}`}
              shown={false}
              place={`piece.${piece}.title.${number}`}
              value={line.text}
              onSave={(text) =>
                act(
                  done(api.PATCH('/api/pieces/{number}/titles/{title}', { params: { path }, body: { text } })),
                  'Title changed.',
                )
              }
              className="written text-[18px] leading-snug"
            />
          )}
        </div>
        {number === null ? (
          <span className="text-[12px] font-semibold whitespace-nowrap text-blue">it is called so</span>
        ) : (
          <span className="flex items-baseline gap-3 whitespace-nowrap">
            <button
              type="button"
              className="link min-h-6 font-semibold"
              onClick={() =>
                quietly(
                  done(api.POST('/api/pieces/{number}/titles/{title}/take', { params: { path } })),
                  `It is called “${line.text}” now.`,
                )
              }
            >
              call it so
            </button>
            <button
              type="button"
              aria-label={`Take the title “${line.text}” away`}
              className="min-h-6 min-w-6 text-second hover:text-red"
              onClick={() =>
                quietly(
                  done(api.DELETE('/api/pieces/{number}/titles/{title}', { params: { path } })),
                  'Title taken away.',
                )
              }
            >
              ×
            </button>
          </span>
        )}
      </div>
      <LookOf look={look} />
      {number !== null && (
        <TextField
          label={`Note on “${line.text}”`}
          shown={false}
          place={`piece.${piece}.title.${number}.note`}
          value={line.note}
          placeholder="a note"
          onSave={(note) =>
            act(
              done(api.PATCH('/api/pieces/{number}/titles/{title}', { params: { path }, body: { note } })),
              'Note kept.',
            )
          }
          className="mt-0.5 text-[12.5px] italic"
        />
      )}
    </article>
  );
}

/** How a title looks where titles are shown, and of which earlier ones it reminds. */
export function LookOf({ look }: { look: TitleLine['look'] }) {
  return (
    <>
      <dl className="mt-1 grid grid-cols-[max-content_minmax(0,1fr)] gap-x-3 text-[12.5px] leading-[1.45]">
        {look.places.map((place) => (
          <div key={place.place} className="contents">
            <dt className="text-second">
              {place.place} <span className="figures narrow text-[11.5px]">{place.most}</span>
            </dt>
            <dd className="min-w-0 truncate">
              {place.cut ? (
                <>
                  {place.shown}
                  <span aria-hidden className="mx-px border-l-2 border-red" />
                  <s className="text-second decoration-second/60" title={`cut off there: ${place.cut}`}>
                    {place.cut}
                  </s>
                </>
              ) : (
                <span className="text-second">all of it, {look.length} characters</span>
              )}
            </dd>
          </div>
        ))}
      </dl>
      {look.alike.length > 0 && (
        <p className="mt-1 text-[12.5px] text-red">
          much like{' '}
          {look.alike.map((other, at) => (
            <span key={other.piece}>
              {at > 0 && ', '}
              <Link className="underline" to={`/bench/${other.piece}`}>
                {other.title}
              </Link>
            </span>
          ))}
        </p>
      )}
      {look.shared.length > 0 && (
        <p className="mt-0.5 text-[12.5px] text-second">
          {look.shared.map((word, at) => (
            <span key={word.word}>
              {at > 0 && ' · '}
              <i className="written text-ink">{word.word}</i> stands in{' '}
              <span title={word.titles.map((title) => title.title).join('\n')}>
                {word.titles.length === 1
                  ? `“${word.titles[0]!.title}”`
                  : `${word.titles.length}${word.titles.length === 5 ? ' or more' : ''} titles`}
              </span>
            </span>
          ))}
        </p>
      )}
    </>
  );
}
