import type { RuleRow } from '../../../../contract/wire/index.ts';
import { faultWords } from '../../../../contract/words.ts';
import { instantOf } from '../../../../core/time/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import type { Viewer } from '../../../parts/index.ts';

export type TroubleKind = 'broken' | 'ownerless' | 'failing' | 'noisy' | 'silent' | 'paused';

/** What is the matter with a rule, and what is best done about it. */
export interface Trouble {
  kind: TroubleKind;
  head: string;
  words: string;
  act: 'suggestion' | 'open' | 'resume' | 'handOver';
}

const DAY = 86_400_000;
/** From so many messages in 30 days on, of which fewer than this share was read, a rule is noisy. */
const MANY = 60;
const FEW_READ = 0.35;
/** A rule that caught nothing for so long is silent. */
const SILENT_DAYS = 30;

export const documentOf = (row: RuleRow): Rule => (row.live ?? row.draft) as Rule;

/** The one trouble of a rule that most wants somebody, the worst first; `null` where it is as it should be. */
export function troubleOf(row: RuleRow, { person, me }: Pick<Viewer, 'person' | 'me'>): Trouble | null {
  if (row.state !== 'live') return null;
  const [fault] = row.faults;
  if (fault?.code === 'ownerless')
    return {
      kind: 'ownerless',
      head: 'Nobody looks after it.',
      words: `${person(row.owner)} is no longer here.`,
      act: 'handOver',
    };
  if (fault)
    return {
      kind: 'broken',
      head: 'Broken.',
      words:
        fault.code === 'hasLeft'
          ? `${person(String(fault.params.person))} is no longer here.`
          : faultWords(fault.code, fault.params),
      act: 'open',
    };
  if (row.isPaused)
    return {
      kind: 'paused',
      head: 'Paused.',
      words: row.kept > 0 ? `${row.kept} kept, to be told or skipped.` : 'Nothing kept yet.',
      act: 'resume',
    };
  if (row.failed > 2)
    return { kind: 'failing', head: `${row.failed} messages failed.`, words: 'An address may have gone.', act: 'open' };
  if (row.told >= MANY && row.read / row.told < FEW_READ)
    return {
      kind: 'noisy',
      head: 'Noisy.',
      words: `${Math.round((row.read / row.told) * 100)} % of ${row.told.toLocaleString()} messages were read.`,
      act: 'suggestion',
    };
  const age = row.liveFrom ? (instantOf(me.now) - instantOf(row.liveFrom)) / DAY : 0;
  if (row.lastAt === null && age > 7)
    return { kind: 'silent', head: 'Silent since it went live.', words: 'It has caught nothing yet.', act: 'open' };
  if (row.lastAt !== null && (instantOf(me.now) - instantOf(row.lastAt)) / DAY > SILENT_DAYS)
    return {
      kind: 'silent',
      head: 'Silent.',
      words: `Nothing caught for ${Math.round((instantOf(me.now) - instantOf(row.lastAt)) / DAY)} days.`,
      act: 'open',
    };
  return null;
}
