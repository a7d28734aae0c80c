// @vitest-environment jsdom
import { screen } from '@testing-library/react';
import { Route, Routes } from 'react-router';
import { describe, expect, it } from 'vitest';
import { ruleSchema } from '../../../contract/documents/index.ts';
import { type Verdict, VERDICTS, type WhyPage as Page } from '../../../contract/wire/index.ts';
import { WITHHELD_REASONS } from '../../../core/decide/index.ts';
import { draw } from '../../testing/drawing.tsx';
import { serve } from '../../testing/serving.ts';
import { WhyPage } from './why.tsx';

const SAMPLE: Page['sample'] = {
  source: 'loans',
  item: 'l1',
  title: 'Tidal Loom',
  row: {
    id: 'c1',
    at: '2026-03-04T09:00:00.000Z',
    kind: 'changed',
    actor: 'wren',
    version: 2,
    fields: [{ field: 'status', before: 'Agreed', after: 'On view' }],
    folder: null,
    folderBefore: null,
    text: null,
    caughtBy: [],
  },
};
const DOCUMENT = ruleSchema.parse({
  id: 'r',
  name: 'r',
  owner: 'ines',
  scope: { sources: ['loans'] },
  when: { if: { changed: 'status' } },
  to: [{ person: 'mei' }],
});
const verdictOf = (verdict: Verdict['verdict'], more: Partial<Verdict> = {}): Verdict => ({
  rule: { id: verdict, name: `Rule that ${verdict}` },
  verdict,
  reason: null,
  messages: [],
  document: DOCUMENT,
  until: verdict === 'gathers' ? '2026-03-04T16:00:00.000Z' : null,
  explanation: null,
  ...more,
});

async function open(page: Partial<Page>, at = '/why/loans/c1?person=mei') {
  const asked = serve({
    'changes.why': ({ query }) => ({
      sample: SAMPLE,
      person: query.person ?? 'ines',
      verdicts: [],
      others: 0,
      ...page,
    }),
  });
  draw(
    <Routes>
      <Route path="/why/:source/:change" element={<WhyPage />} />
    </Routes>,
    { at },
  );
  await screen.findByText('Tidal Loom');
  return asked;
}
const said = () => [...document.querySelectorAll('.why-rule p')].map((line) => line.textContent ?? '');

describe('why somebody heard, or did not', () => {
  it('is a whole sentence of each rule, whatever it came to', async () => {
    await open({
      verdicts: VERDICTS.map((verdict) => verdictOf(verdict, verdict === 'withheld' ? { reason: 'muted' } : {})),
    });
    expect(said()).toHaveLength(VERDICTS.length);
    for (const [at, sentence] of said().entries()) {
      expect(sentence).toMatch(/^Rule that \w+ .*\.$/);
      expect(sentence).toContain(`Rule that ${VERDICTS[at]}`);
      expect(sentence).not.toMatch(/[{}]|undefined/);
    }
  });

  it('says each reason to leave somebody out as a sentence', async () => {
    const verdicts = WITHHELD_REASONS.map((reason) =>
      verdictOf('withheld', { rule: { id: reason, name: reason }, reason }),
    );
    await open({ verdicts });
    expect(new Set(said().map((line) => line.split(': ')[1])).size).toBe(WITHHELD_REASONS.length);
    for (const line of said()) expect(line).toMatch(/Mei .* left out of it: .+\.$/);
  });

  it('shows by what a message went and what became of it, with the way to it', async () => {
    const messages: Verdict['messages'] = [
      { id: 'm1', channel: 'email', at: '2026-03-04T09:00:01.000Z', fate: 'failed', reply: '550', readAt: null },
    ];
    await open({ verdicts: [verdictOf('told', { messages })] });
    expect(screen.getByText('it failed').className).toContain('fault');
    expect(screen.getByRole('link', { name: 'See the message' }).getAttribute('href')).toBe('/outbox/m1');
  });

  it('says where nothing looked, and counts those that tell others', async () => {
    await open({ others: 2 });
    expect(screen.getByText(/No rule that you may see looked at this/)).toBeDefined();
    expect(screen.getByText(/2 more rules look at/)).toBeDefined();
    expect(screen.getByRole('link', { name: 'Make one from this change' }).getAttribute('href')).toContain('like=c1');
  });
});
