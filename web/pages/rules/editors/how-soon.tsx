import { Form } from 'react-bootstrap';
import { durationWords, paceWords } from '../../../../core/messages/index.ts';
import type { Urgency } from '../../../../core/people/index.ts';
import type { Limit } from '../../../../core/rules/index.ts';
import { channelsWords, urgencyName } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';
import { DurationInput } from './duration-input.tsx';
import { ChannelsEditor, PaceEditor } from './pace-editor.tsx';
import { mark, Part, type PartProps } from './part.tsx';
import { phrases } from '../../../words/index.ts';
import { t } from '../../../words/editors.ts';

const URGENCIES: Urgency[] = ['routine', 'important', 'critical'];

/** How soon, by what and how urgent; and how often at most. */
export function HowSoon({ rule, faults, edited, isFixed, onChange }: PartProps) {
  const { pace, limit } = rule;
  const putLimit = (next: Limit | null) => onChange({ ...rule, limit: next });
  const hint =
    pace.kind === 'digest'
      ? t('whatGathersUntilThenComes')
      : pace.kind === 'settled'
        ? t('whatIsPutBackBefore')
        : undefined;
  return (
    <Part title={t('howSoon')} faults={faults} path={['pace', 'channels', 'urgency', 'limit']} hint={hint}>
      {t.rich('as', {
        span: (
          <span className="with-comma">
            <Chip
              label={t('howSoon')}
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
                t.rich('inA', { pace: paceWords(pace, phrases()) })
              ) : (
                <strong>{paceWords(pace, phrases())}</strong>
              )}
              {pace.kind === 'settled' && t('atTheLatestAfter', { duration: durationWords(pace.most, phrases()) })}
            </Chip>
            ,
          </span>
        ),
        spanToo: (
          <span className="with-comma">
            <Chip
              label={t('byWhat')}
              className={mark(edited, 'channels')}
              disabled={isFixed}
              editor={() => (
                <ChannelsEditor channels={rule.channels} onChange={(channels) => onChange({ ...rule, channels })} />
              )}
            >
              <strong>{channelsWords(rule.channels)}</strong>
            </Chip>
            ,
          </span>
        ),
      })}
      <Chip
        label={t('urgency')}
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
                label={urgencyName(urgency)}
                checked={rule.urgency === urgency}
                onChange={() => onChange({ ...rule, urgency })}
              />
            ))}
          </fieldset>
        )}
      >
        <strong>{urgencyName(rule.urgency)}</strong>
      </Chip>
      {limit && (
        <Chip
          label={t('howOftenAtMost')}
          className={mark(edited, 'limit')}
          disabled={isFixed}
          onRemove={() => putLimit(null)}
          editor={() => (
            <>
              <div className="small quiet">{t('oneAlertThenNoneFor')}</div>
              <DurationInput
                label={t('noneFor')}
                value={limit.within}
                onChange={(within) => putLimit({ ...limit, within })}
              />
              <Form.Check
                type="radio"
                name="limit-per"
                id="limit-item"
                label={t('ofTheSameItem')}
                checked={limit.per === 'item'}
                onChange={() => putLimit({ ...limit, per: 'item' })}
              />
              <Form.Check
                type="radio"
                name="limit-per"
                id="limit-rule"
                label={t('ofThisRule')}
                checked={limit.per === 'rule'}
                onChange={() => putLimit({ ...limit, per: 'rule' })}
              />
            </>
          )}
        >
          {t.rich('atMostOneIn', { duration: durationWords(limit.within, phrases()) })}
          {limit.per === 'item' && ` ${t('anItem')}`}
        </Chip>
      )}
      {(!rule.together || (!isFixed && edited.includes('together'))) && (
        <Chip
          label={t('aBulkChange')}
          className={mark(edited, 'together')}
          disabled={isFixed}
          editor={() => (
            <Form.Check
              id="together"
              label={t('whatOneBulkChangeDoes')}
              checked={rule.together}
              onChange={(event) => onChange({ ...rule, together: event.target.checked })}
            />
          )}
        >
          {rule.together ? t('aBulkChangeAsOne') : t('eachItemOfABulk')}
        </Chip>
      )}
    </Part>
  );
}
