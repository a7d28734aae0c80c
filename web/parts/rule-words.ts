import { conditionWords, occasionWords, plainWords, type Words } from '../../core/messages/index.ts';
import { asKind, membersOfGroup, type Reason, type Selector, visitSelector } from '../../core/people/index.ts';
import { type Condition, isOpen, type Rule } from '../../core/rules/index.ts';
import type { Source } from '../../core/values/index.ts';
import { phrases } from '../words/index.ts';
import { t } from '../words/parts.ts';
import { byWhat, kindNames } from './names.ts';
import type { Viewer } from './viewer.tsx';

const fieldName = (id: string, source: Source | undefined): string =>
  source?.fields.find((field) => field.id === id)?.name ?? id;

/** Whom a selector names: *the item’s Registrar*, *Insurers 4*. */
export function selectorWords(selector: Selector, viewer: Viewer, source: Source | undefined): Words {
  const strong = (words: string): Words => [{ strong: words }];
  return visitSelector<Words>(selector, {
    person: ({ person }) =>
      strong(person === viewer.me.id ? t('youYourself', { name: viewer.person(person) }) : viewer.person(person)),
    group: ({ group }) => {
      const groups = new Map(viewer.directory.groups.map((one) => [one.id, one]));
      return [{ strong: viewer.group(group)?.name ?? group }, ` ${membersOfGroup(group, { groups }).size}`];
    },
    field: ({ field }) => t.words('theItemsField', { field: fieldName(field, source) }),
    linked: ({ linked, field }) => {
      const other = viewer.source(source?.fields.find((one) => one.id === linked)?.to ?? '');
      return t.words('theFieldOfTheItemsLink', { field: fieldName(field, other), link: fieldName(linked, source) });
    },
    creator: () => strong(t('whoeverMadeIt')),
    lastEditor: () => strong(t('whoeverEditedItLast')),
    followers: () => strong(t('whoeverKeepsAnEyeOn')),
    mentioned: () => strong(t('whoeverIsMentioned')),
    managerOf: ({ managerOf }) => [`${t('theManagerOf')} `, ...selectorWords(managerOf, viewer, source)],
    contact: ({ contact }) => t.words('outside', { name: viewer.person(contact) }),
    webhook: ({ webhook }) => t.words('theWebhook', { name: webhook }),
    told: () => strong(t('thoseTold')),
    cases: ({ cases, else: others = [] }) => {
      const who = (selectors: readonly Selector[]) =>
        phrases().and(selectors.map((one) => plainWords(selectorWords(one, viewer, source)))) || t('nobody');
      const held = (test: Condition) => (source ? plainWords(conditionWords(test, phrasingOf(source, viewer))) : '');
      const parts = cases.map((one) => t('ofWhat', { condition: held(one.if as Condition), who: who(one.to) }));
      return strong([...parts, t('otherwise', { who: who(others) })].join('; '));
    },
    tell: ({ tell, channels }) => [...selectorWords(tell, viewer, source), ` ${phrases().and(channels.map(byWhat))}`],
    system: ({ system }) => strong(system),
    anybody: () => [t('anyone')],
  });
}

/** Why a rule reaches somebody, after their name: *is its Registrar*. */
export function reasonPhrase(reason: Reason, viewer: Viewer, source: Source): string {
  switch (reason.kind) {
    case 'person':
      return t('isNamed');
    case 'group':
      return t('isIn', { name: viewer.group(reason.group)?.name ?? reason.group });
    case 'field':
      return t('isIts', { named: fieldName(reason.field, source) });
    case 'linked': {
      const other = viewer.source(source.fields.find((field) => field.id === reason.linked)?.to ?? '');
      return t('isTheOfIts', { name: fieldName(reason.field, other), named: fieldName(reason.linked, source) });
    }
    case 'creator':
      return t('madeIt');
    case 'lastEditor':
      return t('editedItLast');
    case 'follower':
      return t('keepsAnEyeOnIt');
    case 'mentioned':
      return t('isMentioned');
    case 'managerOf':
      return t('isTheManagerOf', { person: viewer.person(reason.person) });
    case 'address':
      return t('hasTheAddress');
    case 'told':
      return t('wasTold');
    case 'askedAgain':
      return t('askedAgain');
    case 'inPlaceOf':
      return t('hearsInPlaceOf', { person: viewer.person(reason.person) });
    default:
      return reason satisfies never;
  }
}

/** Whom a rule tells, in a line; a field alone stands for whom it names. */
export const whoWords = (rule: Rule, viewer: Viewer): string => {
  const source = viewer.source(rule.scope.sources[0] ?? '');
  return phrases().and(
    rule.to.map((selector) => {
      const named = asKind(selector, 'field');
      return named ? fieldName(named.field, source) : plainWords(selectorWords(selector, viewer, source));
    }),
  );
};

/** Folders by their names, any of them, each once. */
export const folderNames = (ids: readonly string[], viewer: Viewer): string =>
  phrases().or([...new Set(ids.map((id) => viewer.folder(id)?.name ?? id))]);

/** What it takes to word a rule's conditions for whoever looks at the page. */
export const phrasingOf = (source: Source, viewer: Viewer, items?: Record<string, string>) => ({
  source,
  sources: viewer.sources,
  reader: viewer.me,
  names: viewer.names(items),
  phrases: phrases(),
});

/** What a rule waits for, in words: *Status becomes On view*. */
export function whatWords(rule: Rule, viewer: Viewer): Words {
  const source = viewer.source(rule.scope.sources[0] ?? '');
  if (!source) return [];
  if (!rule.when) return [{ strong: occasionWords(rule, source, phrases()) ?? '' }];
  const condition = conditionWords(rule.when.if, phrasingOf(source, viewer));
  // Edits are what conditions are mostly about: only other kinds are worth a word.
  const special = rule.when.kinds.filter((kind) => kind !== 'created' && kind !== 'changed');
  if (condition.length > 0)
    return special.length > 0 ? [`${t('isAnd', { kinds: kindNames(special) })} `, ...condition] : condition;
  const { kinds } = rule.when;
  const where = folderNames(rule.scope.under, viewer);
  if (kinds.length > 0)
    return [where ? t('isBelow', { kinds: kindNames(kinds), where }) : t('is', { kinds: kindNames(kinds) })];
  return [where ? t('anythingBelow', { where }) : t('anythingThatHappens')];
}

/** A name for a rule that has none yet. */
export const nameFor = (rule: Rule, viewer: Viewer): string => {
  const words = plainWords(whatWords(rule, viewer));
  const name = viewer.source(rule.scope.sources[0] ?? '')?.name ?? '';
  // What a condition says stands for itself; of what is open the source says where.
  const isSaid = rule.when === null || !isOpen(rule.when.if);
  return (isSaid ? words.replace(/^./, (first) => first.toUpperCase()) : `${name}: ${words}`).slice(0, 110);
};
