import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { api, ask, done } from '../api/client';
import { queryClient } from '../api/queries';
import type { components } from '../api/schema';
import { laidInto, nextPlace } from '../bench/short/laying';
import { PutInDialog } from '../bench/short/PutInDialog';
import { carryOut, complain } from '../papers/notices';
import { isKey } from '../papers/ownKeys';
import { TwoTexts } from '../ui/TwoTexts';
import { nearDay } from '../ui/dates';
import { useField } from '../ui/useField';

type Post = components['schemas']['PostShown'];

const postsOf = (day: string) => ['posts', day];
const waiting = ['posts', 'ready'];
/** So long after the last key a post is saved and counted: whoever writes to a limit looks at it. */
const counted = 350;

const refresh = () => queryClient.invalidateQueries({ queryKey: ['posts'] });

/** The short posts of a day, and those of any day that are ready and wait to be sent. */
export function Posts({ day }: { day: string }) {
  const own = useQuery({
    queryKey: postsOf(day),
    queryFn: () => ask(api.GET('/api/posts', { params: { query: { day } } })),
  });
  const ready = useQuery({ queryKey: waiting, queryFn: () => ask(api.GET('/api/posts')) });
  const others = (ready.data ?? []).filter((post) => post.day !== day);
  const begin = async () => {
    const made = await carryOut(
      done(api.POST('/api/posts', { body: { day, text: '' } })),
      'A short post is begun.',
    ).catch(() => undefined);
    await refresh();
    if (made) setTimeout(() => document.getElementById(`post-${made.number}`)?.focus(), 60);
  };
  return (
    <section aria-label="Short posts" className="mt-6">
      <h2 className="label mb-1 flex items-baseline gap-3 text-second">
        Short posts
        <button type="button" className="link min-h-6 tracking-normal normal-case" onClick={() => void begin()}>
          begin one
        </button>
      </h2>
      {(own.data ?? []).map((post) => (
        <PostField key={post.number} post={post} />
      ))}
      {others.length > 0 && (
        <>
          <h3 className="mt-2 text-[12.5px] text-second">Ready from other days</h3>
          {others.map((post) => (
            <PostField key={post.number} post={post} isOfOther />
          ))}
        </>
      )}
    </section>
  );
}

function PostField({ post, isOfOther = false }: { post: Post; isOfOther?: boolean }) {
  const path = { number: String(post.number) };
  const edit = (body: { text?: string; ready?: boolean; sent?: boolean }) =>
    done(api.PATCH('/api/posts/{number}', { params: { path }, body: { ...body, version: post.version } }));
  const field = useField(
    `post.${post.number}`,
    post.text,
    async (text) => {
      const made = await edit({ text });
      await refresh();
      return made;
    },
    counted,
  );
  const area = useRef<HTMLTextAreaElement>(null);
  const [puttingIn, setPuttingIn] = useState(false);
  useEffect(() => {
    const own = area.current;
    if (!own) return;
    own.style.height = 'auto';
    own.style.height = `${own.scrollHeight}px`;
  }, [field.text]);
  const act = async (body: { ready?: boolean; sent?: boolean }, said: string) => {
    await field.flush();
    const now = queryClient
      .getQueriesData<Post[]>({ queryKey: ['posts'] })
      .flatMap(([, posts]) => posts ?? [])
      .find((one) => one.number === post.number);
    await carryOut(
      done(
        api.PATCH('/api/posts/{number}', {
          params: { path },
          body: { ...body, version: now?.version ?? post.version },
        }),
      ),
      said,
    ).catch(() => undefined);
    await refresh();
  };
  const remove = async () => {
    await carryOut(done(api.DELETE('/api/posts/{number}', { params: { path } })), 'The post is deleted.').catch(
      () => undefined,
    );
    await refresh();
  };
  const copy = () =>
    navigator.clipboard.writeText(post.text).then(() => act({ sent: true }, 'Copied, and ticked as sent.'), complain);
  const isOver = post.overFrom !== null && post.text === field.text;
  return (
    <article aria-label={`Post ${post.number}`} className="border-b border-rule py-2">
      <textarea
        ref={area}
        id={`post-${post.number}`}
        aria-label={`Text of post ${post.number}`}
        rows={1}
        value={field.text}
        placeholder="a few lines"
        onChange={(event) => field.change(event.target.value)}
        onFocus={field.enter}
        onBlur={() => void field.flush()}
        onKeyDown={(event) => {
          if (isKey(event.nativeEvent, 'bench.pattern')) {
            event.preventDefault();
            setPuttingIn(true);
          } else if (event.key === 'Tab' && !event.shiftKey && nextPlace(event.currentTarget)) event.preventDefault();
        }}
        className={`written block w-full resize-none overflow-hidden bg-transparent text-[16px] leading-[1.5] outline-none ${post.sentAt ? 'text-second' : ''}`}
      />
      {isOver && (
        <p className="written text-[14px] text-red" aria-live="polite">
          over from here: …{post.text.slice(post.overFrom!, post.overFrom! + 60)}
        </p>
      )}
      {field.error && (
        <p role="alert" className="text-[12px] text-red">
          {field.error}
        </p>
      )}
      <p className="flex flex-wrap items-baseline gap-x-4 text-[12.5px] text-second">
        {post.measured && (
          <span className={`figures ${post.measured.has > post.measured.most ? 'font-bold text-red' : ''}`}>
            {post.measured.has} of {post.measured.most}
          </span>
        )}
        {isOfOther && <span>{nearDay(post.day)}</span>}
        <label className="flex min-h-6 items-center gap-1.5">
          <input
            type="checkbox"
            checked={post.readyAt !== null}
            onChange={(event) =>
              void act(
                { ready: event.target.checked },
                event.target.checked ? 'Ready; it waits to be sent.' : 'To be written on.',
              )
            }
          />
          ready
        </label>
        {post.readyAt && (
          <label className="flex min-h-6 items-center gap-1.5">
            <input
              type="checkbox"
              checked={post.sentAt !== null}
              onChange={(event) =>
                void act({ sent: event.target.checked }, event.target.checked ? 'Sent.' : 'It waits again.')
              }
            />
            sent
          </label>
        )}
        {post.readyAt && !post.sentAt && (
          <button type="button" className="link min-h-6" onClick={() => void copy()}>
            copy and tick
          </button>
        )}
        <button type="button" className="link min-h-6" onClick={() => setPuttingIn(true)}>
          from a pattern…
        </button>
        <button
          type="button"
          aria-label={`delete post ${post.number}`}
          className="link min-h-6"
          onClick={() => void remove()}
        >
          delete
        </button>
      </p>
      {puttingIn && (
        <PutInDialog
          only={['post', 'opening', 'bit']}
          onLay={(laid) => {
            setPuttingIn(false);
            const own = area.current;
            if (!own) return;
            const put = laidInto(own, laid);
            field.change(put.text);
            // Behind the dialog, which gives the focus back.
            setTimeout(put.start, 150);
          }}
          onClose={() => setPuttingIn(false)}
        />
      )}
      {field.clash && <TwoTexts {...field.clash} onChoose={field.settle} />}
    </article>
  );
}
