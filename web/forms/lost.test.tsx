// @vitest-environment jsdom
import { screen } from '@testing-library/react';
import { Button } from 'react-bootstrap';
import { expect, it, vi } from 'vitest';
import { saySchema } from '../../contract/wire/index.ts';
import { draw } from '../testing/drawing.tsx';
import { Refused, SendForm, TextField, useSending } from './index.ts';

// What words a fault comes when one is first found: here it never does.
vi.mock('../../contract/words/faults.ts', () => {
  throw new Error('the connection is lost');
});

const send = vi.fn(async () => undefined);

function Saying() {
  const sending = useSending({ shape: saySchema, start: { words: '' }, send });
  return (
    <SendForm sending={sending}>
      <TextField sending={sending} name="words" label="Words" />
      <Refused sending={sending} />
      <Button type="submit">Send</Button>
    </SendForm>
  );
}

it('a form whose words for a fault do not come is not silent, and sends nothing', async () => {
  const { user } = draw(<Saying />);
  await user.type(screen.getByLabelText('Words'), '   ');
  await user.click(screen.getByRole('button', { name: 'Send' }));
  expect((await screen.findByRole('alert')).textContent).not.toBe('');
  expect((screen.getByLabelText('Words') as HTMLInputElement).value).toBe('   ');
  expect(send).not.toHaveBeenCalled();
});
