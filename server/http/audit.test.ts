import { describe, expect, it } from 'vitest';
import { query, run } from '../store/index.ts';
import { askMuseum } from '../testing/asking.ts';

const { museum, ask, forget } = askMuseum();
const entries = async (asked = '') => (await ask(`/audit${asked}`, { as: 'marisol' })).body.entries;

describe('the audit trail', () => {
  it('tells who signed in and out, changed rights, put a rule live, and took data out, when and from where', async () => {
    await ask('/session', { method: 'POST', body: { name: 'my-own-password', password: 'wrong' } });
    await ask('/session', { method: 'POST', body: { name: 'mei', password: 'wrong' } });
    await ask('/sources', { as: 'mei' });
    await ask('/session', { as: 'mei', method: 'DELETE' });
    forget('mei');
    await ask('/sources/loans/access', {
      as: 'marisol',
      method: 'PUT',
      body: { folder: null, rights: { readers: null, adders: null, editors: [{ person: 'ines' }] } },
    });
    const shown = (await entries()).map((entry: Record<string, unknown>) => [entry.kind, entry.actor, entry.origin]);
    expect(shown).toEqual([
      ['accessChanged', 'marisol', expect.stringContaining('127.0.0.1')],
      ['signedIn', 'marisol', expect.stringContaining('127.0.0.1')],
      ['signedOut', 'mei', expect.stringContaining('127.0.0.1')],
      ['signedIn', 'mei', expect.stringContaining('127.0.0.1')],
      ['signInRefused', 'mei', expect.stringContaining('127.0.0.1')],
      ['signInRefused', '', expect.stringContaining('127.0.0.1')],
    ]);
    expect((await entries('?kind=accessChanged'))[0].about).toMatchObject({ source: 'Loan agreements' });
  });

  it('is read by stewards, page by page, and by nobody else', async () => {
    expect((await ask('/audit', { as: 'ines' })).body.because.code).toBe('auditIsForStewards');
    const [newest] = await entries();
    expect((await entries(`?before=${newest.seq}`))[0].seq).toBeLessThan(newest.seq);
  });

  it.each([
    "UPDATE audit_ojo.entries SET actor = 'nobody'",
    'DELETE FROM audit_ojo.entries',
    'TRUNCATE TABLE audit_ojo.entries',
    'DROP TABLE audit_ojo.entries',
    'ALTER TABLE audit_ojo.entries DROP COLUMN actor',
    'DROP DATABASE audit_ojo',
  ])('is changed by nobody: %s', async (sql) => {
    await expect(run(museum.pool, query(sql))).rejects.toThrow(/denied/);
  });
});
