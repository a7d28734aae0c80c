import type { Me } from '../../contract/wire/index.ts';
import { channelWords } from '../../contract/words/refusals.ts';
import type { Channel } from '../../core/people/index.ts';
import { CHANGE_KINDS, type ChangeKind, type Source } from '../../core/values/index.ts';
import { locale, phrases } from '../words/index.ts';
import { t } from '../words/parts.ts';

/** By what a message goes, as the reader says it: *by email*. */
export const byWhat = (channel: Channel): string => channelWords(channel, locale());

export const channelsWords = (channels: Channel[] | null): string =>
  channels === null ? t('asEachOnesDeliveryPlan') : phrases().and(channels.map(byWhat));

/** What somebody may do here, after their title. */
export const roleName = (role: Me['role']): string => t(`role.${role}`);

/** What a source is, in a word or two. */
export const sourceKind = (kind: Source['kind']): string => t(`source.${kind}`);

/** What was done to an item, after *is*: *edited*, *given a new version*. */
export function kindName(kind: ChangeKind): string {
  const known = CHANGE_KINDS.find((one) => one === kind);
  return known ? t(`done.${known}`) : kind;
}

/** What was done, any of these: *added or edited*. */
export const kindNames = (kinds: readonly ChangeKind[]): string => phrases().or(kinds.map(kindName));
