import { deputyNotice } from '../../core/messages/index.ts';
import type { Absence, Mute, Plan } from '../../core/people/index.ts';
import { dateIn, type Instant } from '../../core/time/index.ts';
import { type Directory, inTransaction, newId, type Profile, runAll, type Statement, store } from '../store/index.ts';
import type { ActContext } from './context.ts';
import { noticeOf } from './listeners.ts';

/**
 * Keeps somebody's plan and what they muted; both hold from then on. Whoever hears in their place from now on is told
 * so, and whoever no longer does.
 */
export async function savePreferences(
  { pool, clock, wakeSender }: Pick<ActContext, 'pool' | 'clock' | 'wakeSender'>,
  person: Profile,
  { plan, mutes }: { plan: Plan | null; mutes: readonly Mute[] },
  directory: Directory,
): Promise<void> {
  const notices = deputiesTold(person, plan?.absent, clock.now(), directory);
  await inTransaction(pool, (on) =>
    runAll(on, [
      store.people.savePlan(person.id, plan),
      ...store.people.replaceMutes(person.id, mutes),
      store.world.raise(),
      ...notices,
    ]),
  );
  if (notices.length > 0) wakeSender();
}

/** What those are told who hear in somebody's place, and did before, where that has changed; of days that are over, nothing. */
function deputiesTold(
  { id, name, zone, chosen }: Profile,
  next: Absence | undefined,
  at: Instant,
  { people }: Directory,
): Statement[] {
  const before = chosen?.absent;
  const isAhead = (absent: Absence | undefined): absent is Absence =>
    absent !== undefined && absent.until >= dateIn(at, zone);
  if (JSON.stringify(before) === JSON.stringify(next)) return [];
  const tell = (deputy: string | null, what: 'named' | 'over', { from, until }: Absence): Statement[] => {
    const reader = people.get(deputy ?? '');
    if (!reader?.active || reader.id === id) return [];
    const content = deputyNotice(what, { by: name, from, until, at }, reader);
    return noticeOf(reader, content, `deputy|${id}|${reader.id}|${newId(at)}`, at);
  };
  return [
    ...(isAhead(before) && !(isAhead(next) && next.deputy === before.deputy)
      ? tell(before.deputy, 'over', before)
      : []),
    ...(isAhead(next) ? tell(next.deputy, 'named', next) : []),
  ];
}

/** Speaks to somebody in another language from then on: in pages, messages and dates. */
export async function saveLocale({ pool }: Pick<ActContext, 'pool'>, person: string, locale: string): Promise<void> {
  await inTransaction(pool, (on) => runAll(on, [store.people.saveLocale(person, locale), store.world.raise()]));
}
