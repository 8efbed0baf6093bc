import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { Piece } from '../api/client';
import { NoteRelease } from '../catalogue/NoteRelease';
import { DraftLetter } from '../catalogue/letters/DraftLetter';
import { PageDialog } from '../catalogue/pages/PageDialog';
import { usePageOf } from '../catalogue/pages/pages';
import { SendDialog } from '../catalogue/queue/SendDialog';
import { complain, say } from '../papers/notices';
import { BibliographyDialog } from '../sources/BibliographyDialog';
import { ActionMenu } from '../ui/ActionMenu';
import { AsFile, type FileKind } from './AsFile';
import { StartPiece } from './StartPiece';
import { UsableDialog } from './Usable';

const address = (piece: number, as: FileKind, fragment = false) =>
  `/api/pieces/${piece}/export?as=${as}${fragment ? '&fragment=true' : ''}`;

async function text(url: string): Promise<string> {
  const response = await fetch(url);
  if (!response.ok) throw new Error(`The server answered ${response.status}. Nothing was copied.`);
  return response.text();
}

function download(url: string) {
  const link = document.createElement('a');
  link.href = url;
  link.download = '';
  link.click();
}

/** Takes the finished text out. */
export function OutMenu({
  piece,
  beforeOut,
  onGoing,
  onTrash,
}: {
  piece: Piece;
  beforeOut: (go: () => void) => Promise<unknown>;
  onGoing: () => Promise<unknown>;
  onTrash: () => void;
}) {
  const copy = async (what: string, put: () => Promise<void>) => {
    try {
      await put();
      say(`Copied ${what}.`);
    } catch (error) {
      complain(error);
    }
  };
  const formatted = async () => {
    const [html, plain] = await Promise.all([
      text(address(piece.number, 'html', true)),
      text(address(piece.number, 'markdown')),
    ]);
    await navigator.clipboard.write([
      new ClipboardItem({
        'text/html': new Blob([html], { type: 'text/html' }),
        'text/plain': new Blob([plain], { type: 'text/plain' }),
      }),
    ]);
  };
  const take = (as: FileKind, how: Record<string, string>) => {
    const asked = `${address(piece.number, as)}&${new URLSearchParams(how).toString()}`;
    if (as === 'pdf-html') {
      const page = window.open(asked);
      page?.addEventListener('load', () => page.print());
    } else download(asked);
  };
  const navigate = useNavigate();
  const [asFile, setAsFile] = useState(false);
  const [citing, setCiting] = useState(false);
  const [marking, setMarking] = useState(false);
  const [starting, setStarting] = useState(false);
  const [noting, setNoting] = useState(false);
  const [sending, setSending] = useState(false);
  const [drafting, setDrafting] = useState(false);
  const [putting, setPutting] = useState(false);
  const page = usePageOf(piece.number);
  return (
    <>
      <StartPiece open={starting} onClose={() => setStarting(false)} from={{ piece: piece.number }} />
      <AsFile piece={piece} open={asFile} onClose={() => setAsFile(false)} onTake={take} />
      {marking && <UsableDialog kind="piece" number={piece.number} onClose={() => setMarking(false)} />}
      {sending && (
        <SendDialog
          piece={piece.number}
          title={piece.title}
          format={piece.format}
          outlet={piece.outlet}
          onClose={() => setSending(false)}
        />
      )}
      {noting && (
        <NoteRelease piece={piece.number} title={piece.title} outlet={null} onClose={() => setNoting(false)} />
      )}
      {drafting && <DraftLetter piece={piece.number} title={piece.title} onClose={() => setDrafting(false)} />}
      {putting && <PageDialog piece={piece.number} title={piece.title} onClose={() => setPutting(false)} />}
      {citing && <BibliographyDialog piece={piece.number} onClose={() => setCiting(false)} />}
      <ActionMenu
        label="Take out"
        className="inline-flex min-h-[30px] shrink-0 items-center rounded-key border border-blue px-3 text-[12.5px] font-semibold text-blue hover:bg-wash"
        actions={[
          {
            key: 'copy',
            label: 'Copy as formatted text',
            note: 'for mail or a site',
            onChoose: () => void beforeOut(() => void copy('as formatted text', formatted)),
          },
          {
            key: 'copymd',
            label: 'Copy as Markdown',
            onChoose: () =>
              void beforeOut(
                () =>
                  void copy('as Markdown', async () =>
                    navigator.clipboard.writeText(await text(address(piece.number, 'markdown'))),
                  ),
              ),
          },
          {
            key: 'file',
            label: 'As a file…',
            note: 'Word, book, PDF, script …',
            onChoose: () => void beforeOut(() => setAsFile(true)),
          },
          {
            key: 'read',
            label: 'Read it aloud',
            note: 'large, at your pace',
            onChoose: () => void onGoing().then(() => navigate(`/read/${piece.number}`), complain),
          },
          {
            key: 'bibliography',
            label: 'Bibliography…',
            onChoose: () => void onGoing().then(() => setCiting(true), complain),
          },
          {
            key: 'usable',
            label: 'Paragraphs usable by themselves…',
            onChoose: () => void onGoing().then(() => setMarking(true), complain),
          },
          {
            key: 'next',
            label: 'Start a piece from it…',
            note: 'a sequel, another format',
            onChoose: () => void onGoing().then(() => setStarting(true), complain),
          },
          {
            key: 'send',
            label: 'Send it…',
            note: 'now, or on its day',
            onChoose: () => void onGoing().then(() => setSending(true), complain),
          },
          {
            key: 'draft',
            label: 'Send the draft to chosen people…',
            note: 'by mail, before it goes out',
            onChoose: () => void onGoing().then(() => setDrafting(true), complain),
          },
          {
            key: 'page',
            label: page ? 'Its page…' : 'Put it up as a page…',
            note: page ? (page.downAt ? 'taken down' : 'up') : 'at an address of your own',
            onChoose: () =>
              void onGoing().then(
                () => (page ? navigate(`/catalogue/pages/${page.number}`) : setPutting(true)),
                complain,
              ),
          },
          {
            key: 'note',
            label: 'It went out: note where and when…',
            note: 'the text is kept as sent',
            onChoose: () => void beforeOut(() => setNoting(true)),
          },
          { key: 'trash', label: piece.trashedAt ? 'Take out of the trash' : 'Put into the trash', onChoose: onTrash },
        ]}
      >
        Take out ▾
      </ActionMenu>
    </>
  );
}
