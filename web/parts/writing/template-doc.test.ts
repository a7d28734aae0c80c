import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type DocNode, docOf, templateOf, WHAT_CHANGED } from './template-doc.ts';

describe('a template in its editor', () => {
  it('shows placeholders as tokens, and neither braces nor signs', () => {
    const doc = docOf(
      `{{ recipient.name }},\n\n**{{ change.actor }}** changed [{{ item.title }}]({{ links.item }}):\n${WHAT_CHANGED}\n- one\n- two {{ "x" | upcase }}`,
    );
    expect(doc.content?.map((block) => block.type)).toEqual(['paragraph', 'paragraph', 'whatChanged', 'bulletList']);
    expect(doc.content?.[1]?.content?.slice(0, 3)).toEqual([
      { type: 'placeholder', attrs: { name: 'change.actor' }, marks: [{ type: 'bold' }] },
      { type: 'text', text: ' changed ' },
      {
        type: 'placeholder',
        attrs: { name: 'item.title' },
        marks: [{ type: 'link', attrs: { href: '{{ links.item }}' } }],
      },
    ]);
    const words: string[] = [];
    const visit = (node: DocNode) => {
      if (node.text) words.push(node.text);
      node.content?.forEach(visit);
    };
    visit(doc);
    expect(words.join('')).not.toMatch(/[{}*[\]]/);
  });

  const words = fc.constantFrom('Loan', 'goes', 'on view', 'é', '3');
  const run: fc.Arbitrary<string> = fc.oneof(
    words,
    fc.constantFrom('{{ item.title }}', '{{ change.actor.email }}', '{% if x %}', '{{ a | b }}'),
    words.map((one) => `**${one}**`),
    words.map((one) => `[${one}](https://marisma.example)`),
    words.map((one) => `[**${one}** {{ item.title }}]({{ links.item }})`),
  );
  const line = fc.array(run, { minLength: 1, maxLength: 4 }).map((runs) => runs.join(' '));
  const block = fc.oneof(
    fc.array(line, { minLength: 1, maxLength: 3 }).map((lines) => lines.join('\n')),
    fc.array(line, { minLength: 1, maxLength: 3 }).map((lines) => lines.map((one) => `- ${one}`).join('\n')),
    fc
      .array(line, { minLength: 1, maxLength: 3 })
      .map((lines) => lines.map((one, at) => `${at + 1}. ${one}`).join('\n')),
    fc.constant(WHAT_CHANGED),
  );

  it('is the same text again as it was', () => {
    fc.assert(
      fc.property(fc.array(block, { maxLength: 4 }), (blocks) => {
        const template = blocks.join('\n\n');
        expect(templateOf(docOf(template))).toBe(template);
      }),
      { numRuns: 500 },
    );
  });

  it('of whatever somebody wrote loses no word, and stands still once it has been through', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: fc.constantFrom('a', ' ', '\n', '*', '-', '[', ']', '(', ')', '{', '}', '%', '1', '.') }),
        (text) => {
          const once = templateOf(docOf(text));
          expect(templateOf(docOf(once))).toBe(once);
          const letters = (of: string) => of.replace(/[^a]/g, '');
          expect(letters(once)).toBe(letters(text));
        },
      ),
      { numRuns: 2000 },
    );
  });
});
