// @vitest-environment jsdom
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import { Route, Routes, useLocation } from 'react-router';
import { describe, expect, it } from 'vitest';
import type { Cost, DirectoryPage, RuleRow } from '../../../../contract/wire/index.ts';
import { FUNNEL_STEPS } from '../../../../core/decide/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import { DIRECTORY, draw, LOANS, part, rowOf, ruleOf } from '../../../testing/drawing.tsx';
import { type Asked, refuse, serve } from '../../../testing/serving.ts';
import { RulePage } from './rule.tsx';

const COST: Cost = {
  days: 30,
  steps: FUNNEL_STEPS.map((step, at) => ({ step, left: at < 4 ? 900 : 40, dropped: [] })),
  messages: 120,
  withheld: 3,
  all: [],
  caught: [],
  people: [{ person: 'ines', messages: 120, digests: 0 }],
};

const Where = () => <output>{useLocation().pathname}</output>;

/** The page of a rule, as the server has it. */
function openRule(
  at: string,
  served: Parameters<typeof serve>[0] = {},
  row: RuleRow = rowOf(),
  directory: Partial<DirectoryPage> = {},
) {
  const asked = serve({
    'rules.cost': () => COST,
    'rules.suggestions': () => [],
    'rules.editing': () => [],
    'rules.read': () => row,
    'rules.list': () => [row],
    'rules.create': ({ body }) =>
      rowOf({ id: 'made', state: 'draft', live: null, draft: (body as { document: Rule }).document }),
    'rules.putLive': () => row,
    'rules.keepDraft': ({ body, params }) => ({
      ...row,
      id: params.id ?? '',
      draft: (body as { document: Rule }).document,
      draftRevision: 2,
    }),
    ...served,
  });
  const { user } = draw(
    <Routes>
      <Route
        path="/rules/:rule"
        element={
          <>
            <RulePage />
            <Where />
          </>
        }
      />
      <Route path="*" element={<Where />} />
    </Routes>,
    { at, directory },
  );
  const bodies = (route: Asked['route']) => asked.filter((one) => one.route === route).map(({ body }) => body);
  return { user, asked, bodies };
}
const button = (name: string | RegExp) => screen.getByRole('button', { name });

describe('a new rule', () => {
  it('that nobody would hear says so where that is missing, and is not sent', async () => {
    const { user, bodies } = openRule('/rules/new?source=loans');
    await user.click(await screen.findByRole('button', { name: 'Put it live' }));
    expect(await screen.findByText(/Nobody would hear/)).toBeDefined();
    expect(document.activeElement?.textContent).toContain('say who hears');
    expect(bodies('rules.create')).toEqual([]);
  });

  it('begins from what people often want, says what it would have cost, and goes live in one go', async () => {
    const { user, bodies } = openRule('/rules/new?source=loans');
    await user.click(await screen.findByRole('button', { name: /Status becomes Returned/ }));
    expect((await screen.findAllByText('120')).length).toBeGreaterThan(0);
    await user.click(button('Put it live'));
    await waitFor(() => expect(bodies('rules.putLive')).toEqual([{ revision: 1, isSure: false, why: null }]));
    expect((bodies('rules.create')[0] as { document: Rule }).document).toMatchObject({
      when: { if: { became: { field: 'status', op: 'is', value: 'Returned' } } },
      to: [{ field: 'registrar' }],
    });
    await waitFor(() => expect(document.querySelector('output')?.textContent).toBe('/rules/made'));
  });

  it('asks once more before it tells a great many, and then goes live all the same', async () => {
    const served: Parameters<typeof serve>[0] = {
      'rules.putLive': ({ body }) => ((body as { isSure: boolean }).isSure ? rowOf() : refuse('secondLook')),
    };
    const { user, bodies } = openRule('/rules/new?source=loans', served);
    await user.click(await screen.findByRole('button', { name: /Status becomes Returned/ }));
    await user.click(button('Put it live'));
    await user.click(await within(await screen.findByRole('alert')).findByRole('button'));
    await waitFor(() => expect(bodies('rules.putLive')).toHaveLength(2));
    // It is made once, however often it is pressed.
    expect(bodies('rules.create')).toHaveLength(1);
  });

  it('that was made and not put live is edited, not made again, and goes where it is left', async () => {
    const { user, asked, bodies } = openRule('/rules/new?source=loans', {
      'rules.putLive': () => refuse('secondLook'),
      'rules.dropDraft': () => undefined,
    });
    await user.click(await screen.findByRole('button', { name: /Status becomes Returned/ }));
    await user.click(button('Put it live'));
    await screen.findByRole('alert');
    await user.type(screen.getByLabelText('The rule’s name'), 'Back again');
    await user.click(button('Put it live'));
    await waitFor(() => expect(bodies('rules.putLive')).toHaveLength(2));
    expect(bodies('rules.create')).toHaveLength(1);
    expect(bodies('rules.keepDraft').at(-1)).toMatchObject({
      revision: 1,
      document: { id: 'made', name: 'Back again' },
    });
    expect(bodies('rules.putLive').at(-1)).toMatchObject({ revision: 2 });
    await user.click(button('Leave it'));
    await waitFor(() =>
      expect(asked.filter(({ route }) => route === 'rules.dropDraft').map(({ params }) => params.id)).toEqual(['made']),
    );
  });

  it('is here again as it was left, until it is begun anew or on the server', async () => {
    const first = openRule('/rules/new?source=loans');
    await first.user.type(await screen.findByLabelText('The rule’s name'), 'Half done');
    cleanup();
    const second = openRule('/rules/new?source=loans');
    const name = () => screen.getByLabelText('The rule’s name') as HTMLInputElement;
    expect(((await screen.findByLabelText('The rule’s name')) as HTMLInputElement).value).toBe('Half done');
    await second.user.click(button('Begin anew'));
    expect(name().value).toBe('');
    await second.user.click(await screen.findByRole('button', { name: /Status becomes Returned/ }));
    await second.user.click(button('Keep as a draft'));
    await waitFor(() => expect(document.querySelector('output')?.textContent).toBe('/rules/made'));
    cleanup();
    openRule('/rules/new?source=loans');
    await screen.findByLabelText('The rule’s name');
    expect(screen.queryByText(/typed and not kept/)).toBeNull();
  });

  it('of a name that there is gets the next one by itself, unless somebody gave it', async () => {
    const taken = { code: 'nameTaken', path: 'name', params: { name: 'N', free: 'N 2' }, words: '' };
    const served: Parameters<typeof serve>[0] = {
      'rules.create': ({ body }) => {
        const { document } = body as { document: Rule };
        return document.name === 'N 2'
          ? rowOf({ id: 'made', state: 'draft', live: null, draft: document })
          : refuse('badRule', { faults: [taken] });
      },
    };
    const { user, bodies } = openRule('/rules/new?source=loans', served);
    await user.click(await screen.findByRole('button', { name: /Status becomes Returned/ }));
    await user.type(screen.getByLabelText('The rule’s name'), 'N');
    await user.click(button('Keep as a draft'));
    expect(await screen.findByText(/“N” already; “N 2” is free/)).toBeDefined();
    await waitFor(() => expect(document.activeElement).toBe(screen.getByLabelText('The rule’s name')));
    await user.clear(screen.getByLabelText('The rule’s name'));
    await user.click(button('Keep as a draft'));
    await waitFor(() => expect(document.querySelector('output')?.textContent).toBe('/rules/made'));
    expect((bodies('rules.create').at(-1) as { document: Rule }).document.name).toBe('N 2');
  });

  it('can be undone and done again, by buttons and by keys', async () => {
    const { user } = openRule('/rules/new?source=loans');
    await user.click(await screen.findByRole('button', { name: /Something new/i }));
    expect(screen.getByText('added', { selector: 'strong, b' })).toBeDefined();
    await user.click(button('Undo'));
    expect(screen.queryByText('added', { selector: 'strong, b' })).toBeNull();
    await user.keyboard('{Control>}y{/Control}');
    expect(screen.getByText('added', { selector: 'strong, b' })).toBeDefined();
  });

  it('turned to another source keeps all that it says, and says at each part what does not fit there', async () => {
    const lenders = {
      ...LOANS,
      id: 'lenders',
      name: 'Lenders',
      about: '',
      fields: [
        { id: 'title', name: 'Lender', type: 'text' as const },
        { id: 'status', name: 'Status', type: 'choice' as const, options: ['Agreed', 'On hold'] },
      ],
    };
    const copied = ruleOf({
      scope: { sources: ['loans'], where: { all: [{ field: 'insured', op: 'filled' }] } },
      message: { show: ['due'] },
    });
    const directory = { sources: [...DIRECTORY.sources, lenders] };
    const { user, bodies } = openRule('/rules/new?copy=on-view', {}, rowOf({ live: copied }), directory);
    await user.click(await screen.findByRole('button', { name: part('Which source') }));
    await user.selectOptions(await screen.findByRole('combobox', { name: 'Source' }), 'Lenders');
    await user.click(button('Done'));
    for (const said of [
      /Lenders has no field “insured”/,
      /Lenders has no field “registrar”/,
      /Lenders has no field “due”/,
      /“On view”/,
    ])
      expect(screen.getAllByText(said).length).toBeGreaterThan(0);
    expect(screen.getByText(/is counted once what is marked in red/)).toBeDefined();
    await user.click(button('Keep as a draft'));
    expect(bodies('rules.create')).toEqual([]);
  });

  it('from another one is a copy of it, and one’s own', async () => {
    openRule('/rules/new?copy=on-view');
    expect(((await screen.findByLabelText('The rule’s name')) as HTMLInputElement).value).toContain(
      'Loan goes on view',
    );
    expect(button('Keep as a draft')).toBeDefined();
  });
});

describe('a live rule', () => {
  it('that somebody has edited since offers what was typed here, and puts it in nobody’s place', async () => {
    const first = openRule('/rules/on-view', { 'rules.keepDraft': () => refuse('unavailable') });
    await first.user.type(await screen.findByLabelText('The rule’s name'), ', mine');
    cleanup();
    const second = openRule('/rules/on-view', {}, rowOf({ draftRevision: 7, draft: ruleOf({ name: 'Theirs' }) }));
    const name = (await screen.findByLabelText('The rule’s name')) as HTMLInputElement;
    expect(name.value).toBe('Theirs');
    await second.user.click(button('Bring back what I typed'));
    expect(name.value).toBe('Loan goes on view, mine');
  });

  it('past its last day is not said to be live', async () => {
    openRule('/rules/on-view', {}, rowOf({ live: ruleOf({ during: { until: '2026-03-03' } }) }));
    expect(await screen.findByText('Ended on 3 March 2026')).toBeDefined();
    expect(screen.queryByText('Live')).toBeNull();
    expect(screen.getByText(/last day has passed/)).toBeDefined();
  });

  it('shows which edits are not live yet, and drops them by one press', async () => {
    const { user } = openRule('/rules/on-view', { 'rules.dropDraft': () => undefined });
    const name = await screen.findByLabelText('The rule’s name');
    await user.type(name, ', urgently');
    expect(await screen.findByText(/1 edit/)).toBeDefined();
    await user.click(button('Drop edits'));
    await waitFor(() => expect((name as HTMLInputElement).value).toBe('Loan goes on view'));
  });

  it('is only looked at by whoever may not edit it', async () => {
    openRule('/rules/on-view', {}, rowOf({ mayEdit: false }));
    expect(((await screen.findByLabelText('The rule’s name')) as HTMLInputElement).readOnly).toBe(true);
    expect(screen.queryByRole('button', { name: /live|edits/i })).toBeNull();
  });

  it('that somebody else has edited meanwhile says who, and goes on from theirs', async () => {
    const theirs = ruleOf({ name: 'Theirs' });
    const { user } = openRule('/rules/on-view', {
      'rules.keepDraft': () => refuse('editedMeanwhile', { conflict: { draft: theirs, revision: 9, by: 'wren' } }),
    });
    const name = await screen.findByLabelText('The rule’s name');
    await user.type(name, '!');
    const clash = within(await screen.findByRole('alert', {}, { timeout: 5000 }));
    expect(clash.getByText(/Wren Adeyemi/)).toBeDefined();
    await user.click(clash.getByRole('button'));
    await waitFor(() => expect((name as HTMLInputElement).value).toBe('Theirs'));
  });

  it('says who has it open as well', async () => {
    openRule('/rules/on-view', { 'rules.editing': () => ['wren', 'mei'] });
    expect(await screen.findByText(/Wren Adeyemi and Mei Tanaka/)).toBeDefined();
  });
});
