// @vitest-environment jsdom
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { checkRule, type Rule } from '../../../../core/rules/index.ts';
import { worldFrom } from '../../../parts/index.ts';
import { DIRECTORY, draw, Keeper, LOANS, part, ruleOf } from '../../../testing/drawing.tsx';
import { Sentences } from '../rule/sentences.tsx';

/** The sentences of a rule as they stand on its page, and what has become of the rule. */
function edit(more: Record<string, unknown> = {}, { isFixed = false } = {}) {
  const rules: Rule[] = [ruleOf(more)];
  const now = () => rules.at(-1) as Rule;
  const { user } = draw(
    <Keeper first={now()} onChange={(rule) => rules.push(rule)}>
      {(rule, set) => (
        <Sentences
          rule={rule}
          source={LOANS}
          faults={checkRule(rule, worldFrom(DIRECTORY))}
          edited={[]}
          isFixed={isFixed}
          onChange={set}
          tried={undefined}
          onPerson={() => undefined}
        />
      )}
    </Keeper>,
  );
  /** Presses a part of a sentence; gives its editor. */
  const open = async (label: string, nth = 0) => {
    await user.click(screen.getAllByRole('button', { name: part(label) })[nth] as HTMLElement);
    return within(await screen.findByRole('dialog', { name: label }));
  };
  const choose = (box: HTMLElement, words: string) => user.selectOptions(box, words);
  const press = (name: string | RegExp) => user.click(screen.getByRole('button', { name }));
  const wrong = () => [...document.querySelectorAll('.hint.fault')].map((one) => one.textContent);
  return { user, now, open, choose, press, wrong };
}

describe('what happens', () => {
  it('turns from a change to a date and to a standstill, and drops what cannot stand with each', async () => {
    const { now, open, user } = edit({ pace: { kind: 'settled', quiet: 'PT10M', most: 'PT2H' } });
    const occasions = await open('What it waits for');
    await user.click(occasions.getByLabelText(/a date that comes near/));
    expect(now()).toMatchObject({ when: null, due: { field: 'due', offset: '-P14D' }, pace: { kind: 'now' } });
    await user.click(occasions.getByLabelText(/nothing, for a while/));
    expect(now()).toMatchObject({ due: null, idle: { for: 'P5D' } });
    await user.click(occasions.getByLabelText(/a change, when it is made/));
    expect(now()).toMatchObject({ idle: null, when: { kinds: [], if: { all: [] } } });
    // One chooses among them where one is: the editor stays, and so does the focus.
    expect(document.activeElement).toBe(occasions.getByLabelText(/a change, when it is made/));
  });

  it('is entered at what is chosen, and left for what is put in, or for the row of what is taken out', async () => {
    const { open, press, user } = edit({ when: null, idle: { for: 'P5D' } });
    const occasions = await open('What it waits for');
    expect(document.activeElement).toBe(occasions.getByLabelText(/nothing, for a while/));
    await user.keyboard('{Escape}');
    await press('+ and again');
    expect(document.activeElement).toBe(screen.getByRole('button', { name: part('How often again') }));
    await user.keyboard('{Enter}');
    await press('Take it out');
    expect((document.activeElement as HTMLElement).closest('.part')?.querySelector('h2')?.textContent).toBe(
      'What happens',
    );
  });

  it('has its kinds chosen by keys, in the order of the trade whatever the order chosen in', async () => {
    const { now, open, user } = edit();
    const kinds = await open('Kinds of change');
    kinds.getByLabelText(/deleted/).focus();
    await user.keyboard(' ');
    await user.click(kinds.getByLabelText(/added/));
    expect(now().when?.kinds).toEqual(['created', 'deleted']);
    await user.keyboard('{Escape}');
    expect(screen.queryByRole('dialog')).toBeNull();
    expect(document.activeElement).toBe(screen.getByRole('button', { name: part('Kinds of change') }));
  });

  it('has one part of its condition turned into another way and another field', async () => {
    const { now, open, choose } = edit();
    const clause = await open('What has to happen');
    await choose(clause.getByLabelText('What it does'), 'goes from … to …');
    expect(now().when?.if).toMatchObject({ all: [{ was: { field: 'status' } }, { became: { value: 'On view' } }] });
    await choose(clause.getByLabelText('Field'), 'Insured value');
    await choose(clause.getByLabelText('What it does'), 'rises');
    expect(now().when?.if).toEqual({ rose: { field: 'insured' } });
  });

  it('joins parts by the other word at a press, and takes one out again', async () => {
    const { now, press, user } = edit();
    await press(/^\+ or/);
    await user.keyboard('{Escape}');
    expect(now().when?.if).toMatchObject({ any: [{ became: { field: 'status' } }, { became: { field: 'status' } }] });
    await press(/Joined by or/);
    expect(now().when?.if).toHaveProperty('all');
    await user.click(screen.getAllByRole('button', { name: part('What has to happen') })[1] as HTMLElement);
    await press('Take it out');
    expect(now().when?.if).toEqual({ became: { field: 'status', op: 'is', value: 'On view' } });
  });

  it('counts a burst as it is typed; fewer than two is said to be wrong, and keeps the editor open', async () => {
    const { now, open, press, user, choose } = edit();
    await press(/only when it piles up/);
    const burst = await open('How often within what time');
    const times = burst.getByLabelText('How many times') as HTMLInputElement;
    await user.clear(times);
    await user.type(times, '14');
    expect(now().when?.burst?.count).toBe(14);
    await user.clear(times);
    await user.type(times, '5');
    expect(now().when?.burst?.count).toBe(5);
    await choose(burst.getByLabelText('Counted'), 'in all');
    expect(now().when?.burst).toEqual({ count: 5, within: 'PT10M', per: 'rule' });
    await user.clear(times);
    await user.type(times, '1');
    await user.click(burst.getByRole('button', { name: 'Done' }));
    expect(burst.getByText(/whole number from 2 to 10,000/)).toBeDefined();
    expect(document.activeElement).toBe(times);
    expect(times.value).toBe('1');
    expect(now().when?.burst?.count).toBe(5);
    await user.keyboard('{Escape}');
    expect(screen.queryByRole('dialog')).toBeNull();
  });

  it('of a date: before, at and after it, and again a few times', async () => {
    const { now, open, choose, press, user } = edit({ when: null, due: { field: 'due', offset: '-P14D' } });
    const date = await open('Which date, and how long before');
    await choose(date.getByLabelText('Before or after'), 'after it');
    expect(now().due?.offset).toBe('P14D');
    await choose(date.getByLabelText('Before or after'), 'at the date itself');
    expect(now().due?.offset).toBe('PT0S');
    await choose(date.getByLabelText('Before or after'), 'before it');
    expect(now().due?.offset).toBe('-P14D');
    await user.keyboard('{Escape}');
    await press('+ and again');
    expect(now().due?.repeat).toEqual({ every: 'P1D', times: 3 });
  });

  it('of a date at several lead times, each taken away again', async () => {
    const { now, open, press, user } = edit({ when: null, due: { field: 'due', offset: '-P14D' } });
    const date = await open('Which date, and how long before');
    await press('and once more…');
    await press('and once more…');
    expect(now().due?.offset).toEqual(['-P14D', '-P2D', '-P3D']);
    await user.click(within(date.getByRole('group', { name: 'Lead time 1' })).getByRole('button'));
    await user.click(within(date.getByRole('group', { name: 'Lead time 2' })).getByRole('button'));
    expect(now().due?.offset).toBe('-P2D');
    expect(date.queryByRole('button', { name: 'Take this one away' })).toBeNull();
  });

  it('compares a field with another of its type, and goes back to a value', async () => {
    const above = { field: 'insured', op: 'above', value: { amount: '100', currency: 'EUR' } };
    const { now, open, choose } = edit({ when: { if: { became: above } } });
    const clause = await open('What has to happen');
    await choose(clause.getByLabelText('Compared with what'), 'what stands in Cover limit');
    expect(now().when?.if).toEqual({ became: { ...above, value: { field: 'cover' } } });
    expect(screen.getByRole('button', { name: /goes above Cover limit/ })).toBeTruthy();
    expect(clause.queryByLabelText('Insured value, the value')).toBeNull();
    await choose(clause.getByLabelText('How it is tested'), 'goes below');
    expect(now().when?.if).toEqual({ became: { ...above, op: 'below', value: { field: 'cover' } } });
    await choose(clause.getByLabelText('Compared with what'), 'a value:');
    expect(now().when?.if).toEqual({ became: { ...above, op: 'below', value: '' } });
  });
});

describe('who hears', () => {
  it('is told by case, each chosen by name and none by going along the names', async () => {
    const { now, open, user } = edit();
    const before = now().to;
    const cases = await open('Add who hears by case');
    await user.click(cases.getByRole('button', { name: /another case/ }));
    await user.click(cases.getAllByRole('button', { name: /who hears/ })[0] as HTMLElement);
    await user.keyboard('{ArrowDown}{ArrowUp}');
    expect(now().to).toEqual(before);
    await user.keyboard('Wren{Enter}');
    expect(now().to.at(-1)).toMatchObject({ cases: [{ if: { field: 'status' }, to: [{ person: 'wren' }] }] });
    expect(document.activeElement?.textContent).toBe('+ and also');
  });

  it('is found by name, added by Enter, and taken out', async () => {
    const { now, open, user, press } = edit();
    const finder = await open('Add who hears');
    await user.type(finder.getByRole('combobox'), 'mei{Enter}');
    expect(now().to).toEqual([{ field: 'registrar' }, { person: 'mei' }]);
    await user.keyboard('{Escape}');
    await user.click(screen.getAllByRole('button', { name: part('Who hears') })[0] as HTMLElement);
    await press('Take it out');
    expect(now().to).toEqual([{ person: 'mei' }]);
  });

  it('offers members nobody but themselves', () => {
    const viewer = { coordinates: [] };
    const rule = ruleOf({ to: [] });
    draw(
      <Sentences
        rule={rule}
        source={LOANS}
        faults={[]}
        edited={[]}
        isFixed={false}
        onChange={() => undefined}
        tried={undefined}
        onPerson={() => undefined}
      />,
      { directory: viewer, me: { id: 'mei', role: 'member' } },
    );
    screen.getByRole('button', { name: part('Add who hears') }).click();
    return screen.findAllByRole('option').then((options) => {
      expect(options.map((option) => option.textContent)).toEqual(['Mei TanakaInsurance']);
    });
  });

  it('of nobody is said to be wrong where it stands', () => {
    expect(edit({ to: [] }).wrong()[0]).toContain('Nobody would hear');
    cleanup();
    expect(edit({ to: [{ field: 'status' }] }).wrong()[0]).toContain('“status”');
  });
});

describe('whose changes count', () => {
  it('is somebody only, or anybody but a system', async () => {
    const { now, open, user } = edit();
    await user.type((await open('Only by somebody')).getByRole('combobox'), 'Insurers{Enter}');
    await user.keyboard('{Escape}');
    await user.type((await open('But not by somebody')).getByRole('combobox'), 'import{Enter}');
    expect(now().by).toEqual({ only: [{ group: 'insurers' }], except: [{ system: 'import' }] });
  });
});

describe('how soon', () => {
  it('is once settled, or with a digest of a weekday, which it never is without', async () => {
    const { now, open, choose, user } = edit();
    const pace = await open('How soon');
    await choose(pace.getByLabelText('How soon'), 'once it has settled');
    expect(now().pace).toEqual({ kind: 'settled', quiet: 'PT10M', most: 'PT2H' });
    await choose(pace.getByLabelText('How soon'), 'in a weekly digest');
    await user.click(pace.getByLabelText('Thursday'));
    await user.click(pace.getByLabelText('Monday'));
    expect(now().pace).toEqual({ kind: 'digest', every: 'week', at: '08:30', on: ['TH'] });
    await user.click(pace.getByLabelText('Thursday'));
    expect(now().pace).toMatchObject({ on: ['MO'] });
  });

  it('goes by channels of its own, or by each plan where none is left', async () => {
    const { now, open, user } = edit();
    const ways = await open('By what');
    await user.click(ways.getByLabelText(/by these, whatever/));
    await user.click(ways.getByLabelText(/in Ojo/));
    expect(now().channels).toEqual(['email']);
    await user.click(ways.getByLabelText(/by email/));
    expect(now().channels).toBeNull();
  });

  it('is at most so often of one item, or of the rule', async () => {
    const { now, open, press, user } = edit();
    await press(/at most so often/);
    const limit = await open('How often at most');
    await user.click(limit.getByLabelText('of this rule'));
    expect(now().limit).toEqual({ per: 'rule', within: 'PT1H' });
  });
});

describe('an answer', () => {
  it('is asked of one or of all, reminded of, and passed on to others where nobody gives it', async () => {
    const { now, open, press, user } = edit();
    await press(/who has it/);
    const who = await open('Who acknowledges');
    await user.click(who.getByLabelText('each of those told has to'));
    expect(now().ack?.by).toBe('everyone');
    await user.keyboard('{Escape}');
    await press('+ and if nobody does');
    expect(now().ack?.remind).not.toBeNull();
    expect(now().ack?.escalate).toHaveLength(1);
  });
});

describe('only while', () => {
  it('takes days as they are typed, and keeps what is none until it is mended', async () => {
    const { now, open, user } = edit({ during: { from: '2026-03-04', until: null, near: null } });
    const days = await open('Between which days');
    const until = days.getByLabelText('until, that day included');
    await user.type(until, '31/3/2026');
    await user.tab();
    expect(now().during.until).toBe('2026-03-31');
    await user.clear(until);
    await user.type(until, '31/2/2026');
    await user.tab();
    expect((until as HTMLInputElement).value).toBe('31/2/2026');
    expect(days.getByText(/This is no day/)).toBeDefined();
  });
});

describe('what it says', () => {
  it('is in words of its own, where placeholders are tokens and nothing is lost by looking', async () => {
    const { now, open, user } = edit();
    await user.click((await open('Which wording')).getByLabelText(/words of this rule/i));
    const before = now().message;
    expect(before.body).toContain('{{ change.actor }}');
    await user.keyboard('{Escape}');
    const own = await open('The rule’s own words');
    const body = await own.findByRole('textbox', { name: 'Body' });
    await waitFor(() => expect(body.textContent).toContain('who did it'));
    expect(body.textContent).not.toMatch(/[{}]/);
    expect(own.getByRole('textbox', { name: 'Subject' }).textContent).toBe('the item');
    // Escape leaves the menu, and not the editor that it stands in.
    const putIn = own.getByRole('button', { name: /put into: subject/i });
    await user.click(putIn);
    expect(putIn.getAttribute('aria-expanded')).toBe('true');
    await user.keyboard('{Escape}');
    await waitFor(() => expect(putIn.getAttribute('aria-expanded')).toBe('false'));
    expect(screen.getByRole('dialog')).toBeTruthy();
    await user.click(putIn);
    await user.click(await own.findByRole('button', { name: 'when' }));
    await waitFor(() => expect(now().message.subject).toMatch(/\{\{ change\.at \}\}/));
    expect(now().message.body).toBe(before.body);
  });
});

describe('a rule that one may only look at', () => {
  it('has the same sentences, and nothing to press', () => {
    edit({ ack: { by: 'anyone' } }, { isFixed: true });
    expect(screen.queryAllByRole('button')).toEqual([]);
    expect(document.body.textContent).toContain('Status becomes On view');
  });
});
