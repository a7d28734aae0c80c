import { conditionWords, durationWords, occasionWords, plainWords } from '../../../core/messages/index.ts';
import { isOpen, type Rule } from '../../../core/rules/index.ts';
import { formatDay } from '../../../core/values/index.ts';
import { kindNames, phrasingOf, type Viewer } from '../../parts/index.ts';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/eye.ts';

/** The parts of an eye's sentence, each as the rule has it: what is said is read from what will be done. */
export interface EyeWords {
  what: string;
  /** The empty string where nobody does it. */
  by: string;
  until: string;
  soon: string;
  way: string;
}

function whatOf(rule: Rule, viewer: Viewer): string {
  const [first = '', ...linked] = rule.scope.sources;
  const source = viewer.source(first);
  if (!source) return '';
  if (rule.due) return t('what.occasion', { occasion: occasionWords(rule, source, phrases()) ?? '' });
  const { kinds = [], if: condition = { all: [] } } = rule.when ?? {};
  if (!isOpen(condition))
    return t('what.condition', { condition: plainWords(conditionWords(condition, phrasingOf(source, viewer))) });
  if (rule.scope.linked)
    return t('what.linked', { sources: phrases().or(linked.map((id) => viewer.source(id)?.name ?? id)) });
  if (kinds.length === 0) return t('what.anything');
  return t(rule.scope.items.length > 0 ? 'what.itIs' : 'what.somethingIs', { kinds: kindNames(kinds) });
}

function byOf(rule: Rule, isOwn: boolean): string {
  if (rule.due) return '';
  if (rule.ownChanges) return isOwn ? t('by.anybody') : t('by.anybodyForOther');
  return rule.by.except.length > 0 ? t('by.people') : t('by.others');
}

function soonOf({ pace, due }: Rule): string {
  if (pace.kind === 'settled') return t('soon.settled', { duration: durationWords(pace.quiet, phrases()) });
  if (pace.kind === 'digest') return t('soon.digest', { at: pace.at });
  return due?.at ? t('soon.atTime', { at: due.at }) : t('soon.now');
}

function wayOf({ channels }: Rule, isOwn: boolean): string {
  if (channels === null) return isOwn ? t('way.plan') : t('way.planOfOther');
  return channels.includes('email') ? t('way.email') : t('way.ojo');
}

function untilOf({ during: { until } }: Rule, isOwn: boolean, locale: string): string {
  if (until) return t('until.day', { day: formatDay(until, locale) });
  return isOwn ? t('until.stopped') : t('until.stoppedByThem');
}

/** What an eye's rule does, as the parts of its sentence. */
export function eyeWords(rule: Rule, viewer: Viewer): EyeWords {
  const isOwn = rule.owner === viewer.me.id;
  return {
    what: whatOf(rule, viewer),
    by: byOf(rule, isOwn),
    until: untilOf(rule, isOwn, viewer.me.locale),
    soon: soonOf(rule),
    way: wayOf(rule, isOwn),
  };
}
