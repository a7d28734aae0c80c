// @vitest-environment jsdom
import { screen, waitFor, within } from '@testing-library/react';
import { expect, it } from 'vitest';
import type { DirectoryPage } from '../../../contract/wire/index.ts';
import { DIRECTORY, draw, ME } from '../../testing/drawing.tsx';
import { refuse, serve } from '../../testing/serving.ts';
import { WordingsPage } from './wordings.tsx';

const HOUSE: DirectoryPage = {
  ...DIRECTORY,
  wordings: [
    { id: 'w1', name: 'Usual', subject: 'S', body: null, usual: [{ source: 'loans', occasion: 'due' }] },
    { id: 'w2', name: 'Shared', subject: 'S', body: null, usual: [] },
  ],
  house: {
    letterhead: '**Marisma**',
    signOff: null,
    secondEyes: [],
    senders: [{ id: 's1', kind: 'person', person: 'wren', name: 'Wren Adeyemi', address: '' }],
  },
};
const drawAs = (role: 'member' | 'coordinator' | 'steward') =>
  draw(<WordingsPage />, { me: { ...ME, role }, directory: HOUSE });

it('shows everybody how the house speaks, and who can set it up', async () => {
  serve({ 'rules.list': () => [] });
  drawAs('coordinator');
  expect(screen.getByText('Marisma').tagName).toBe('STRONG');
  expect(screen.getByText(/Loan agreements, when a date comes near/)).toBeTruthy();
  expect(screen.getByText(/cannot be written to any more/)).toBeTruthy();
  expect(screen.getByText(/set up by stewards: ask Inés Calder/)).toBeTruthy();
  // What is usual is a steward's to write; what rules share is not.
  const editable = screen.getAllByRole('button', { name: 'Edit' });
  expect(editable).toHaveLength(1);
  expect(screen.queryByRole('button', { name: 'New name' })).toBeNull();
});

it('lets a steward say where a wording is usual, and says whose place it takes', async () => {
  const asked = serve({
    'rules.list': () => [],
    'wordings.save': ({ body }) => ({ id: 'w2', ...(body as object) }) as never,
  });
  const { user } = drawAs('steward');
  const [, shared] = screen.getAllByRole('listitem').filter((one) => within(one).queryByRole('heading'));
  await user.click(within(shared as HTMLElement).getByRole('button', { name: 'Edit' }));
  await user.selectOptions(screen.getByLabelText('Of which source'), 'loans');
  await user.selectOptions(screen.getByLabelText('On what occasion'), 'due');
  expect(screen.getByText('It would take the place of “Usual” there.')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Add' }));
  expect(screen.getByRole('button', { name: 'Add' })).toHaveProperty('disabled', true);
  await user.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() =>
    expect(asked.find(({ route }) => route === 'wordings.save')?.body).toMatchObject({
      usual: [{ source: 'loans', occasion: 'due' }],
    }),
  );
});

it('says what is wrong with a name at its field, and keeps what was typed', async () => {
  const asked = serve({
    'rules.list': () => [],
    'senders.create': () =>
      refuse('badRequest', {
        faults: [{ code: 'nameTaken', path: 'name', params: { name: 'Desk', free: 'Desk 2' }, words: '' }],
      }),
  });
  const { user } = drawAs('steward');
  await user.click(screen.getByRole('button', { name: 'New name' }));
  await user.click(screen.getByRole('button', { name: 'Save' }));
  expect((await screen.findAllByRole('alert')).map((one) => one.textContent)).toEqual([
    'Something has to stand here.',
    'This is no email address; one such as ines@marisma.example is right.',
  ]);
  expect(asked.filter(({ route }) => route === 'senders.create')).toEqual([]);
  await user.type(screen.getByLabelText('The name that readers see'), 'Desk');
  await user.type(screen.getByLabelText('Email address'), 'desk@marisma.example');
  await user.click(screen.getByRole('button', { name: 'Save' }));
  expect((await screen.findByRole('alert')).textContent).toContain('Desk 2');
  expect(screen.getByLabelText('The name that readers see')).toHaveProperty('value', 'Desk');
});
