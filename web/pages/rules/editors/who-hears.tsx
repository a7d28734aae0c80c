import { Form } from 'react-bootstrap';
import type { TryPage } from '../../../../contract/wire/index.ts';
import { REASON_WORDS } from '../../../../contract/words.ts';
import type { Selector } from '../../../../core/people/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import { Said, useViewer, selectorWords } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';
import { mark, Part, type PartProps } from './part.tsx';
import { PeopleEditor } from './people-editor.tsx';

export const ABOUT_WORDS: Record<Rule['about'], string> = {
  any: 'of anything it catches',
  createdByRecipient: 'only of what they made',
  lastEditedByRecipient: 'only of what they edited last',
  namesRecipient: 'only of what names them',
};

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
  const own = faults.filter((fault) => fault.code !== 'nobodyHears' || rule.to.length > 0 || fault.path !== 'to');
  const list = (part: 'to' | 'except') =>
    rule[part].map((selector, at) => (
      <Chip
        key={JSON.stringify(selector)}
        label={part === 'to' ? 'Who hears' : 'Who does not'}
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
        label={part === 'to' ? 'Add who hears' : 'Add who does not'}
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
      title="Who hears"
      faults={own}
      path={['to', 'except', 'about']}
      hint={<Hearers tried={tried} ownChanges={rule.ownChanges} />}
    >
      {list('to')}
      {add('to', rule.to.length === 0 ? '+ say who hears' : '+ add')}
      {rule.except.length > 0 && 'but not'}
      {list('except')}
      {rule.except.length > 0 && add('except', '+ and not')}
      {(rule.about !== 'any' || rule.ownChanges) && (
        <Chip
          label="Of what they hear"
          className={mark(edited, edited.includes('about') ? 'about' : 'ownChanges')}
          disabled={isFixed}
          editor={() => (
            <>
              <Form.Select
                aria-label="Of what they hear"
                value={rule.about}
                onChange={(event) => onChange({ ...rule, about: event.target.value as Rule['about'] })}
              >
                {Object.entries(ABOUT_WORDS).map(([about, words]) => (
                  <option key={about} value={about}>
                    {words}
                  </option>
                ))}
              </Form.Select>
              <Form.Check
                id="own-changes"
                label="also of what they did themselves"
                checked={rule.ownChanges}
                onChange={(event) => onChange({ ...rule, ownChanges: event.target.checked })}
              />
            </>
          )}
        >
          {rule.about !== 'any' ? ABOUT_WORDS[rule.about] : 'of their own changes too'}
        </Chip>
      )}
    </Part>
  );
}

function SelectorNote({ selector, part }: { selector: Selector; part: 'to' | 'except' }) {
  const { group, directory, person } = useViewer();
  if (part === 'except') return <p className="quiet">They do not hear of it, whoever else names them.</p>;
  if (typeof selector !== 'object' || !('group' in selector))
    return <p className="quiet">They hear of what this rule catches, as far as they may read it.</p>;
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
const REMEDIES: Partial<Record<keyof typeof REASON_WORDS, string>> = {
  noAccess: 'a steward can open it to them',
  unconfirmed: 'ask again for the address to be confirmed',
  inactive: 'take them out of the rule',
  noChannel: 'their plan has everything off',
  muted: 'only they can end that',
  unsubscribed: 'only they can come back',
};

/** Who would hear of the change that the rule is tried on, and who would not, with the reason and what helps. */
function Hearers({ tried, ownChanges }: { tried: TryPage | undefined; ownChanges: boolean }) {
  const { person } = useViewer();
  const usual = ownChanges ? 'Whoever makes a change hears of it too.' : 'Nobody hears of their own change.';
  const title = tried?.sample?.title ?? tried?.item?.title;
  if (!tried || !title) return usual;
  const told = [...new Set(tried.messages.map((one) => one.to))];
  const others = tried.withheld.filter((row) => !told.includes(row.person));
  if (told.length + others.length === 0) return usual;
  return (
    <>
      {usual} Of {title} would hear{' '}
      {told.length === 0
        ? 'nobody'
        : told.slice(0, 6).map((id, at) => (
            <span key={id}>
              {at > 0 && ', '}
              {person(id)}
            </span>
          ))}
      {told.length > 6 && ` and ${told.length - 6} more`}.
      {others.slice(0, 4).map(({ person: id, reason }) => (
        <span key={id}>
          {' '}
          <s>{person(id)}</s>{' '}
          <span className={REASON_WORDS[reason].isFault ? 'fault' : ''}>
            {REASON_WORDS[reason].words}
            {REMEDIES[reason] && `: ${REMEDIES[reason]}`}
          </span>
          .
        </span>
      ))}
    </>
  );
}
