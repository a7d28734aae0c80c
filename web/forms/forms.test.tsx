// @vitest-environment jsdom
import { screen, waitFor } from '@testing-library/react';
import { Button } from 'react-bootstrap';
import { describe, expect, it, vi } from 'vitest';
import { z } from 'zod';
import { call } from '../queries/index.ts';
import { draw } from '../testing/drawing.tsx';
import { refuse, serve } from '../testing/serving.ts';
import { Refused, SendForm, TextField, useSending } from './index.ts';

const shape = z.strictObject({
  name: z.string().trim().min(1).max(12),
  address: z.string().trim().min(1).pipe(z.email()),
});

function Asking({ send, onSent }: { send: (read: z.output<typeof shape>) => Promise<unknown>; onSent?: () => void }) {
  const sending = useSending({ shape, start: { name: '', address: '' }, send, onSent });
  return (
    <SendForm sending={sending}>
      <TextField sending={sending} name="name" label="Name" hint="As it is said." />
      <TextField sending={sending} name="address" label="Address" />
      <Refused sending={sending} />
      <Button type="submit" disabled={sending.isPending}>
        Send
      </Button>
    </SendForm>
  );
}

describe('a form', () => {
  const box = (name: string) => screen.getByRole('textbox', { name }) as HTMLInputElement;
  const faultOf = (name: string) =>
    (box(name).getAttribute('aria-describedby') ?? '')
      .split(' ')
      .filter((id) => id.endsWith('-fault'))
      .map((id) => document.getElementById(id)?.textContent)[0];

  it('with nothing in it says what is missing at each field, focuses the first, and sends nothing', async () => {
    const send = vi.fn(async () => undefined);
    const { user } = draw(<Asking send={send} />);
    await user.click(screen.getByRole('button', { name: 'Send' }));
    await waitFor(() => expect(faultOf('Name')).toBe('Something has to stand here.'));
    expect(faultOf('Address')).toBe('Something has to stand here.');
    expect(document.activeElement).toBe(box('Name'));
    expect(box('Name').classList.contains('is-invalid')).toBe(true);
    expect(send).not.toHaveBeenCalled();
  });

  it('says what is wrong with far too much, and with what is of another kind, until it is mended', async () => {
    const send = vi.fn(async () => undefined);
    const onSent = vi.fn();
    const { user } = draw(<Asking send={send} onSent={onSent} />);
    await user.type(box('Name'), 'a name without an end');
    await user.type(box('Address'), 'nowhere{Enter}');
    await waitFor(() => expect(faultOf('Name')).toBe('At most 12 signs can stand here.'));
    expect(faultOf('Address')).toContain('ines@marisma.example');
    await user.clear(box('Name'));
    await user.type(box('Name'), ' Inés ');
    await user.type(box('Address'), '@marisma.example');
    await waitFor(() => expect(faultOf('Address')).toBeUndefined());
    await user.keyboard('{Enter}');
    await waitFor(() => expect(onSent).toHaveBeenCalledOnce());
    expect(send).toHaveBeenCalledWith({ name: 'Inés', address: 'nowhere@marisma.example' });
  });

  it('puts what the server refuses at the field that it is about, in the reader’s language, and keeps what was typed', async () => {
    serve({
      'views.name': () =>
        refuse('badRequest', { faults: [{ code: 'noAddress', path: 'address', params: {} }] } as never),
    });
    const send = () => call('views.name', { params: { source: 'loans' }, body: { name: 'n', asked: {} } });
    const { user } = draw(<Asking send={send} />, { me: { locale: 'es-ES' } });
    await user.type(box('Name'), 'Inés');
    await user.type(box('Address'), 'ines@marisma.example{Enter}');
    await waitFor(() => expect(faultOf('Address')).toContain('no es una dirección de correo'));
    expect(document.activeElement).toBe(box('Address'));
    expect(box('Name').value).toBe('Inés');
    expect(screen.getAllByRole('alert')).toHaveLength(1);
  });

  it('says what belongs to no field above its buttons, and can be sent again', async () => {
    let isAway = true;
    serve({
      'views.name': () => (isAway ? refuse('unavailable') : { id: 'v', name: 'n', owner: 'ines', asked: {} }),
    });
    const onSent = vi.fn();
    const send = () => call('views.name', { params: { source: 'loans' }, body: { name: 'n', asked: {} } });
    const { user } = draw(<Asking send={send} onSent={onSent} />);
    await user.type(box('Name'), 'Inés');
    await user.type(box('Address'), 'ines@marisma.example{Enter}');
    await screen.findByRole('alert');
    isAway = false;
    await user.click(screen.getByRole('button', { name: 'Send' }));
    await waitFor(() => expect(onSent).toHaveBeenCalledOnce());
    expect(screen.queryByRole('alert')).toBeNull();
  });

  it('is sent once, however often it is pressed while it is under way', async () => {
    let done: (value: unknown) => void = () => undefined;
    const send = vi.fn(() => new Promise((resolve) => (done = resolve)));
    const { user } = draw(<Asking send={send} />);
    await user.type(box('Name'), 'Inés');
    await user.type(box('Address'), 'ines@marisma.example{Enter}');
    await waitFor(() => expect(send).toHaveBeenCalledOnce());
    expect((screen.getByRole('button', { name: 'Send' }) as HTMLButtonElement).disabled).toBe(true);
    await user.click(screen.getByRole('button', { name: 'Send' }));
    done(null);
    await waitFor(() =>
      expect((screen.getByRole('button', { name: 'Send' }) as HTMLButtonElement).disabled).toBe(false),
    );
    expect(send).toHaveBeenCalledOnce();
  });
});
