import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkMachineBody, MACHINE_NAMES, machineBody, sampleMessage } from './machine-body.ts';

const SITE = { base: 'https://ojo.example', name: 'Ojo' };
const sample = sampleMessage('m1', 0);
/** The sample with another title and headline. */
const about = (title: string) => ({
  ...sample,
  content: {
    ...sample.content,
    headline: title,
    entries: sample.content.entries.map((entry) => ({ ...entry, item: { ...entry.item, title } })),
  },
});

describe('a template for a machine', () => {
  it('puts whatever people write into JSON as it stands', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (title) => {
        const body = machineBody(
          'json',
          '{"title": "{{ item.title }}", "both": "a {{ message.headline }} b"}',
          about(title),
          SITE,
        );
        expect(JSON.parse(body ?? '')).toEqual({ title, both: `a ${title} b` });
      }),
    );
  });

  it('puts it into text unchanged', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (title) => {
        expect(machineBody('text', '<{{ item.title }}>', about(title), SITE)).toBe(`<${title}>`);
      }),
    );
  });

  it('may use each name that there is, and no other', () => {
    const all = MACHINE_NAMES.map((name) => `"${name}": "{{ ${name} }}"`).join(',');
    expect(checkMachineBody('json', `{${all}}`, 'template', sample, SITE)).toEqual([]);
    expect(machineBody('json', `{${all}}`, sample, SITE)).toContain('https://ojo.example/items/L-12');
    for (const name of ['item', 'item.fields', 'site.secret', 'constructor', 'message.__proto__'])
      expect(checkMachineBody('text', `{{ ${name} }}`, 'template', sample, SITE)).toMatchObject([
        { code: 'unknownName' },
      ]);
  });

  it('comes to nothing where it goes round without an end', () => {
    const endless = '{% for a in (1..100000) %}{% for b in (1..100000) %}x{% endfor %}{% endfor %}';
    expect(machineBody('text', endless, sample, SITE)).toBeNull();
  });
});
