import { useEffect, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { api, ask } from '../api/client';
import { Empty } from '../ui/States';
import { complain } from './notices';

/** Follows a link by name: [[flood marks]]. */
export function Go() {
  const { name = '' } = useParams();
  const navigate = useNavigate();
  const [missing, setMissing] = useState(false);
  useEffect(() => {
    ask(api.GET('/api/go', { params: { query: { name } } }))
      .then(({ address }) => (address ? navigate(address, { replace: true }) : setMissing(true)))
      .catch(complain);
  }, [name, navigate]);
  return missing ? (
    <Empty title={`Nothing is called “${name}” yet`}>
      A topic, a piece or a source of that name would be found here.
    </Empty>
  ) : null;
}
