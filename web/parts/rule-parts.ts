import type { DirectoryPage } from '../../contract/wire/index.ts';
import type { Rule } from '../../core/rules/index.ts';
import type { Source } from '../../core/values/index.ts';
import { t } from '../words/parts.ts';

/** The parts of a rule that can be edited, for telling which of them differ from what is live. */
export const PARTS = [
  'name',
  'urgency',
  'scope',
  'when',
  'due',
  'idle',
  'tally',
  'report',
  'by',
  'during',
  'about',
  'to',
  'except',
  'channels',
  'pace',
  'limit',
  'together',
  'message',
  'ack',
  'ownChanges',
  'zone',
] as const satisfies readonly (keyof Rule)[];
export type RulePart = (typeof PARTS)[number];

export const editedParts = (draft: Rule, live: Rule): RulePart[] =>
  PARTS.filter((part) => JSON.stringify(draft[part]) !== JSON.stringify(live[part]));

/** What a part is called, where versions are told apart by their parts. */
export const partName = (part: RulePart): string => t(`part.${part}`);

/** Of which of what it catches each recipient hears. */
export const aboutWords = (about: Rule['about']): string => t(`about.${about}`);

/** The world that `checkRule` asks for, from the directory that the page has. */
export const worldFrom = (directory: DirectoryPage) => ({
  people: new Map(
    directory.people.map((one) => [
      one.id,
      {
        id: one.id,
        name: one.name,
        email: null,
        phone: null,
        zone: 'UTC',
        locale: 'en-GB',
        manager: null,
        active: one.isActive,
        plan: null,
      },
    ]),
  ),
  groups: new Map(directory.groups.map((one) => [one.id, one])),
  sources: new Map(directory.sources.map((one) => [one.id, one as Source])),
  folders: new Map(directory.folders.map((one) => [one.id, one])),
  access: [],
  item: () => undefined,
});
