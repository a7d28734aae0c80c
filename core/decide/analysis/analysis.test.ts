import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { at, change, goesBack, goesOnView, item, ON_VIEW, person, rule, settingOf } from '../../testing/museum.ts';
import type { Condition, Rule } from '../../rules/index.ts';
import type { Change } from '../../values/index.ts';
import { funnel, FUNNEL_STEPS, simulate, suggestionsFor, trial, turnedToBecome } from '../index.ts';

const kept = (made: ReturnType<typeof funnel>) => Object.fromEntries(made.steps.map(({ step, left }) => [step, left]));

describe('the funnel', () => {
  it('says at each step how much is left, and names what that step let go', () => {
    const inputs = [
      goesOnView('a', '08:00'),
      goesBack('a', '08:10'),
      goesOnView('a', '08:20', { actor: 'system:import' }),
      goesOnView('b', '09:00', { kind: 'commented' }),
      change('x', '09:30', null, { status: 'On view' }, { source: 'objects' }),
    ];
    const made = funnel(
      rule({
        when: { kinds: ['changed'], if: ON_VIEW, burst: null },
        by: { only: [], except: [{ system: 'import' }] },
      }),
      settingOf(),
      inputs,
    );
    expect(kept(made)).toMatchObject({ changes: 5, scope: 4, kinds: 3, actor: 2, condition: 1, batch: 1, limit: 1 });
    const dropped = Object.fromEntries(made.steps.map(({ step, dropped: ids }) => [step, ids]));
    expect(dropped).toMatchObject({
      scope: [inputs[4]?.id],
      kinds: [inputs[3]?.id],
      actor: [inputs[2]?.id],
      condition: [inputs[1]?.id],
    });
    expect(made.caught).toEqual([inputs[0]?.id]);
    expect(made.alerts).toEqual(['2026-03-04T08:00:00Z']);
    expect(made.messages).toEqual([{ to: 'ines', channel: 'inApp', form: 'single', count: 1 }]);
  });

  it('counts a batch as one, what is put back before it settles as none, and what the limit keeps back', () => {
    const batch = ['a', 'b'].map((id) => goesOnView(id, '08:00', { batch: 'import-1' }));
    expect(kept(funnel(rule(), settingOf(), batch))).toMatchObject({ burst: 2, batch: 1, limit: 1 });
    const settled = rule({ pace: { kind: 'settled', quiet: 'PT10M', most: 'PT30M' } });
    const back = [goesOnView('a', '08:00'), goesOnView('b', '08:00'), goesBack('a', '08:05')];
    expect(kept(funnel(settled, settingOf(), back))).toMatchObject({ batch: 2, settling: 1, limit: 1 });
    const often = [goesOnView('a', '08:00'), goesBack('a', '08:05'), goesOnView('a', '08:10')];
    expect(kept(funnel(rule({ limit: { per: 'item', within: 'PT1H' } }), settingOf(), often))).toMatchObject({
      settling: 2,
      limit: 1,
    });
  });

  it('leaves what one rule says to what the engine would have sent, however a day goes, and never grows', () => {
    const day = fc.array(
      fc.record({
        id: fc.constantFrom('a', 'b'),
        minute: fc.integer({ min: 0, max: 23 * 60 }),
        isBack: fc.boolean(),
        actor: fc.constantFrom('mei', 'ines', 'system:import'),
        isBatch: fc.boolean(),
      }),
      { maxLength: 25 },
    );
    fc.assert(
      fc.property(day, fc.constantFrom<Partial<Rule>>({}, { limit: { per: 'rule', within: 'PT2H' } }), (made, more) => {
        const inputs = made
          .sort((one, other) => one.minute - other.minute)
          .map(({ id, minute, isBack, actor, isBatch }): Change => {
            const time = `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;
            // All changes of a batch bear one instant.
            return (isBack ? goesBack : goesOnView)(id, time, { actor, batch: isBatch ? time : null });
          });
        const asked = rule(more);
        const counted = funnel(asked, settingOf(), inputs);
        const sent = simulate({ ...settingOf(), rules: [{ rule: asked, from: at('00:00') }], inputs });
        const left = counted.steps.map((step) => step.left);
        expect(left).toEqual([...left].sort((one, other) => other - one));
        expect(counted.alerts).toHaveLength(sent.alerts.length);
        expect(counted.messages.reduce((sum, one) => sum + one.count, 0)).toBe(sent.messages.length);
        expect(counted.withheld).toBe(sent.withheld.length);
      }),
      { seed: 4, numRuns: 60 },
    );
    expect(funnel(rule(), settingOf(), []).steps.map(({ step }) => step)).toEqual([...FUNNEL_STEPS]);
  });
});

describe('a suggestion', () => {
  const codes = (asked: Rule, caught: Change[] = []) => suggestionsFor(asked, caught).map(({ code }) => code);
  const isOnView: Condition = { field: 'status', op: 'is', value: 'On view' };
  const holding = rule({ when: { kinds: [], if: isOnView, burst: null } });

  it('turns what holds at every save into the moment at which it becomes so, and leaves moments alone', () => {
    expect(turnedToBecome(holding)?.when?.if).toEqual({ became: isOnView });
    expect(turnedToBecome(rule())).toBeNull();
    const both: Condition = { all: [isOnView, { field: 'registrar', op: 'filled' }] };
    expect(turnedToBecome({ ...holding, when: { kinds: [], if: both, burst: null } })?.when?.if).toEqual({
      became: both,
    });
    // Beside something that happens, a state only narrows it.
    const beside: Condition = { all: [isOnView, { changed: 'title' }] };
    expect(turnedToBecome({ ...holding, when: { kinds: [], if: beside, burst: null } })).toBeNull();
  });

  it('leaves out a system that does much of it, not one that does little, and not all of it', () => {
    const by = (...actors: string[]) => actors.map((actor, at) => goesOnView(`i${at}`, '08:00', { actor }));
    expect(codes(rule(), by('system:import', 'mei', 'mei'))).toContain('exceptSystem');
    expect(codes(rule(), by('system:import', ...Array<string>(9).fill('mei')))).not.toContain('exceptSystem');
    expect(codes(rule(), by('system:import', 'system:import'))).not.toContain('exceptSystem');
    const [made] = suggestionsFor(rule(), by('system:import', 'mei')).filter(({ code }) => code === 'exceptSystem');
    expect(made?.rule.by.except).toEqual([{ system: 'import' }]);
    expect(made?.params).toEqual({ system: 'import' });
  });

  it('lets it settle, gather or come once a day for an item, only where the rule may', () => {
    const often = [goesOnView('a', '08:00'), goesOnView('a', '08:10'), goesOnView('a', '08:20')];
    expect(codes(rule(), often)).toEqual(['settled', 'digest', 'perItem']);
    const burst = rule({ when: { kinds: [], if: ON_VIEW, burst: { count: 3, within: 'PT1H', per: 'rule' } } });
    expect(codes(burst)).toEqual(['digest']);
    const asked = rule({ ack: { by: 'anyone', remind: null, escalate: [], closeWhenCeased: false, allClear: false } });
    expect(codes(asked)).toEqual(['settled']);
    expect(codes(rule({ pace: { kind: 'digest', every: 'day', at: '08:30' } }), often)).toEqual([]);
    expect(codes(rule({ limit: { per: 'rule', within: 'PT1H' } }), often)).not.toContain('perItem');
  });

  it('makes a rule that tells no more than before, of what it caught', () => {
    const states = fc.array(fc.constantFrom('Agreed', 'On view'), { minLength: 2, maxLength: 12 });
    fc.assert(
      fc.property(states, (walk) => {
        const inputs = walk
          .slice(1)
          .map((status, step) =>
            change(
              'a',
              `${String(step + 8).padStart(2, '0')}:00`,
              { status: walk[step] ?? 'Agreed' },
              { status, title: `t${step}` },
            ),
          );
        const before = funnel(holding, settingOf(), inputs).alerts.length;
        for (const { rule: mended } of suggestionsFor(holding, inputs))
          expect(funnel(mended, settingOf(), inputs).alerts.length).toBeLessThanOrEqual(before);
      }),
      { seed: 4, numRuns: 40 },
    );
  });
});

describe('a trial', () => {
  const setting = settingOf({ items: [item('a', { status: 'On view', due: '2026-03-18' })] });

  it('of a change that is caught says why, and all that would go out, nobody reading', () => {
    const asked = rule({
      ack: {
        by: 'anyone',
        remind: { after: 'PT30M', times: 2 },
        escalate: [],
        closeWhenCeased: false,
        allClear: false,
      },
    });
    const made = trial(asked, setting, goesOnView('a', '08:00'));
    expect(made.explanation?.caught).toBe(true);
    expect(made.isAsIf).toBe(false);
    expect(made.messages.filter(({ channel }) => channel === 'inApp').map(({ form }) => form)).toEqual([
      'single',
      'reminder',
      'reminder',
    ]);
  });

  it('of one that is not caught, or only together with others, shows what would go out as if it were', () => {
    const missed = trial(rule(), setting, goesBack('a', '08:00'));
    expect(missed.explanation?.caught).toBe(false);
    expect(missed).toMatchObject({ isAsIf: true, messages: [{ to: 'ines' }] });
    const burst = rule({ when: { kinds: [], if: ON_VIEW, burst: { count: 3, within: 'PT1H', per: 'rule' } } });
    expect(trial(burst, setting, goesOnView('a', '08:00')).isAsIf).toBe(true);
  });

  it('tells who would be withheld, and takes that for an answer', () => {
    const made = trial(rule({ to: [{ person: 'ines' }] }), setting, goesOnView('a', '08:00', { actor: 'ines' }));
    expect(made).toMatchObject({ isAsIf: false, messages: [], withheld: [{ person: 'ines', reason: 'ownChange' }] });
  });

  it('of a date stands on the items as they are', () => {
    const due = rule({
      when: null,
      due: { field: 'due', offset: '-P14D', at: '09:00', if: { all: [] }, repeat: null, late: 'now' },
    });
    const made = trial(due, setting, null);
    expect(made.explanation).toBeNull();
    expect(made.messages.map((message) => message.at)).toEqual([at('09:00')]);
    expect(trial(due, { ...setting, people: [person('ines', { active: false })] }, null)).toMatchObject({
      messages: [],
      withheld: [{ reason: 'inactive' }],
    });
  });
});
