import { Button } from '../../ui/Button';
import { Dialog } from '../../ui/Dialog';
import { dateShown } from '../../ui/dates';
import { hostOf, numbered, type Look } from './service';

/** What would be sent to a service, in full, before it is. */
export function LookFirst({ look, onSend, onClose }: { look: Look; onSend: () => void; onClose: () => void }) {
  return (
    <Dialog open wide title={`What is sent to ${hostOf(look.to)}`} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          onSend();
        }}
      >
        <dl className="grid grid-cols-[96px_minmax(0,1fr)] gap-x-4 gap-y-1 text-[13px]">
          <dt className="text-second">To</dt>
          <dd className="break-all">{look.to}</dd>
          <dt className="text-second">How much</dt>
          <dd className="figures">
            {numbered(look.sends.length)} characters; with the answer at most about {numbered(look.tokens)} tokens
          </dd>
          <dt className="text-second">Asked so far</dt>
          <dd className="figures">
            {numbered(look.use.today)} of {numbered(look.limits.requestsADay)} times today,{' '}
            {numbered(look.use.thisMonth)} of {numbered(look.limits.tokensAMonth)} tokens this month
          </dd>
        </dl>
        <Question question={JSON.parse(look.question) as Asking} />
        <details className="mt-3 text-[13px]">
          <summary className="link min-h-6 cursor-pointer">all of it, to the letter</summary>
          {look.told && <Sent name="What the model is told first" text={look.told} low />}
          <Sent name="What is sent, whole" text={look.sends} />
        </details>
        {look.hinders && (
          <p role="alert" className="mt-3 text-[13px] text-red">
            {look.hinders}
          </p>
        )}
        <div className="mt-4 flex flex-wrap items-center gap-2">
          <Button look="main" type="submit" disabled={look.hinders !== null} autoFocus>
            Send this
          </Button>
          <Button onClick={onClose}>Send nothing</Button>
        </div>
      </form>
    </Dialog>
  );
}

/** A question, as docs/idea-service.md has it. */
type Asking = {
  count: number;
  language: string;
  format?: string;
  audience?: string;
  outlet?: string;
  from?: string;
  to?: string;
  topics: { topic: number; name: string; terms?: string[]; notes?: { of: string; text: string }[] }[];
  exists: string[];
};

const languages = new Intl.DisplayNames(['en'], { type: 'language' });

/** What is asked, to be read through before it goes. */
function Question({ question }: { question: Asking }) {
  const wish = [
    `${question.count} ${question.count === 1 ? 'idea' : 'ideas'} in ${languages.of(question.language) ?? question.language}`,
    question.format && `as ${question.format}`,
    question.audience && `told to ${question.audience}`,
    question.outlet && `to go out in ${question.outlet}`,
    question.from && question.to && `for ${dateShown(question.from)} to ${dateShown(question.to)}`,
  ].filter(Boolean);
  return (
    <section aria-label="What it is told" className="mt-3">
      <h3 className="label border-b border-rule pb-0.5 text-second">What it is told</h3>
      <div
        role="region"
        aria-label="The question"
        tabIndex={0}
        className="max-h-[38vh] overflow-y-auto border-b border-rule py-1.5 text-[13.5px]"
      >
        <p>{wish.join(', ')}.</p>
        {question.topics.map((topic) => (
          <div key={topic.topic} className="mt-2.5">
            <h4 className="font-semibold">
              {topic.name}
              {topic.terms && <span className="narrow ml-3 font-normal text-second">{topic.terms.join(', ')}</span>}
            </h4>
            <ul>
              {topic.notes?.map((note) => (
                <li key={note.of} className="grid grid-cols-[76px_minmax(0,1fr)] items-baseline gap-x-3 py-0.5">
                  <span className="narrow text-[12px] text-second">{note.of}</span>
                  <span className="written break-words">{note.text}</span>
                </li>
              ))}
            </ul>
          </div>
        ))}
        {question.exists.length > 0 && (
          <div className="mt-2.5">
            <h4 className="font-semibold">there already, and not to come again</h4>
            <ul>
              {question.exists.map((title, at) => (
                <li key={at} className="written py-0.5 break-words">
                  {title}
                </li>
              ))}
            </ul>
          </div>
        )}
      </div>
    </section>
  );
}

/** Words as they went or came, which are nothing but words. */
export function Sent({ name, text, low = false }: { name: string; text: string; low?: boolean }) {
  return (
    <section aria-label={name} className="mt-3">
      <h3 className="label border-b border-rule pb-0.5 text-second">{name}</h3>
      <pre
        tabIndex={0}
        className={`overflow-auto border-b border-rule py-2 text-[12px] leading-relaxed break-words whitespace-pre-wrap ${low ? 'max-h-28' : 'max-h-64'}`}
      >
        {text}
      </pre>
    </section>
  );
}
