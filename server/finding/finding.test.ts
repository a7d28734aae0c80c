import { beforeAll, describe, expect, it } from 'vitest';
import { Refusal } from '../../contract/problems.ts';
import { DirectoryCache, rows, store, wordsAsked } from '../store/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { newLoan, NOON } from '../testing/museum.ts';
import { layOutPapers } from '../testing/papers.ts';
import { indexItems } from './index.ts';

const { museum, ask, handIn } = askMuseum();
const find = async (as: string, text: string): Promise<string[]> =>
  (await ask(`/find?${new URLSearchParams({ text })}`, { as })).body.saying.map(
    ({ title }: { title: string }) => title,
  );
async function index(): Promise<void> {
  const directory = await new DirectoryCache().current(museum.pool);
  while (await indexItems(museum.pool, directory));
}
async function added(folder: string, name: string, bytes: Buffer | string): Promise<string> {
  const { upload } = (await handIn('mei', 'papers', name, bytes)).body;
  const body = { folder, files: [{ upload, name }] };
  return (await ask('/sources/papers/documents', { as: 'mei', method: 'POST', body })).body[0].id;
}

/** One line as a PDF (ISO 32000-1), its objects found by themselves. */
function pdf(line: string): Buffer {
  const stream = `BT /F1 13 Tf 72 760 Td (${line}) Tj ET`;
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Contents 5 0 R /Resources << /Font << /F1 4 0 R >> >> >>',
    '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>',
    `<< /Length ${stream.length} >>\nstream\n${stream}\nendstream`,
  ];
  const body = objects.map((object, at) => `${at + 1} 0 obj\n${object}\nendobj\n`).join('');
  return Buffer.from(`%PDF-1.4\n${body}trailer\n<< /Size 6 /Root 1 0 R >>\n%%EOF\n`, 'latin1');
}

describe('what items say', () => {
  beforeAll(() => layOutPapers(museum.pool));

  it('is found by all of its words, begun or whole, in fields, texts, tables and PDF', async () => {
    await newLoan(museum.pool, { title: 'Reed Gate', note: 'Needs two porters and a ramp' }, NOON);
    await added('open', 'plan.md', '# Árbol\n\nThe herringbone gantry');
    await added('open', 'crates.csv', 'Crate,State\nA 1,waterlogged\n');
    await added('open', 'sheet.pdf', pdf('An astrolabe of brass'));
    await added('open', 'noise.bin', Buffer.from([0, 1, 2, 255]));
    await index();
    expect(await find('wren', 'porters ramp')).toEqual(['Reed Gate']);
    expect(await find('wren', 'gantry herr')).toEqual(['plan.md']);
    expect(await find('wren', 'arbol')).toEqual(['plan.md']);
    expect(await find('wren', 'waterlog')).toEqual(['crates.csv']);
    expect(await find('wren', 'astrolabe')).toEqual(['sheet.pdf']);
    expect(await find('wren', 'porters gantry')).toEqual([]);
  });

  it('is found as it is now, and by its readers alone', async () => {
    const id = await added('closed', 'secret.md', 'A marzipan clause');
    await index();
    expect([await find('wren', 'marzipan'), await find('mei', 'marzipan')]).toEqual([[], ['secret.md']]);
    const { upload } = (await handIn('mei', 'papers', 'secret.md', 'A nougat clause')).body;
    await ask(`/items/${id}/versions`, { as: 'mei', method: 'POST', body: { upload } });
    await index();
    expect([await find('mei', 'marzipan'), await find('mei', 'nougat')]).toEqual([[], ['secret.md']]);
    expect(await rows(museum.pool, store.texts.stale(1))).toEqual([]);
  });

  it('of one document that cannot be read within bounds holds up nobody else', async () => {
    await added('open', 'heavy.md', 'A millstone');
    await added('open', 'light.md', 'A feather');
    const read = async (documents: readonly { bytes: Uint8Array }[]) => {
      const texts = documents.map(({ bytes }) => Buffer.from(bytes).toString());
      if (texts.some((one) => one.includes('millstone')))
        throw new Refusal('badRequest', { because: 'tableTakesTooMuch' });
      return texts;
    };
    const directory = await new DirectoryCache().current(museum.pool);
    while (await indexItems(museum.pool, directory, read));
    expect([await find('wren', 'feather'), await find('wren', 'millstone')]).toEqual([['light.md'], []]);
    // By its name it is found.
    expect((await ask('/find?text=heavy', { as: 'wren' })).body.items[0].title).toBe('heavy.md');
  });

  it.each(['', '  ', '+-*"()', '@@', '"unclosed', 'a* +b -c ~d <e >f (g'])(
    'takes any signs as no more than words (%s)',
    async (text) => {
      expect((await ask(`/find?${new URLSearchParams({ text })}`, { as: 'mei' })).status).toBe(200);
      expect(wordsAsked(text) ?? '').toMatch(/^(\+[\p{L}\p{N}]+\*( |$))*$/u);
    },
  );
});
