import { aroundRemark, remarksIn } from '../notes';

/** What the writer says to themselves in the draft; none of it ever goes out. */
export function RemarksView({
  text,
  onGo,
  onDone,
  onNew,
}: {
  text: string;
  onGo: (from: number, to: number) => void;
  /** The stretch goes. */
  onDone: (from: number, to: number) => void;
  onNew: () => void;
}) {
  const remarks = remarksIn(text);
  return (
    <div className="px-3.5 py-3">
      {remarks.length === 0 && (
        <p className="text-second">
          None. A remark stands in the text as a slip of paper, is not counted, and never goes out.
        </p>
      )}
      <ul>
        {remarks.map((one) => (
          <li key={one.from} className="mb-2 border border-manila-edge bg-manila px-2.5 py-1.5">
            <button
              type="button"
              className="written block w-full text-left text-[14px] leading-snug hover:text-blue"
              onClick={() => onGo(one.from, one.to)}
            >
              {one.text || '(nothing yet)'}
            </button>
            <button
              type="button"
              className="link min-h-6 text-[12.5px]"
              onClick={() => {
                const { from, to } = aroundRemark(text, one);
                onDone(from, to);
              }}
            >
              done
            </button>
          </li>
        ))}
      </ul>
      <button type="button" className="link min-h-6 text-[12.5px]" onClick={onNew}>
        a remark at the cursor
      </button>
    </div>
  );
}
