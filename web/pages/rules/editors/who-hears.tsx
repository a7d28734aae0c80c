import { Form } from 'react-bootstrap';
import type { TryPage } from '../../../../contract/wire/index.ts';
import { isFault, reasonWords } from '../../../../contract/words/refusals.ts';
import type { Selector } from '../../../../core/people/index.ts';
import { ABOUT, type Rule } from '../../../../core/rules/index.ts';
import { Said, useViewer, selectorWords, aboutWords } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';
import { mark, Part, type PartProps } from './part.tsx';
import { PeopleEditor } from './people-editor.tsx';
import { t } from '../../../words/editors.ts';
import { locale, phrases } from '../../../words/index.ts';
import type { WithheldReason } from '../../../../core/decide/index.ts';

/** Who hears, and who does not although they would; of whom that is for a change tried on, each by name. */
export function WhoHears({
  rule,
  source,
  faults,
  edited,
  isFixed,
  onChange,
  tried,
}: PartProps & { tried: TryPage | undefined }) {
  const viewer = useViewer();
  const list = (part: 'to' | 'except') =>
    rule[part].map((selector, at) => (
      <Chip
        key={JSON.stringify(selector)}
        label={part === 'to' ? t('whoHears') : t('whoDoesNot')}
        className={mark(edited, part)}
        disabled={isFixed}
        onRemove={() => onChange({ ...rule, [part]: rule[part].filter((_, index) => index !== at) })}
        editor={() => <SelectorNote selector={selector} part={part} />}
      >
        <Said words={selectorWords(selector, viewer, source)} />
      </Chip>
    ));
  const add = (part: 'to' | 'except', words: string) =>
    !isFixed && (
      <Chip
        label={part === 'to' ? t('addWhoHears') : t('addWhoDoesNot')}
        className="is-adding"
        editor={() => (
          <PeopleEditor
            source={source}
            sources={rule.scope.sources}
            chosen={rule[part]}
            onAdd={(selector) => onChange({ ...rule, [part]: [...rule[part], selector] })}
          />
        )}
      >
        {words}
      </Chip>
    );
  return (
    <Part
      title={t('whoHears')}
      faults={faults}
      path={['to', 'except', 'about']}
      hint={<Hearers tried={tried} ownChanges={rule.ownChanges} />}
    >
      {list('to')}
      {add('to', rule.to.length === 0 ? t('sayWhoHears') : t('add'))}
      {rule.except.length > 0 && t('butNot')}
      {list('except')}
      {rule.except.length > 0 && add('except', t('andNot'))}
      {(rule.about !== 'any' || rule.ownChanges) && (
        <Chip
          label={t('ofWhatTheyHear')}
          className={mark(edited, edited.includes('about') ? 'about' : 'ownChanges')}
          disabled={isFixed}
          editor={() => (
            <>
              <Form.Select
                aria-label={t('ofWhatTheyHear')}
                value={rule.about}
                onChange={(event) => onChange({ ...rule, about: event.target.value as Rule['about'] })}
              >
                {ABOUT.map((about) => (
                  <option key={about} value={about}>
                    {aboutWords(about)}
                  </option>
                ))}
              </Form.Select>
              <Form.Check
                id="own-changes"
                label={t('alsoOfWhatTheyDid')}
                checked={rule.ownChanges}
                onChange={(event) => onChange({ ...rule, ownChanges: event.target.checked })}
              />
            </>
          )}
        >
          {rule.about !== 'any' ? aboutWords(rule.about) : t('ofTheirOwnChangesToo')}
        </Chip>
      )}
    </Part>
  );
}

function SelectorNote({ selector, part }: { selector: Selector; part: 'to' | 'except' }) {
  const { group, directory, person } = useViewer();
  if (part === 'except') return <p className="quiet">{t('theyDoNotHearOf')}</p>;
  if (typeof selector !== 'object' || !('group' in selector)) return <p className="quiet">{t('theyHearOfWhatThis')}</p>;
  const known = group(selector.group);
  const inside = (known?.groups ?? []).map((id) => directory.groups.find((one) => one.id === id)?.name ?? id);
  return (
    <div className="choices">
      {[...(known?.members ?? []).map(person), ...inside].map((name) => (
        <span key={name}>{name}</span>
      ))}
    </div>
  );
}

/** What somebody could do about a reason not to hear. */
const remedies = (): Partial<Record<WithheldReason, string>> => ({
  noAccess: t('aStewardCanOpenIt'),
  unconfirmed: t('askAgainForTheAddress'),
  inactive: t('takeThemOutOfThe'),
  noChannel: t('theirPlanHasEverythingOff'),
  muted: t('onlyTheyCanEndThat'),
  unsubscribed: t('onlyTheyCanComeBack'),
});

/** So many who would hear, and who would not, are named. */
const TOLD = 6;
const NOT_TOLD = 4;

/** Who would hear of the change that the rule is tried on, and who would not, with the reason and what helps. */
function Hearers({ tried, ownChanges }: { tried: TryPage | undefined; ownChanges: boolean }) {
  const { person } = useViewer();
  const usual = ownChanges ? t('whoeverMakesAChangeHears') : t('nobodyHearsOfTheirOwn');
  const title = tried?.sample?.title ?? tried?.item?.title;
  if (!tried || !title) return usual;
  const told = [...new Set(tried.messages.map((one) => one.to))];
  const others = tried.withheld.filter((row) => !told.includes(row.person));
  if (told.length + others.length === 0) return usual;
  const more = told.length - TOLD;
  const named = told.slice(0, TOLD).map(person);
  const names = phrases().and(more > 0 ? [...named, t('andMore2', { told: more })] : named);
  return (
    <>
      {usual} {told.length === 0 ? t('nobodyWouldHear', { title }) : t.rich('wouldHearOf', { title, names })}
      {others.length > 0 && (
        <>
          {' '}
          {t('notTold')}{' '}
          {others.slice(0, NOT_TOLD).map(({ person: id, reason }, at) => (
            <span key={id}>
              {at > 0 && '; '}
              {person(id)},{' '}
              <span className={isFault(reason) ? 'fault' : ''}>
                {[reasonWords(reason, locale()), remedies()[reason]].filter(Boolean).join(': ')}
              </span>
            </span>
          ))}
          .
        </>
      )}
    </>
  );
}
