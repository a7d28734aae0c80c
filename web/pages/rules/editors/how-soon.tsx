import { Form } from 'react-bootstrap';
import { durationWords, paceWords } from '../../../../core/messages/index.ts';
import type { Urgency } from '../../../../core/people/index.ts';
import type { Limit } from '../../../../core/rules/index.ts';
import { channelsWords } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';
import { DurationInput } from './duration-input.tsx';
import { ChannelsEditor, PaceEditor } from './pace-editor.tsx';
import { mark, Part, type PartProps } from './part.tsx';

const URGENCIES: Urgency[] = ['routine', 'important', 'critical'];

/** How soon, by what and how urgent; and how often at most. */
export function HowSoon({ rule, faults, edited, isFixed, onChange }: PartProps) {
  const { pace, limit } = rule;
  const putLimit = (next: Limit | null) => onChange({ ...rule, limit: next });
  const hint =
    pace.kind === 'digest'
      ? 'What gathers until then comes as one message, each item once.'
      : pace.kind === 'settled'
        ? 'What is put back before then is not told.'
        : undefined;
  return (
    <Part title="How soon" faults={faults} path={['pace', 'channels', 'urgency', 'limit']} hint={hint}>
      <span className="with-comma">
        <Chip
          label="How soon"
          className={mark(edited, 'pace')}
          disabled={isFixed}
          editor={() => (
            <PaceEditor
              pace={pace}
              maySettle={rule.when !== null && rule.when.burst === null}
              mayGather={rule.ack === null}
              onChange={(next) => onChange({ ...rule, pace: next })}
            />
          )}
        >
          {pace.kind === 'digest' ? (
            <>
              in a <strong>{paceWords(pace)}</strong>
            </>
          ) : (
            <strong>{paceWords(pace)}</strong>
          )}
          {pace.kind === 'settled' && <>, at the latest after {durationWords(pace.most)}</>}
        </Chip>
        ,
      </span>
      <span className="with-comma">
        <Chip
          label="By what"
          className={mark(edited, 'channels')}
          disabled={isFixed}
          editor={() => (
            <ChannelsEditor channels={rule.channels} onChange={(channels) => onChange({ ...rule, channels })} />
          )}
        >
          <strong>{channelsWords(rule.channels)}</strong>
        </Chip>
        ,
      </span>{' '}
      as
      <Chip
        label="Urgency"
        className={mark(edited, 'urgency')}
        disabled={isFixed}
        editor={() => (
          <fieldset className="choices">
            {URGENCIES.map((urgency) => (
              <Form.Check
                key={urgency}
                type="radio"
                name="urgency"
                id={`urgency-${urgency}`}
                label={urgency}
                checked={rule.urgency === urgency}
                onChange={() => onChange({ ...rule, urgency })}
              />
            ))}
          </fieldset>
        )}
      >
        <strong>{rule.urgency}</strong>
      </Chip>
      {limit && (
        <Chip
          label="How often at most"
          className={mark(edited, 'limit')}
          disabled={isFixed}
          onRemove={() => putLimit(null)}
          editor={() => (
            <>
              <div className="small quiet">one alert, then none for</div>
              <DurationInput
                label="None for"
                value={limit.within}
                onChange={(within) => putLimit({ ...limit, within })}
              />
              <Form.Check
                type="radio"
                name="limit-per"
                id="limit-item"
                label="of the same item"
                checked={limit.per === 'item'}
                onChange={() => putLimit({ ...limit, per: 'item' })}
              />
              <Form.Check
                type="radio"
                name="limit-per"
                id="limit-rule"
                label="of this rule"
                checked={limit.per === 'rule'}
                onChange={() => putLimit({ ...limit, per: 'rule' })}
              />
            </>
          )}
        >
          at most one in <strong>{durationWords(limit.within)}</strong>
          {limit.per === 'item' && ' an item'}
        </Chip>
      )}
      {(!rule.together || (!isFixed && edited.includes('together'))) && (
        <Chip
          label="A bulk change"
          className={mark(edited, 'together')}
          disabled={isFixed}
          editor={() => (
            <Form.Check
              id="together"
              label="what one bulk change does comes as one alert"
              checked={rule.together}
              onChange={(event) => onChange({ ...rule, together: event.target.checked })}
            />
          )}
        >
          {rule.together ? 'a bulk change as one' : 'each item of a bulk change by itself'}
        </Chip>
      )}
    </Part>
  );
}
