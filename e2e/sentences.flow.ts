import { expect, type Locator, test } from '@playwright/test';
import { closeAll, complete, edit, signIn } from './people.ts';

test.afterEach(closeAll);

interface Sentence {
  says: string;
  source: string;
  field: string;
  way: string;
  /** What is chosen or typed besides, in the editor that is open. */
  fill?: (editor: Locator) => Promise<unknown>;
  means: object;
}

const choose = (editor: Locator, label: string, option: string) => editor.getByLabel(label).selectOption(option);

/** What somebody wants to hear of, as they would say it, and the condition that it means. */
const SENTENCES: Sentence[] = [
  {
    says: 'an insured value rises by a tenth or more',
    source: 'loans',
    field: 'Insured value',
    way: 'rises',
    fill: (editor) => editor.getByLabel('By at least so many per cent').fill('10'),
    means: { rose: { field: 'insured', percent: '10' } },
  },
  {
    says: 'a loan goes from Requested or Agreed to On view',
    source: 'loans',
    field: 'Status',
    way: 'goes from … to …',
    fill: async (editor) => {
      await editor.getByRole('checkbox', { name: 'Requested' }).check();
      await editor.getByRole('checkbox', { name: 'Agreed' }).check();
      await choose(editor, 'to', 'On view');
    },
    means: {
      all: [
        { was: { field: 'status', op: 'oneOf', value: ['Requested', 'Agreed'] } },
        { became: { field: 'status', op: 'is', value: 'On view' } },
      ],
    },
  },
  {
    says: 'an object’s condition ceases to be Good',
    source: 'objects',
    field: 'Condition',
    way: 'at the moment it no longer …',
    fill: (editor) => choose(editor, 'Condition, the value', 'Good'),
    means: { ceased: { field: 'condition', op: 'is', value: 'Good' } },
  },
  {
    says: 'a case’s humidity climbs above 57.5',
    source: 'cases',
    field: 'Humidity in %',
    way: 'at the moment it …',
    fill: async (editor) => {
      await choose(editor, 'How it is tested', 'above');
      await editor.getByLabel('Humidity in %, the value').fill('57.5');
    },
    means: { became: { field: 'humidity', op: 'above', value: '57.5' } },
  },
  {
    says: 'a loan comes to be due within two weeks',
    source: 'loans',
    field: 'Due back',
    way: 'at the moment it …',
    fill: async (editor) => {
      await choose(editor, 'How it is tested', 'withinNext');
      await editor.getByLabel(/how many/).fill('2');
      await editor.getByLabel(/unit/).selectOption('weeks');
    },
    means: { became: { field: 'due', op: 'withinNext', value: 'P2W' } },
  },
];

for (const { says, source, field, way, fill, means } of SENTENCES)
  test(`“${says}” is a live rule within two minutes`, async ({ browser }) => {
    test.setTimeout(120_000);
    const hugo = await signIn(browser, 'Hugo Brandt');
    await hugo.goto(`/rules/new?source=${source}`);
    await hugo.getByRole('button', { name: '+ only if' }).click();
    await complete(hugo, async (editor) => {
      await editor.getByLabel('Field', { exact: true }).selectOption(field);
      await editor.getByLabel('What it does').selectOption(way);
      await fill?.(editor);
    });
    await edit(hugo, 'Add who hears', (editor) => editor.getByRole('option', { name: /^Hugo Brandt/ }).click());
    await hugo.getByLabel('The rule’s name').fill(says);
    await hugo.getByRole('button', { name: 'Put it live' }).click();
    await expect(hugo.getByText('version 1, since')).toBeVisible();
    const id = new URL(hugo.url()).pathname.split('/').at(-1);
    const { live } = (await (await hugo.request.get(`/api/rules/${id}`)).json()) as { live: { when: { if: object } } };
    expect(live.when.if).toEqual(means);
  });
