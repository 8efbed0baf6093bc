import { Link } from 'react-router';
import { answerTo, daySaid, type Ask } from './asks';

/** Where an ask stands, and what can be done for it next. */
export function AskStands({ ask: one }: { ask: Ask }) {
  const answer = answerTo(one);
  return (
    <p className="text-[12.5px] leading-snug text-second">
      {answer ? (
        <>
          <span className="text-done">answered in {answer.title}</span>
          {one.toAnswer > 0 && (
            <>
              {' · '}
              <Link to={`/catalogue/messages?ask=${one.number}&open=yes`} className="link">
                reply to {one.toAnswer}
              </Link>
            </>
          )}
        </>
      ) : one.piece ? (
        <Link to={`/bench/${one.piece.piece}`} className="link">
          P {one.piece.piece} in hand, at {one.piece.stage}
        </Link>
      ) : (
        <>
          last on {daySaid(one.last)}
          {one.ideas[0] ? (
            <>
              {' · '}
              <Link to={`/library/slip/${one.ideas[0].slip}`} className="link">
                slip {one.ideas[0].slip}
              </Link>{' '}
              {one.idea ? 'is its idea' : 'may answer it'}
            </>
          ) : (
            ' · nothing yet'
          )}
        </>
      )}
    </p>
  );
}
