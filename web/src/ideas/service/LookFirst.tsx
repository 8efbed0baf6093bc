import { Button } from '../../ui/Button';
import { Dialog } from '../../ui/Dialog';
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
        <dl className="grid grid-cols-[120px_minmax(0,1fr)] gap-x-4 gap-y-1 text-[13px]">
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
        <Sent name="What is asked" text={look.question} />
        {look.told && <Sent name="What the model is told first" text={look.told} low />}
        <details className="mt-3 text-[13px]">
          <summary className="link min-h-6 cursor-pointer">all of it, to the letter</summary>
          <Sent name="To the letter" text={look.sends} />
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
