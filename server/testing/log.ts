import { fromJson, raw, rawChanges } from './raw.ts';
import type { Pool } from 'mysql2/promise';
import type { AccessEntry } from '../../core/people/index.ts';
import type { Rule } from '../../core/rules/index.ts';
import { type Instant, printInstant } from '../../core/time/index.ts';
import { DirectoryCache, type QueuedAct, rows } from '../store/index.ts';

/** Of one instant rules' acts come first, then changes as they came, then what people did. */
interface Line {
  at: Instant;
  rank: number;
  input: object;
}

/** Who may read what, as documents have it: they know nothing of adding and editing. */
export const readersIn = (access: readonly AccessEntry[]) =>
  access.flatMap(({ adders: _adders, editors: _editors, readers, ...place }) =>
    readers ? [{ ...place, readers }] : [],
  );

/**
 * All that was decided, as the document of a run that `npx ojo replay` takes: who and what there is, and as inputs the
 * log, which is changes, what people did, and rules going live, pausing and going on.
 */
export async function logOf(pool: Pool, start: Instant, end: Instant): Promise<object> {
  const { people, groups, contacts, sources, folders, access } = await new DirectoryCache().current(pool);
  const changes = await rows(pool, rawChanges('SELECT * FROM changes ORDER BY seq'));
  const acts = (await rows(pool, raw<{ act: unknown }>('SELECT act FROM decided_acts ORDER BY id'))).map(({ act }) =>
    fromJson<QueuedAct>(act),
  );
  const lines: Line[] = [
    ...changes.map(({ seq: _, itemVersion: _version, previous: _previous, at, ...change }) => ({
      at,
      rank: 1,
      input: { ...change, at: printInstant(at) },
    })),
    ...acts.flatMap((act): Line[] => {
      if (act.input === 'goLive') return [];
      const { input, at, ...rest } = act;
      const { seq: _seq, ...words } = rest as Record<string, unknown>;
      if (typeof words.when === 'number') words.when = printInstant(words.when);
      return [{ at, rank: input === 'resume' ? 0 : 2, input: { do: input, at: printInstant(at), ...words } }];
    }),
    ...(await phaseLines(pool)),
  ];
  const firsts = await firstVersions(pool);
  return {
    start: printInstant(start),
    end: printInstant(end),
    groups: [...groups.values()],
    contacts: [...contacts.values()],
    sources: [...sources.values()].map(({ id, kind, name, titleField, fields }) => ({
      id,
      kind,
      name,
      titleField,
      fields,
    })),
    folders: [...folders.values()].map(({ notesLooks: _, ...folder }) => folder),
    access: readersIn(access),
    people: [...people.values()].map(({ id, name, email, phone, zone, locale, manager, active, plan }) => ({
      id,
      name,
      email,
      phone,
      zone,
      locale,
      manager,
      active,
      plan,
    })),
    rules: firsts.map(({ rule, from }) => ({ ...rule, from: printInstant(from) })),
    inputs: lines.sort((a, b) => a.at - b.at || a.rank - b.rank).map(({ input }) => input),
  };
}

async function firstVersions(pool: Pool): Promise<{ rule: Rule; from: Instant }[]> {
  const found = await rows(
    pool,
    raw<{ document: unknown; live_from: number }>('SELECT document, live_from FROM rule_versions WHERE version = 1'),
  );
  return found.map(({ document, live_from: from }) => ({ rule: fromJson<Rule>(document), from }));
}

/** Phases after the first: a new version is published, or the same one pauses. Going on is an act of its own. */
async function phaseLines(pool: Pool): Promise<Line[]> {
  const found = await rows(
    pool,
    raw<{ rule_id: string; version: number; since: number; is_paused: number; document: unknown }>(
      'SELECT p.rule_id, p.version, p.since, p.is_paused, v.document FROM rule_phases p JOIN rule_versions v ON v.rule_id = p.rule_id AND v.version = p.version ORDER BY p.rule_id, p.epoch',
    ),
  );
  return found.flatMap((phase, index): Line[] => {
    const before = found[index - 1];
    if (before?.rule_id !== phase.rule_id) return [];
    const at = printInstant(phase.since);
    if (before.version !== phase.version)
      return [{ at: phase.since, rank: 0, input: { do: 'publish', at, rule: fromJson<Rule>(phase.document) } }];
    return phase.is_paused === 1 ? [{ at: phase.since, rank: 0, input: { do: 'pause', at, rule: phase.rule_id } }] : [];
  });
}
