import { Link } from 'react-router';
import type { TopicMark } from '../api/client';

/** A topic's name, underlined in its colour. */
export function TopicWord({ topic, linked = false }: { topic: TopicMark; linked?: boolean }) {
  const look = 'narrow inline-block border-b-2 text-[12px] leading-[14px] text-ink whitespace-nowrap';
  const style = { borderColor: `var(--${topic.colour})` };
  return linked ? (
    <Link to={`/topics/${topic.number}`} className={`${look} hover:text-blue`} style={style}>
      {topic.name}
    </Link>
  ) : (
    <span className={look} style={style}>
      {topic.name}
    </span>
  );
}

export function TopicWords({ topics, linked }: { topics: readonly TopicMark[]; linked?: boolean }) {
  return (
    <span className={`inline-flex flex-wrap gap-x-2 ${linked ? 'gap-y-2.5' : 'gap-y-1'}`}>
      {topics.map((topic) => (
        <TopicWord key={topic.number} topic={topic} linked={linked} />
      ))}
    </span>
  );
}
