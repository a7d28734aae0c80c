import { t as rights } from '../words/access.ts';
import { t } from '../words/app.ts';
import { t as people } from '../words/people.ts';
import { t as defining } from '../words/defining.ts';

/** A page or a setting, by the name that it is looked for by. */
export interface PageFound {
  path: string;
  name: string;
}

/** Every page and setting that can be found by its name, in the reader's language. */
export const pagesFound = (): PageFound[] => [
  { path: '/today', name: t('today') },
  { path: '/inbox', name: t('inbox') },
  { path: '/rules', name: t('rules') },
  { path: '/rules/new', name: t('newRule') },
  { path: '/sources', name: t('sources') },
  { path: '/trail', name: t('trail') },
  { path: '/outbox', name: t('outbox') },
  { path: '/people', name: t('people') },
  { path: '/people?see=groups', name: people('tab.groups') },
  { path: '/people?see=outside', name: people('outsidePeople') },
  { path: '/people?see=machines', name: people('tab.machines') },
  { path: '/people?see=starts', name: people('startsFound') },
  { path: '/people?do=add', name: people('addSomebody') },
  { path: '/plan', name: t('deliveryPlan') },
  { path: '/plan', name: t('quietHoursAndAddresses') },
  { path: '/less', name: t('whatIHearLessOf') },
  { path: '/wordings', name: t('wordingsAndPaper') },
  { path: '/audit', name: t('auditTrail') },
  { path: '/running', name: t('howOjoRuns') },
  { path: '/define', name: defining('newSource') },
];

/** What a source has beside its items, by the name of the source. */
export const pagesOfSource = ({ id, name }: { id: string; name: string }): PageFound[] => {
  const path = `/sources/${encodeURIComponent(id)}`;
  return [
    { path: `${path}?see=hearing`, name: t('whoHears', { name }) },
    { path: `${path}?see=rights`, name: `${name}: ${rights('whoMay')}` },
  ];
};
