import type { RuleRow } from '../../../../contract/wire/index.ts';
import { faultWords } from '../../../../contract/words/faults.ts';
import { DAY_MS, dateIn, instantOf } from '../../../../core/time/index.ts';
import { formatDay } from '../../../../core/values/index.ts';
import { hasRunOut, type Rule, twinsOf } from '../../../../core/rules/index.ts';
import type { Viewer } from '../../../parts/index.ts';
import { t } from '../../../words/rules.ts';
import { locale, phrases } from '../../../words/index.ts';

export type TroubleKind =
  | 'eyes'
  | 'broken'
  | 'ownerless'
  | 'failing'
  | 'runOut'
  | 'twin'
  | 'noisy'
  | 'silent'
  | 'paused';

/** What is the matter with a rule, and what is best done about it. */
export interface Trouble {
  kind: TroubleKind;
  head: string;
  words: string;
  act: 'suggestion' | 'open' | 'resume' | 'takeOver' | 'end' | 'leaveOut';
}

/** From so many messages in 30 days on, of which fewer than this share was read, a rule is noisy. */
const MANY = 60;
const FEW_READ = 0.35;
/** A rule that caught nothing for so long is silent. */
const SILENT_DAYS = 30;

export const documentOf = (row: RuleRow): Rule => (row.live ?? row.draft) as Rule;

/** Live rules that tell the same people the same as another, each with its twins, by id. */
export const twinsAmong = (rows: readonly RuleRow[]) =>
  twinsOf(rows.filter((row) => row.state === 'live' && !row.isPaused).map(documentOf));

/** The one trouble of a rule that most wants somebody, the worst first; `null` where it is as it should be. */
export function troubleOf(
  row: RuleRow,
  { person, me }: Pick<Viewer, 'person' | 'me'>,
  twins: readonly Rule[] = [],
): Trouble | null {
  if (row.ask && me.role === 'steward' && row.ask.by !== me.id)
    return { kind: 'eyes', head: t('waitsForEyes'), words: t('asksForEyes', { by: person(row.ask.by) }), act: 'open' };
  if (row.state !== 'live') return null;
  const rule = documentOf(row);
  const [fault] = row.faults;
  if (fault) return faultTrouble(row, fault, person);
  if (rule.during.until && hasRunOut(rule, dateIn(instantOf(me.now), rule.zone)))
    return {
      kind: 'runOut',
      head: t('endedOn', { day: formatDay(rule.during.until, me.locale) }),
      words: t('itsLastDayHasPassed'),
      act: 'end',
    };
  if (row.isPaused)
    return {
      kind: 'paused',
      head: t('paused'),
      words: row.kept > 0 ? t('keptToBeToldOr', { kept: row.kept }) : t('nothingKeptYet'),
      act: 'resume',
    };
  if (row.failed > 2)
    return {
      kind: 'failing',
      head: t('messagesFailed', { failed: row.failed }),
      words: t('anAddressMayHaveGone'),
      act: 'open',
    };
  if (twins.length > 0)
    return {
      kind: 'twin',
      head: t('twin'),
      words: t('tellsTheSameAs', { names: phrases().and(twins.map(({ name }) => `“${name}”`)) }),
      act: 'end',
    };
  if (row.told >= MANY && row.read / row.told < FEW_READ)
    return {
      kind: 'noisy',
      head: t('noisy'),
      words: t('ofMessagesWereRead', { share: Math.round((row.read / row.told) * 100), told: row.told }),
      act: 'suggestion',
    };
  const age = row.liveFrom ? (instantOf(me.now) - instantOf(row.liveFrom)) / DAY_MS : 0;
  if (row.lastAt === null && age > 7)
    return { kind: 'silent', head: t('silentSinceItWentLive'), words: t('itHasCaughtNothingYet'), act: 'open' };
  if (row.lastAt !== null && (instantOf(me.now) - instantOf(row.lastAt)) / DAY_MS > SILENT_DAYS)
    return {
      kind: 'silent',
      head: t('silent'),
      words: t('nothingCaughtForDays', { days: Math.round((instantOf(me.now) - instantOf(row.lastAt)) / DAY_MS) }),
      act: 'open',
    };
  return null;
}

/** What is the matter with a rule that cannot do what it says. */
function faultTrouble(row: RuleRow, fault: RuleRow['faults'][number], person: Viewer['person']): Trouble {
  if (fault.code === 'ownerless')
    return {
      kind: 'ownerless',
      head: t('nobodyLooksAfterIt'),
      words: t('isNoLongerHere', { person: person(row.owner) }),
      act: 'takeOver',
    };
  if (fault.code === 'hasLeft')
    return {
      kind: 'broken',
      head: t('broken'),
      words: t('isNoLongerHere', { person: person(String(fault.params.person)) }),
      act: 'leaveOut',
    };
  return { kind: 'broken', head: t('broken'), words: faultWords(fault, locale()), act: 'open' };
}
