import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NotOpened, Seal } from './sealing.ts';

describe('a seal', () => {
  it('opens what it closed, as what that was, and nothing else', () =>
    fc.assert(
      fc.property(fc.string(), fc.string({ minLength: 1 }), fc.nat(), (secret, as, at) => {
        const seal = new Seal('a key of the house');
        const closed = seal.close(secret, as);
        expect(closed).toMatch(/^sealed:1:[\w-]+$/);
        expect(seal.close(secret, as)).not.toBe(closed);
        expect(seal.open(closed, as)).toBe(secret);
        expect(() => seal.open(closed, `${as}.`)).toThrow(NotOpened);
        expect(() => new Seal('another key').open(closed, as)).toThrow(NotOpened);
        const bytes = Buffer.from(closed.slice('sealed:1:'.length), 'base64url');
        bytes[at % bytes.length] = (bytes[at % bytes.length] ?? 0) ^ 1;
        expect(() => seal.open(`sealed:1:${bytes.toString('base64url')}`, as)).toThrow(NotOpened);
        expect(() => seal.open(closed.slice(0, -2), as)).toThrow(NotOpened);
      }),
    ));

  it('leaves what was kept before as it is', () => {
    expect(new Seal('a key').open('whsec_bare', 'machine/desk')).toBe('whsec_bare');
  });
});
