import { ruleSchema } from '../../contract/documents/index.ts';

const loans = (id: string, more: Record<string, unknown>) =>
  ruleSchema.parse({
    id,
    name: id,
    owner: 'ines',
    scope: { sources: ['loans'] },
    to: [{ field: 'registrar' }, { person: 'mei' }],
    channels: ['inApp', 'email'],
    ...more,
  });

/** The rule that is put live again and again, for one person and another. */
export const changing = (person: string) =>
  loans('changing', { when: { if: { changed: 'title' } }, to: [{ person }], channels: ['inApp'] });

/** The rules of a drill: one whose machine never answers, one that is paused, one that settles, one that is acknowledged, one that changes. */
export const RULES = [
  loans('hooked', { when: { if: { changed: 'status' } }, to: [{ webhook: 'dead' }] }),
  loans('paused', { when: { if: { changed: 'title' } } }),
  loans('settled', { when: { if: { changed: 'title' } }, pace: { kind: 'settled', quiet: 'PT2S', most: 'PT8S' } }),
  loans('acked', {
    urgency: 'critical',
    when: { if: { became: { field: 'status', op: 'is', value: 'On view' } } },
    to: [{ person: 'wren' }],
    ack: { remind: { after: 'PT5S', times: 2 }, escalate: [{ after: 'PT8S', to: [{ person: 'sol' }] }] },
  }),
  changing('mei'),
];
