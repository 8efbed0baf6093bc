/** An excerpt from the full-text index, its hits marked. */
export function Found({ text }: { text: string }) {
  return (
    <>
      {text.split('\u0002').map((part, at) => {
        if (at === 0) return part;
        const [hit, rest] = part.split('\u0003');
        return (
          <span key={at}>
            <mark>{hit}</mark>
            {rest}
          </span>
        );
      })}
    </>
  );
}
