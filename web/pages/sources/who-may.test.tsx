// @vitest-environment jsdom
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { AccessPage } from '../../../contract/wire/index.ts';
import { draw, LOANS } from '../../testing/drawing.tsx';
import { serve } from '../../testing/serving.ts';
import { WhoMay } from './who-may.tsx';

const PAGE: AccessPage = {
  places: [
    {
      folder: null,
      rights: { readers: [{ group: 'insurers' }, { field: 'registrar' }], adders: null, editors: [{ person: 'ines' }] },
      outright: ['mei'],
      isByItem: true,
    },
  ],
  mayChange: true,
};

describe('who may', () => {
  it('is not shown to whom it does not concern, who hear whom to ask', () => {
    draw(<WhoMay source={LOANS} />, {
      directory: { coordinates: [], keepers: [{ source: 'loans', people: ['mei'] }] },
    });
    expect(screen.getByText('Ask Mei Tanaka.')).toBeTruthy();
  });

  it('reads as sentences, and says of one person whether they read it', async () => {
    serve({ 'access.read': () => PAGE });
    draw(<WhoMay source={LOANS} />);
    expect(await screen.findByText('Insurers')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: /Does somebody read it/ }));
    await userEvent.type(screen.getByRole('combobox'), 'wren{Enter}');
    expect(await screen.findByText(/reads what names them, and nothing else, in/)).toBeTruthy();
  });

  it('says what a change comes to before it is kept, and cannot shut everybody out', async () => {
    const asked = serve({
      'access.read': () => PAGE,
      'access.preview': () => ({ shutOut: ['mei'], letIn: [], silent: [{ id: 'r1', name: 'Loan goes on view' }] }),
      'access.save': () => undefined,
    });
    draw(<WhoMay source={LOANS} />);
    await userEvent.click(await screen.findByRole('button', { name: /Insurers/ }));
    await userEvent.click(screen.getByRole('button', { name: 'Take it out' }));
    expect(await screen.findByText(/1 person could no longer read something.*Mei Tanaka/)).toBeTruthy();
    expect(screen.getByText('would tell nobody of anything here.')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Keep it so' }));
    await waitFor(() => expect(asked.some(({ route }) => route === 'access.save')).toBe(true));
    expect(asked.find(({ route }) => route === 'access.save')?.body).toMatchObject({
      folder: null,
      rights: { readers: [{ field: 'registrar' }] },
    });
  });
});
