import { Button } from './Button';
import { Dialog } from './Dialog';

/** Both texts, when two places changed the same one; nothing is thrown away before the writer has seen it. */
export function TwoTexts({
  mine,
  theirs,
  onChoose,
}: {
  mine: string;
  theirs: string;
  onChoose: (text: string) => void;
}) {
  return (
    <Dialog title="This text was changed in two places" open onClose={() => undefined} wide>
      <p className="mb-4 text-second">
        Both are here. Whichever you take, the other can be copied from this page first, or put at the end.
      </p>
      <div className="grid gap-5 md:grid-cols-2">
        <Side title="Written here" text={mine} action="Take this one" onTake={() => onChoose(mine)} />
        <Side title="Saved meanwhile, elsewhere" text={theirs} action="Take that one" onTake={() => onChoose(theirs)} />
      </div>
      <div className="mt-4 text-right">
        <Button onClick={() => onChoose(`${theirs.trimEnd()}\n\n${mine}`)}>Take both, mine at the end</Button>
      </div>
    </Dialog>
  );
}

function Side({ title, text, action, onTake }: { title: string; text: string; action: string; onTake: () => void }) {
  return (
    <section aria-label={title}>
      <h3 className="label mb-1 text-second">{title}</h3>
      <pre className="written h-[45vh] overflow-auto border border-hair bg-quiet p-3 text-[14px] leading-relaxed whitespace-pre-wrap">
        {text}
      </pre>
      <Button look="main" className="mt-2" onClick={onTake}>
        {action}
      </Button>
    </section>
  );
}
