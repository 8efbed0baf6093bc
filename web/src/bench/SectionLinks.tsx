import { complain, say } from '../papers/notices';
import { LinkedFrom } from '../sources/Connections';
import { Unlinked } from '../sources/Unlinked';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { linksTo, usePieceLinks } from './pieceLinks';

/** What leads to one section of a piece, what names it without a link, and how to link to it. */
export function SectionLinks({ piece, section, onClose }: { piece: number; section: string; onClose: () => void }) {
  const own = linksTo(usePieceLinks(piece), section);
  const link = `[[P ${piece}, ${section}]]`;
  return (
    <Dialog open title={section} onClose={onClose}>
      <p className="text-second">
        Written anywhere, <span className="written text-ink">{link}</span> leads to this section.
      </p>
      <Button
        className="mt-2"
        onClick={() => void navigator.clipboard.writeText(link).then(() => say('Copied the link.'), complain)}
      >
        Copy the link
      </Button>
      <div className="max-h-[46vh] overflow-y-auto">
        {own.length === 0 && <p className="mt-5 text-second">Nothing links to it yet.</p>}
        <LinkedFrom lines={own.map((line) => ({ ...line, part: '' }))} />
        <Unlinked kind="piece" number={piece} section={section} />
      </div>
    </Dialog>
  );
}
