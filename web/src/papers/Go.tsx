import { useEffect, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { api, ask, done } from '../api/client';
import { queryClient } from '../api/queries';
import { Button } from '../ui/Button';
import { Empty } from '../ui/States';
import { carryOut, complain } from './notices';

/** Follows a link by name: [[flood marks]]. What does not exist yet is made from here. */
export function Go() {
  const { name = '' } = useParams();
  const navigate = useNavigate();
  const [missing, setMissing] = useState(false);
  useEffect(() => {
    ask(api.GET('/api/go', { params: { query: { name } } }))
      .then(({ address }) => (address ? navigate(address, { replace: true }) : setMissing(true)))
      .catch(complain);
  }, [name, navigate]);
  if (!missing) return null;
  const make = (asked: Promise<{ answer: { number: number }; command: number }>, said: string, base: string) =>
    void carryOut(asked, said).then(
      async ({ number }) => {
        await queryClient.invalidateQueries();
        void navigate(base + number, { replace: true });
      },
      () => undefined,
    );
  return (
    <Empty
      title={`Nothing is called “${name}” yet`}
      action={
        <span className="flex gap-3">
          <Button
            autoFocus
            look="main"
            onClick={() =>
              make(done(api.POST('/api/topics', { body: { name } })), `Made the topic ${name}.`, '/topics/')
            }
          >
            Make it a topic
          </Button>
          <Button
            onClick={() =>
              make(done(api.POST('/api/pieces', { body: { title: name } })), `Started ${name}.`, '/bench/')
            }
          >
            A piece
          </Button>
          <Button
            onClick={() =>
              make(done(api.POST('/api/sources', { body: { title: name } })), `Added ${name}.`, '/library/source/')
            }
          >
            A source
          </Button>
        </span>
      }
    >
      The link that names it leads there once it is made.
    </Empty>
  );
}
