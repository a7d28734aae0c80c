import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { linesOf, marked, plainMarked, withoutMarks } from './marked.ts';

const shown = (template: string) =>
  linesOf(marked(template)).map(({ kind, runs }) => [
    kind,
    runs.map(({ text, isBold, href }) => `${isBold ? '!' : ''}${text}${href === null ? '' : `>${href}`}`).join('|'),
  ]);

describe('a text of a rule’s own', () => {
  it.each<[string, [string, string][]]>([
    ['plain', [['line', 'plain']]],
    ['a **bold** word', [['line', 'a |!bold| word']]],
    ['**{{ item.title }}** goes', [['line', '!{{ item.title }}| goes']]],
    [
      '- one\n- two\n\nend',
      [
        ['item', 'one'],
        ['item', 'two'],
        ['line', ''],
        ['line', 'end'],
      ],
    ],
    [
      '1. one\n2. **two**',
      [
        ['numbered', 'one'],
        ['numbered', '!two'],
      ],
    ],
    ['see [the loan](https://ojo.example/a)', [['line', 'see |the loan>https://ojo.example/a']]],
    ['see [it]({{ links.item }}) now', [['line', 'see |it| now']]],
    ['at https://ojo.example/a.', [['line', 'at |https://ojo.example/a>https://ojo.example/a|.']]],
    ['[bad](javascript:alert(1))', [['line', 'bad|)']]],
    ['2 ** 3 and * 4', [['line', '2 ** 3 and * 4']]],
    ['a - b', [['line', 'a - b']]],
    ['{{ "**x**" }}', [['line', '{{ "**x**" }}']]],
  ])('%j', (template, lines) => expect(shown(template)).toEqual(lines));

  it('is plain text too, links with their addresses', () =>
    expect(plainMarked(marked('**Look:**\n- [the loan](https://ojo.example/a)\n1. https://b.example\n1. two'))).toBe(
      'Look:\n- the loan (https://ojo.example/a)\n1. https://b.example\n2. two',
    ));

  it('takes nothing that a value holds for a sign of its own', () => {
    fc.assert(
      fc.property(
        fc.string({
          unit: fc.constantFrom('*', '[', ']', '(', ')', '-', ' ', 'a', '\ue010', '\ue013', '\ue014', '\ue015'),
        }),
        (value) => {
          const text = marked('- {{ v }} **b**').replace('{{ v }}', withoutMarks(value));
          const [line, ...others] = linesOf(text);
          expect(others).toEqual([]);
          expect(line?.runs.map((run) => run.text).join('')).toBe(`${withoutMarks(value)} b`);
          expect(line?.runs.filter((run) => run.href !== null)).toEqual([]);
          expect(line?.runs.filter((run) => run.isBold).map((run) => run.text)).toEqual(['b']);
        },
      ),
    );
  });
});
