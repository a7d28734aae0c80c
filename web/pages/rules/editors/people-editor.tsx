import { kindOfSelector, type Selector, type SelectorKind } from '../../../../core/people/index.ts';
import { plainWords } from '../../../../core/messages/index.ts';
import { isLinkType, namesSomebody, type Source } from '../../../../core/values/index.ts';
import { Combobox, type Found, keepersOf, type Viewer, useViewer, selectorWords } from '../../../parts/index.ts';
import { t } from '../../../words/editors.ts';

type Offer = Found<Selector>;
/** What they are named for: to hear, to hear when nobody answers, or to read. */
type Use = 'hearers' | 'escalation' | 'readers';
const READERS: readonly SelectorKind[] = ['person', 'group', 'field', 'creator', 'lastEditor', 'followers'];

/** Whom a rule can name: by a field of the item or of what it links to, by what they did to it, as groups, people and outside addresses. */
function offersOf(viewer: Viewer, source: Source): Offer[] {
  const { directory } = viewer;
  const words = (selector: Selector) => plainWords(selectorWords(selector, viewer, source));
  const offer = (selector: Selector, kind: string): Offer => ({ value: selector, name: words(selector), kind });
  const named: Selector[] = source.fields
    .filter((field) => namesSomebody(field.type))
    .map((field) => ({ field: field.id }));
  const linked: Selector[] = source.fields
    .filter((field) => isLinkType(field.type))
    .flatMap((link) =>
      (viewer.source(link.to ?? '')?.fields ?? [])
        .filter((field) => namesSomebody(field.type))
        .map((field) => ({ linked: link.id, field: field.id })),
    );
  const managed: Selector[] = source.fields
    .filter((field) => field.type === 'person')
    .map((field) => ({ managerOf: { field: field.id } }));
  return [
    ...named.map((one) => offer(one, t('whoeverItNames'))),
    ...managed.map((one) => offer(one, t('manager'))),
    ...linked.map((one) => offer(one, t('acrossALink'))),
    offer({ creator: true }, t('byWhatTheyDid')),
    offer({ lastEditor: true }, t('byWhatTheyDid')),
    offer({ followers: true }, t('followers')),
    offer({ mentioned: true }, t('inAComment')),
    ...directory.groups.map((group) => offer({ group: group.id }, t('group'))),
    ...directory.people
      .filter((person) => person.isActive)
      .map((person): Offer => ({ value: { person: person.id }, name: person.name, kind: person.title })),
    ...directory.contacts.map(
      (contact): Offer => ({
        value: { contact: contact.id },
        name: contact.name,
        kind: contact.isConfirmed ? t('outside') : t('outsideNotConfirmed'),
      }),
    ),
    ...directory.webhooks.map((id): Offer => ({ value: { webhook: id }, name: id, kind: t('webhook') })),
  ];
}

const personOffer = (one: { id: string; name: string; title: string }): Offer => ({
  value: { person: one.id },
  name: one.name,
  kind: one.title,
});

/** Whose changes count: the systems of these sources, groups and people. */
const actorsOf = ({ directory }: Viewer, sources: string[]): Offer[] => [
  ...directory.systems
    .filter((one) => sources.includes(one.source))
    .map(({ name }): Offer => ({ value: { system: name }, name, kind: t('system') })),
  ...directory.groups.map((group): Offer => ({ value: { group: group.id }, name: group.name, kind: t('group') })),
  ...directory.people.map(personOffer),
];

/** Who may be named to hear: somebody who coordinates all these sources names anybody, everybody else themselves. */
function hearersOf(viewer: Viewer, source: Source, sources: string[], use: Use): Offer[] {
  const { directory, me } = viewer;
  // Only people read, and nobody who is known by an alert alone.
  if (use === 'readers') return offersOf(viewer, source).filter(({ value }) => READERS.includes(kindOfSelector(value)));
  if (!sources.every((id) => directory.coordinates.includes(id)))
    return directory.people.filter((one) => one.id === me.id).map(personOffer);
  const managers: Offer = {
    value: { managerOf: { told: true } },
    name: t('theManagersOfThoseTold'),
    kind: t('manager'),
  };
  return [...(use === 'escalation' ? [managers] : []), ...offersOf(viewer, source)];
}

/** Finds whom to add. Members add themselves only, as who hears; whose changes count is everybody's to say. */
export function PeopleEditor({
  source,
  sources,
  chosen,
  onAdd,
  use = 'hearers',
}: {
  source: Source;
  sources: string[];
  chosen: Selector[];
  onAdd: (selector: Selector) => void;
  use?: Use | 'actors';
}) {
  const viewer = useViewer();
  const known = new Set(chosen.map((one) => JSON.stringify(one)));
  const all = use === 'actors' ? actorsOf(viewer, sources) : hearersOf(viewer, source, sources, use);
  const offers = all.filter(({ value }) => !known.has(JSON.stringify(value)));
  const mayOthers = use === 'actors' || sources.every((id) => viewer.directory.coordinates.includes(id));
  return (
    <>
      {!mayOthers && <p className="small quiet">{t('othersAreAddedBy', { keepers: keepersOf(sources, viewer) })}</p>}
      <Combobox offers={offers} label={t('findAPersonGroupOr')} onAdd={onAdd} />
    </>
  );
}
