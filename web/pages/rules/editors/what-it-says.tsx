import { Form } from 'react-bootstrap';
import { Link } from 'react-router';
import { placeholdersOf } from '../../../../core/messages/index.ts';
import type { RuleMessage } from '../../../../core/rules/index.ts';
import type { TryPage } from '../../../../contract/wire/index.ts';
import { ChangeMark, Several, useViewer } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';
import { mark, Part, type PartProps } from './part.tsx';
import { PlaceholderInput } from './placeholder-input.tsx';
import { t } from '../../../words/editors.ts';
import { phrases } from '../../../words/index.ts';

/** What the message says beside what it always says, and from whom it comes. */
export function WhatItSays({
  rule,
  source,
  faults,
  edited,
  isFixed,
  onChange,
  preview,
}: PartProps & { preview: TryPage['preview'] | undefined }) {
  const { directory, person, source: sourceOf } = useViewer();
  const className = mark(edited, 'message');
  const { message } = rule;
  const put = (part: Partial<RuleMessage>) => onChange({ ...rule, message: { ...message, ...part } });
  const names = placeholdersOf(rule.scope.sources.flatMap((id) => sourceOf(id) ?? []));
  const isOwn = message.subject !== null || message.body !== null;
  const shared = directory.wordings.find((one) => one.id === message.wording);
  const nameOf = (id: string) => source.fields.find((field) => field.id === id)?.name ?? id;
  return (
    <Part
      title={t('whatItSays')}
      faults={faults}
      path={['message']}
      hint={isOwn || message.wording ? t('ojoAlwaysAddsWhichRule') : t('alwaysWhichItemWhatChanged')}
    >
      <Chip
        label={t('whichWording')}
        className={className}
        disabled={isFixed}
        editor={() => (
          <fieldset className="choices">
            <Form.Check
              type="radio"
              name="wording"
              id="wording-default"
              label={t('whatChangedAsOjoSays')}
              checked={!isOwn && message.wording === null}
              onChange={() => put({ wording: null, subject: null, body: null })}
            />
            {directory.wordings.map((one) => (
              <Form.Check
                key={one.id}
                type="radio"
                name="wording"
                id={`wording-${one.id}`}
                label={t('whichRulesShare', { name: one.name })}
                checked={!isOwn && message.wording === one.id}
                onChange={() => put({ wording: one.id, subject: null, body: null })}
              />
            ))}
            <Form.Check
              type="radio"
              name="wording"
              id="wording-own"
              label={t('wordsOfThisRulesOwn')}
              checked={isOwn}
              onChange={() => put({ subject: shared?.subject ?? '{{ item.title }}', body: shared?.body ?? FIRST_BODY })}
            />
            <Link className="small mt-1" to="/wordings">
              {t('lookAtTheSharedWordings')}
            </Link>
          </fieldset>
        )}
      >
        {isOwn ? t('inWordsOfItsOwn') : shared ? t.rich('as2', { name: shared.name }) : t('whatChanged')}
      </Chip>
      {isOwn && (
        <Chip
          label={t('theRulesOwnWords')}
          className={className}
          disabled={isFixed}
          editor={() => (
            <div className="wide-editor">
              <div>
                <Form.Label htmlFor="own-subject">{t('subject')}</Form.Label>
                <PlaceholderInput
                  id="own-subject"
                  label={t('subject')}
                  names={names}
                  value={message.subject ?? ''}
                  onChange={(subject) => put({ subject: subject || null })}
                  rows={1}
                />
              </div>
              <div>
                <Form.Label htmlFor="own-body">{t('body')}</Form.Label>
                <PlaceholderInput
                  id="own-body"
                  label={t('body')}
                  names={names}
                  value={message.body ?? ''}
                  onChange={(body) => put({ body: body || null })}
                  rows={8}
                />
              </div>
            </div>
          )}
        >
          <strong>{message.subject ?? t('aBodyOfItsOwn')}</strong>
        </Chip>
      )}
      {(!isOwn || message.show.length > 0) && t('and')}
      <Chip
        label={t('fieldsToShowAsWell')}
        className={message.show.length > 0 || isFixed ? className : 'is-adding'}
        disabled={isFixed}
        editor={() => (
          <Several
            name="show"
            label={t('fieldsToShow')}
            options={source.fields.map((field) => [field.id, field.name])}
            chosen={message.show}
            onChange={(show) => put({ show: source.fields.map((field) => field.id).filter((id) => show.includes(id)) })}
          />
        )}
      >
        {message.show.length === 0 ? (
          isFixed ? (
            t('noOtherFields')
          ) : (
            t('addFields')
          )
        ) : (
          <strong>{phrases().and(message.show.map(nameOf))}</strong>
        )}
      </Chip>
      {(!isFixed || message.doNow) && (
        <Chip
          label={t('whatToDoNow')}
          className={message.doNow ? className : 'is-adding'}
          disabled={isFixed}
          onRemove={message.doNow ? () => put({ doNow: null }) : undefined}
          editor={() => (
            <Form.Control
              as="textarea"
              rows={2}
              maxLength={300}
              aria-label={t('whatToDoNow')}
              placeholder={t('checkThatCoverRunsFrom')}
              value={message.doNow ?? ''}
              onChange={(event) => put({ doNow: event.target.value || null })}
            />
          )}
        >
          {message.doNow ? t.rich('doNow', { doNow: message.doNow }) : t('whatToDoNow2')}
        </Chip>
      )}
      {(message.from === 'owner' || message.replyTo !== null) && (
        <Chip
          label={t('fromWhomAndWhereAnswers')}
          className={className}
          disabled={isFixed}
          onRemove={() => put({ from: 'ojo', replyTo: null })}
          editor={() => <SenderEditor message={message} owner={person(rule.owner)} onPut={put} />}
        >
          {message.from === 'owner' ? t.rich('from3', { person: person(rule.owner) }) : t('fromOjo')}
          {message.replyTo !== null && <>{t.rich('answersTo', { replyTo: message.replyTo || '…' })}</>}
        </Chip>
      )}
      {preview && <PreviewCard preview={preview} />}
    </Part>
  );
}

function SenderEditor({
  message,
  owner,
  onPut,
}: {
  message: RuleMessage;
  owner: string;
  onPut: (part: Partial<RuleMessage>) => void;
}) {
  return (
    <>
      <Form.Check
        type="radio"
        name="from"
        id="from-ojo"
        label={t('fromOjo')}
        checked={message.from === 'ojo'}
        onChange={() => onPut({ from: 'ojo' })}
      />
      <Form.Check
        type="radio"
        name="from"
        id="from-owner"
        label={t('fromWhoseRuleItIs', { owner })}
        checked={message.from === 'owner'}
        onChange={() => onPut({ from: 'owner' })}
      />
      <div>
        <Form.Label htmlFor="reply-to">{t('answersGoTo')}</Form.Label>
        <Form.Control
          id="reply-to"
          type="email"
          maxLength={254}
          placeholder={message.from === 'owner' ? t('theOwner') : t('nobody')}
          value={message.replyTo ?? ''}
          onChange={(event) => onPut({ replyTo: event.target.value || null })}
        />
      </div>
    </>
  );
}

/** The message as the change tried on would bring it. */
function PreviewCard({ preview: { content, subject } }: { preview: NonNullable<TryPage['preview']> }) {
  const [entry] = content.entries;
  return (
    <div className="preview-card">
      <strong>{subject}</strong>
      {content.own?.body ? (
        <div className="cut">{content.own.body.split('\n').find((line) => line.trim() !== '')}</div>
      ) : (
        entry && (
          <div>
            {entry.fields.length > 0 ? <ChangeMark fields={entry.fields.slice(0, 3)} /> : entry.notes.join(', ')}{' '}
            {entry.steps.length > 0 && (
              <span className="quiet">
                {t('by', { actor: entry.steps.at(-1)?.actor ?? '', when: entry.steps.at(-1)?.when ?? '' })}
              </span>
            )}
          </div>
        )
      )}
    </div>
  );
}

const FIRST_BODY =
  '{{ recipient.name }},\n\n{{ change.actor }} changed {{ item.title }}, {{ change.at }}:\n{% for field in change.fields %}{{ field.label }}: {{ field.before }} → {{ field.after }}\n{% endfor %}\n{{ links.item }}\n';
