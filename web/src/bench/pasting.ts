import TurndownService from 'turndown';
import { gfm } from 'turndown-plugin-gfm';

/** Deeper than any page that was written by a hand. */
const deepest = 400;

function isTooDeep(root: Node): boolean {
  const walk = document.createTreeWalker(root, NodeFilter.SHOW_ELEMENT);
  let depth = 0;
  let node: Node | null = walk.currentNode;
  while (node) {
    const child = walk.firstChild();
    if (child) depth++;
    else {
      while (!walk.nextSibling()) {
        if (!walk.parentNode()) return false;
        depth--;
      }
    }
    if (depth > deepest) return true;
    node = walk.currentNode;
  }
  return false;
}

const style = (node: Node) => (node as HTMLElement).getAttribute?.('style') ?? '';
const isBold = (node: Node) => /font-weight:\s*(bold|[6-9]00)/i.test(style(node));
const isItalic = (node: Node) => /font-style:\s*italic/i.test(style(node));

function service(): TurndownService {
  const turn = new TurndownService({
    headingStyle: 'atx',
    bulletListMarker: '-',
    codeBlockStyle: 'fenced',
    emDelimiter: '*',
    linkStyle: 'inlined',
  });
  turn.use(gfm);
  turn.remove([
    'script',
    'style',
    'title',
    'meta',
    'link',
    'noscript',
    'iframe',
    'object',
    'button',
    'form' as 'style',
  ]);
  // Office programs say bold and italic with styles, and wrap whole documents into a <b> that is none.
  turn.addRule('plain bold', {
    filter: (node) => ['B', 'STRONG'].includes(node.nodeName) && /font-weight:\s*(normal|400)/i.test(style(node)),
    replacement: (content) => content,
  });
  turn.addRule('styled', {
    filter: (node) => node.nodeName === 'SPAN' && (isBold(node) || isItalic(node)),
    replacement: (content, node) => {
      const [, before, words, after] = /^(\s*)([\s\S]*?)(\s*)$/.exec(content)!;
      if (!words) return content;
      const marks = (isItalic(node) ? '*' : '') + (isBold(node) ? '**' : '');
      return `${before}${marks}${words}${[...marks].reverse().join('')}${after}`;
    },
  });
  turn.addRule('list paragraphs', {
    filter: (node) => node.nodeName === 'P' && /^MsoList/.test((node as HTMLElement).className),
    replacement: (content) => {
      const words = content.trim();
      const numbered = /^(\d+)[.)]\s+([\s\S]*)$/.exec(words);
      return numbered ? `\n${numbered[1]}. ${numbered[2]}\n` : `\n- ${words.replace(/^[^\p{L}\p{N}“"‘'*[]+/u, '')}\n`;
    },
  });
  turn.addRule('links', {
    filter: (node) =>
      node.nodeName === 'A' && !/^(https?|mailto):/i.test((node as HTMLAnchorElement).getAttribute('href') ?? ''),
    replacement: (content) => content,
  });
  turn.addRule('pictures', {
    filter: 'img',
    replacement: (_, node) => (node as HTMLImageElement).alt,
  });
  return turn;
}

/** Page or office text as Markdown: headings from ## on, emphasis, lists, links and tables. Null when it is no more than plain words. */
export function markdownOf(html: string): string | null {
  const page = new DOMParser().parseFromString(html, 'text/html');
  if (
    !page.body.querySelector(
      'h1,h2,h3,h4,h5,h6,ul,ol,table,a[href],b,strong,i,em,blockquote,pre,code,p,span[style],del,s',
    )
  )
    return null;
  if (isTooDeep(page.body)) return null;
  const levels = [...page.body.querySelectorAll('h1,h2,h3,h4,h5,h6')].map((heading) => Number(heading.nodeName[1]));
  const shift = levels.length > 0 ? 2 - Math.min(...levels) : 0;
  const converter = service();
  converter.addRule('headings', {
    filter: ['h1', 'h2', 'h3', 'h4', 'h5', 'h6'],
    replacement: (content, node) =>
      content.trim() === ''
        ? ''
        : `\n\n${'#'.repeat(Math.min(6, Number(node.nodeName[1]) + shift))} ${content
            .trim()
            .replace(/\s+/g, ' ')
            .replace(/^\*\*(.*)\*\*$/, '$1')}\n\n`,
  });
  try {
    return converter
      .turndown(page.body)
      .replace(/\u00a0/g, ' ')
      .replace(/^(\s*)[-*] {2,}/gm, '$1- ')
      .replace(/^(\s*\d+\.) {2,}/gm, '$1 ');
  } catch {
    return null;
  }
}
