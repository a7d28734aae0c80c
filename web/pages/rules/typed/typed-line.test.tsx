// @vitest-environment jsdom
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { LIMITS } from '../../../../contract/limits.ts';
import type { TypedRule } from '../../../../contract/wire/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import { draw, Keeper, ruleOf } from '../../../testing/drawing.tsx';
import { refuse, serve } from '../../../testing/serving.ts';
import { TypedLine } from './typed-line.tsx';

const READ: TypedRule = { document: ruleOf(), marks: [], names: [], offered: [] };
const CRITICAL = ruleOf({ urgency: 'critical' });

/** The line over a rule, with what the rule has become. */
function openLine(answer: (text: string) => Partial<TypedRule>, { isBlank = true, first = '' } = {}) {
  const asked = serve({
    'rules.typed': ({ body }) => ({ ...READ, ...answer((body as { text: string }).text) }),
    'rules.said': ({ body }) => ({ sentence: `said as ${(body as { document: Rule }).document.urgency}` }),
  });
  const changes: Rule[] = [];
  const { user } = draw(
    <Keeper first={ruleOf()} onChange={(next) => changes.push(next)}>
      {(rule, change) => (
        <>
          <TypedLine rule={rule} first={first} isBlank={isBlank} isFixed={false} onChange={change} />
          <button type="button" onClick={() => change({ ...rule, urgency: 'important' })}>
            elsewhere
          </button>
        </>
      )}
    </Keeper>,
  );
  return {
    asked,
    changes,
    user,
    field: screen.getByRole<HTMLTextAreaElement>('textbox', { name: 'Say it in a sentence' }),
  };
}

const word = (text: string, from: number) => ({ text, from, kind: 'word' as const, of: null });

describe('a rule typed as one sentence', () => {
  it('becomes the rule as it is understood, which keeps its own name', async () => {
    const { user, field, changes } = openLine(() => ({ document: { ...CRITICAL, id: 'typed', name: 'Typed' } }));
    await user.type(field, 'tell');
    await waitFor(() => expect(changes.at(-1)).toEqual(CRITICAL));
    expect(field.value).toBe('tell');
  });

  it('is said of the rule, and said anew where the rule is changed elsewhere', async () => {
    const { user, field, changes } = openLine(() => ({ document: CRITICAL }), { isBlank: false });
    await waitFor(() => expect(field.value).toBe('said as routine'));
    await user.type(field, '!');
    await waitFor(() => expect(changes).toEqual([CRITICAL]));
    expect(field.value).toBe('said as routine!');
    await user.click(screen.getByRole('button', { name: 'elsewhere' }));
    await waitFor(() => expect(field.value).toBe('said as important'));
  });

  it('goes on with what is marked, by Tab, and leaves the rest as it stands', async () => {
    const { user, field } = openLine((text) => ({
      offered: text === 'te' ? [word('tell', 0), word('tell to', 0)] : [],
    }));
    await user.type(field, 'te');
    await screen.findByRole('option', { name: 'tell' });
    await user.keyboard('{ArrowDown}{Tab}');
    expect(field.value).toBe('tell to ');
    expect(document.activeElement).toBe(field);
    // A sign that closes stands close to the word before it.
    await user.keyboard(',');
    expect(field.value).toBe('tell to,');
  });

  it('leaves Tab alone once the list is closed', async () => {
    const { user, field } = openLine((text) => ({ offered: [word('tell', 0)].slice(text.length) }));
    await user.type(field, 't');
    await user.keyboard('{Escape}{Tab}');
    expect(document.activeElement).not.toBe(field);
    expect(field.value).toBe('t');
  });

  it('stays closed where it was closed before it had come', async () => {
    const { changes, user, field } = openLine(() => ({ document: CRITICAL, offered: [word('tell', 0)] }));
    await user.type(field, 't{Escape}');
    await waitFor(() => expect(changes).toHaveLength(1));
    expect(screen.queryByRole('listbox')).toBeNull();
    await user.type(field, 'e');
    expect(await screen.findByRole('listbox')).toBeTruthy();
  });

  it('marks what is not understood, and puts there what could stand instead', async () => {
    const { user, field } = openLine((text) => ({
      marks: text.includes('registar') ? [{ from: 5, to: 13, code: 'unknownName', could: ['Registrar'] }] : [],
    }));
    await user.type(field, 'tell registar when a loan changes');
    expect(await screen.findByText(/“registar” names nothing that could stand here\./)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Registrar' }));
    expect(field.value).toBe('tell Registrar when a loan changes');
    await waitFor(() => expect(screen.queryByText(/names nothing/)).toBeNull());
  });

  it('says why it is not read, and loses nothing', async () => {
    const { user, field, changes } = openLine(() => refuse('notFound'));
    await user.type(field, 'tell');
    expect(await screen.findByRole('alert')).toBeTruthy();
    expect(field.value).toBe('tell');
    expect(changes).toEqual([]);
  });

  it('does not send what is far too long, and says how long it may be', async () => {
    const { asked } = openLine(() => ({}), { first: 'x'.repeat(LIMITS.sentence + 1) });
    expect((await screen.findByRole('alert')).textContent).toContain('A sentence has 30,000 signs at most');
    expect(asked.filter(({ route }) => route === 'rules.typed')).toEqual([]);
  });
});
