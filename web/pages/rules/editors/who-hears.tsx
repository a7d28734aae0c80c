import { Form } from 'react-bootstrap';
import type { TryPage } from '../../../../contract/wire/index.ts';
import { isFault, reasonWords } from '../../../../contract/words/refusals.ts';
import { asKind, type Selector } from '../../../../core/people/index.ts';
import { ABOUT, type Rule } from '../../../../core/rules/index.ts';
import { Said, useViewer, selectorWords, aboutWords } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';
import { mark, Part, type PartProps } from './part.tsx';
import { ChannelsEditor } from './pace-editor.tsx';
import { CasesChip } from './cases-chip.tsx';
import { PeopleEditor } from './people-editor.tsx';
import { t } from '../../../words/editors.ts';
import { locale, phrases } from '../../../words/index.ts';
import type { WithheldReason } from '../../../../core/decide/index.ts';

interface ListProps extends PartProps {
  part: 'to' | 'except';
}

/** Who hears, and who does not although they would; of whom that is for a change tried on, each by name. */
export function WhoHears(props: PartProps & { tried: TryPage | undefined }) {
  const { rule, source, faults, isFixed, onChange, tried } = props;
  const at = isFixed ? -1 : rule.to.findIndex((one) => asKind(bareOf(one), 'cases'));
  const cases = at < 0 ? undefined : rule.to[at];
  const byCase = !isFixed && (
    <CasesChip
      key="cases"
      rule={rule}
      source={source}
      cases={cases ? bareOf(cases) : null}
      onPut={(next) =>
        onChange({ ...rule, to: cases ? rule.to.map((one) => (one === cases ? next : one)) : [...rule.to, next] })
      }
      {...(cases ? { onRemove: () => onChange({ ...rule, to: rule.to.filter((one) => one !== cases) }) } : {})}
    />
  );
  const adding = (
    <Adding key="adding" {...props} part="to" words={rule.to.length === 0 ? t('sayWhoHears') : t('add')} />
  );
  return (
    <Part
      title={t('whoHears')}
      faults={faults}
      path={['to', 'except', 'about']}
      hint={<Hearers tried={tried} ownChanges={rule.ownChanges} />}
    >
      <Named {...props} part="to" without={cases} />
      {/* The same part by its key, also once its first case is there: its editor stays open. */}
      {cases ? [byCase, adding] : [adding, byCase]}
      {rule.except.length > 0 && t('butNot')}
      <Named {...props} part="except" />
      {rule.except.length > 0 && <Adding {...props} part="except" words={t('andNot')} />}
      {(rule.about !== 'any' || rule.ownChanges) && <AboutChip {...props} />}
    </Part>
  );
}

/** Those named, each a part to press; whoever hears may be told by channels of their own. */
function Named({ rule, source, edited, isFixed, onChange, part, without }: ListProps & { without?: Selector }) {
  const viewer = useViewer();
  const put = (at: number, selector: Selector) =>
    onChange({ ...rule, to: rule.to.map((one, index) => (index === at ? selector : one)) });
  return rule[part].map((selector, at) => {
    const bare = bareOf(selector);
    const remove = () => onChange({ ...rule, [part]: rule[part].filter((_, index) => index !== at) });
    if (selector === without) return null;
    return (
      <Chip
        key={JSON.stringify(bare)}
        label={part === 'to' ? t('whoHears') : t('whoDoesNot')}
        className={mark(edited, part)}
        disabled={isFixed}
        onRemove={remove}
        editor={() => (
          <>
            <SelectorNote selector={bare} part={part} />
            {part === 'to' && (
              <ChannelsEditor
                channels={asKind(selector, 'tell')?.channels ?? null}
                onChange={(channels) => put(at, channels ? { tell: bare, channels } : bare)}
              />
            )}
          </>
        )}
      >
        <Said words={selectorWords(selector, viewer, source)} />
      </Chip>
    );
  });
}

function Adding({ rule, source, isFixed, onChange, part, words }: ListProps & { words: string }) {
  if (isFixed) return null;
  return (
    <Chip
      label={part === 'to' ? t('addWhoHears') : t('addWhoDoesNot')}
      className="is-adding"
      editor={() => (
        <PeopleEditor
          source={source}
          sources={rule.scope.sources}
          chosen={rule[part].map(bareOf)}
          onAdd={(selector) => onChange({ ...rule, [part]: [...rule[part], selector] })}
        />
      )}
    >
      {words}
    </Chip>
  );
}

/** Of which of what it catches they hear, and whether of their own changes. */
const AboutChip = ({ rule, edited, isFixed, onChange }: PartProps) => (
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
);

/** Whom an entry names, apart from by which channels. */
const bareOf = (selector: Selector): Selector => asKind(selector, 'tell')?.tell ?? selector;

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
