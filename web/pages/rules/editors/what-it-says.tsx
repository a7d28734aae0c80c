import { Form } from 'react-bootstrap';
import { Link } from 'react-router';
import { placeholdersOf } from '../../../../core/messages/index.ts';
import type { RuleMessage } from '../../../../core/rules/index.ts';
import type { TryPage } from '../../../../contract/wire/index.ts';
import { ChangeMark, Several, useViewer, joined } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';
import { mark, Part, type PartProps } from './part.tsx';
import { PlaceholderInput } from './placeholder-input.tsx';

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
      title="What it says"
      faults={faults}
      path={['message']}
      hint={
        isOwn || message.wording
          ? 'Ojo always adds which rule it came from, and why its reader heard.'
          : 'Always: which item, what changed from what to what, who, when, where to click, and why.'
      }
    >
      <Chip
        label="Which wording"
        className={className}
        disabled={isFixed}
        editor={() => (
          <fieldset className="choices">
            <Form.Check
              type="radio"
              name="wording"
              id="wording-default"
              label="what changed, as Ojo says it"
              checked={!isOwn && message.wording === null}
              onChange={() => put({ wording: null, subject: null, body: null })}
            />
            {directory.wordings.map((one) => (
              <Form.Check
                key={one.id}
                type="radio"
                name="wording"
                id={`wording-${one.id}`}
                label={`${one.name}, which rules share`}
                checked={!isOwn && message.wording === one.id}
                onChange={() => put({ wording: one.id, subject: null, body: null })}
              />
            ))}
            <Form.Check
              type="radio"
              name="wording"
              id="wording-own"
              label="words of this rule’s own"
              checked={isOwn}
              onChange={() => put({ subject: shared?.subject ?? '{{ item.title }}', body: shared?.body ?? FIRST_BODY })}
            />
            <Link className="small mt-1" to="/wordings">
              Look at the shared wordings
            </Link>
          </fieldset>
        )}
      >
        {isOwn ? (
          'in words of its own'
        ) : shared ? (
          <>
            as <strong>{shared.name}</strong>
          </>
        ) : (
          'what changed'
        )}
      </Chip>
      {isOwn && (
        <Chip
          label="The rule’s own words"
          className={className}
          disabled={isFixed}
          editor={() => (
            <div className="wide-editor">
              <div>
                <Form.Label htmlFor="own-subject">Subject</Form.Label>
                <PlaceholderInput
                  id="own-subject"
                  label="Subject"
                  names={names}
                  value={message.subject ?? ''}
                  onChange={(subject) => put({ subject: subject || null })}
                  rows={1}
                />
              </div>
              <div>
                <Form.Label htmlFor="own-body">Body</Form.Label>
                <PlaceholderInput
                  id="own-body"
                  label="Body"
                  names={names}
                  value={message.body ?? ''}
                  onChange={(body) => put({ body: body || null })}
                  rows={8}
                />
              </div>
            </div>
          )}
        >
          <strong>{message.subject ?? 'a body of its own'}</strong>
        </Chip>
      )}
      {(!isOwn || message.show.length > 0) && ', and'}
      <Chip
        label="Fields to show as well"
        className={message.show.length > 0 || isFixed ? className : 'is-adding'}
        disabled={isFixed}
        editor={() => (
          <Several
            name="show"
            label="Fields to show"
            options={source.fields.map((field) => [field.id, field.name])}
            chosen={message.show}
            onChange={(show) => put({ show: source.fields.map((field) => field.id).filter((id) => show.includes(id)) })}
          />
        )}
      >
        {message.show.length === 0 ? (
          isFixed ? (
            'no other fields'
          ) : (
            '+ fields'
          )
        ) : (
          <strong>{joined(message.show.map(nameOf))}</strong>
        )}
      </Chip>
      {(!isFixed || message.doNow) && (
        <Chip
          label="What to do now"
          className={message.doNow ? className : 'is-adding'}
          disabled={isFixed}
          onRemove={message.doNow ? () => put({ doNow: null }) : undefined}
          editor={() => (
            <Form.Control
              as="textarea"
              rows={2}
              maxLength={300}
              aria-label="What to do now"
              placeholder="Check that cover runs from today."
              value={message.doNow ?? ''}
              onChange={(event) => put({ doNow: event.target.value || null })}
            />
          )}
        >
          {message.doNow ? (
            <>
              do now: <strong>{message.doNow}</strong>
            </>
          ) : (
            '+ what to do now'
          )}
        </Chip>
      )}
      {(message.from === 'owner' || message.replyTo !== null) && (
        <Chip
          label="From whom, and where answers go"
          className={className}
          disabled={isFixed}
          onRemove={() => put({ from: 'ojo', replyTo: null })}
          editor={() => <SenderEditor message={message} owner={person(rule.owner)} onPut={put} />}
        >
          {message.from === 'owner' ? (
            <>
              from <strong>{person(rule.owner)}</strong>
            </>
          ) : (
            'from Ojo'
          )}
          {message.replyTo !== null && (
            <>
              , answers to <strong>{message.replyTo || '…'}</strong>
            </>
          )}
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
        label="from Ojo"
        checked={message.from === 'ojo'}
        onChange={() => onPut({ from: 'ojo' })}
      />
      <Form.Check
        type="radio"
        name="from"
        id="from-owner"
        label={`from ${owner}, whose rule it is`}
        checked={message.from === 'owner'}
        onChange={() => onPut({ from: 'owner' })}
      />
      <div>
        <Form.Label htmlFor="reply-to">answers go to</Form.Label>
        <Form.Control
          id="reply-to"
          type="email"
          maxLength={254}
          placeholder={message.from === 'owner' ? 'the owner' : 'nobody'}
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
                by {entry.steps.at(-1)?.actor}, {entry.steps.at(-1)?.when}
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
