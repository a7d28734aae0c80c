import { expect, it } from 'vitest';
import { e164 } from './numbers.ts';

it('takes telephone numbers as people write them, and those alone that there can be', () => {
  for (const text of [
    '+34 600 555 014',
    '0034600555014',
    '+34-600-555-014',
    ' +34 (600) 555.014 ',
    '+34 600 555 014'.replace(/ /g, '\u00a0'),
  ])
    expect(e164(text), text).toBe('+34600555014');
  for (const text of ['', '600 555 014', '+', '+34', '+34 600', '+999 600 555 014', '+34 600 555 014 555', 'telephone'])
    expect(e164(text), text).toBeNull();
});
