import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { kindOfContents, TextSense } from './kind.ts';
import { cleanName } from './names.ts';

describe('a file’s name', () => {
  it('is one that can be kept and shown, whatever it was, and stays as it is once clean', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 400 }), (given) => {
        const name = cleanName(given);
        expect(name.length).toBeGreaterThan(0);
        expect(name.length).toBeLessThanOrEqual(200);
        expect(name.isWellFormed()).toBe(true);
        expect(name).not.toMatch(/[\p{Cc}\p{Cf}\\/<>:"|?*]|^[\s.]|[\s.]$/u);
        expect(cleanName(name)).toBe(name);
      }),
      { seed: 3, numRuns: 2000 },
    );
  });
});

describe('whether contents are text', () => {
  /** The same, told of the whole at once. */
  const isText = (bytes: Buffer): boolean => {
    try {
      const text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
      // biome-ignore lint/suspicious/noControlCharactersInRegex: they are what is looked for
      return !/[\u0000-\u0008\u000b\u000e-\u001f]/.test(text);
    } catch {
      return false;
    }
  };

  it('is told the same however the bytes come, cut in the middle of a sign or not', () => {
    const bytes = fc.oneof(
      fc.string({ unit: 'grapheme', maxLength: 60 }).map((text) => Buffer.from(text)),
      fc.uint8Array({ maxLength: 60 }).map((list) => Buffer.from(list)),
    );
    fc.assert(
      fc.property(bytes, fc.integer({ min: 1, max: 9 }), (whole, size) => {
        const sense = new TextSense();
        for (let at = 0; at < whole.length; at += size) sense.take(whole.subarray(at, at + size));
        expect(sense.end()).toBe(isText(whole));
      }),
      { seed: 4, numRuns: 2000 },
    );
  });

  it('leaves what sort of text to the name, and nothing else', async () => {
    const kind = (name: string, text: boolean) => kindOfContents(Buffer.from('a,b'), name, text);
    expect(await Promise.all([kind('a.MD', true), kind('a.csv', true), kind('a.exe', true), kind('a', true)])).toEqual([
      'text/markdown',
      'text/csv',
      'text/plain',
      'text/plain',
    ]);
    expect(await kind('a.md', false)).toBe('application/octet-stream');
  });
});
