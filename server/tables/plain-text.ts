import { unpackedSize, unpacksTooLarge } from './archive.ts';
import { parseTable } from './parsing.ts';

/** What a document holds, and what it is. */
export interface Held {
  bytes: Uint8Array;
  mediaType: string;
}

const BOOK = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
/** So many pages of a document are read. */
const MOST_PAGES = 200;

/** What a document says, as plain text; nothing where it says nothing that could be read. */
export async function textOf({ bytes, mediaType }: Held): Promise<string> {
  try {
    if (mediaType.startsWith('text/') || mediaType === 'application/json')
      return new TextDecoder('utf-8').decode(bytes);
    if (mediaType === 'application/pdf') return await textOfPdf(bytes);
    return mediaType === BOOK ? await textOfBook(Buffer.from(bytes)) : '';
  } catch {
    // Whatever is wrong with it: it is found by its name.
    return '';
  }
}

async function textOfBook(bytes: Buffer): Promise<string> {
  const held = unpackedSize(bytes);
  if (!held || unpacksTooLarge(held)) return '';
  const { lines } = await parseTable(bytes, 'xlsx', null);
  return lines.map((line) => line.filter((cell) => cell !== null).join(' ')).join('\n');
}

async function textOfPdf(bytes: Uint8Array): Promise<string> {
  const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  // Nothing of it runs, and nothing is fetched for it.
  const loading = getDocument({
    data: new Uint8Array(bytes),
    isEvalSupported: false,
    disableFontFace: true,
    verbosity: 0,
  });
  try {
    const document = await loading.promise;
    const pages: string[] = [];
    for (let at = 1; at <= Math.min(document.numPages, MOST_PAGES); at += 1) {
      const { items } = await (await document.getPage(at)).getTextContent();
      pages.push(items.map((item) => ('str' in item ? item.str : '')).join(' '));
    }
    return pages.join('\n');
  } finally {
    await loading.destroy();
  }
}
