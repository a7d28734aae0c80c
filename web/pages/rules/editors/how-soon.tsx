import { Form } from 'react-bootstrap';
import { durationWords, paceWords } from '../../../../core/messages/index.ts';
import type { Pace, Urgency } from '../../../../core/people/index.ts';
import type { Limit } from '../../../../core/rules/index.ts';
import { channelsWords, urgencyName, Radios } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';
import { DurationInput } from './duration-input.tsx';
import { ChannelsEditor, PaceEditor } from './pace-editor.tsx';
import { mark, Part, type PartProps } from './part.tsx';
import { phrases } from '../../../words/index.ts';
import { t } from '../../../words/editors.ts';

const URGENCIES: Urgency[] = ['routine', 'important', 'critical'];

const HINTS: Record<Pace['kind'], () => string | undefined> = {
  now: () => undefined,
  settled: () => t('whatIsPutBackBefore'),
  digest: () => t('whatGathersUntilThenComes'),
};

/** How soon, by what and how urgent; and how often at most. */
export function HowSoon(props: PartProps) {
  const { rule, faults, edited, isFixed } = props;
  return (
    <Part
      title={t('howSoon')}
      faults={faults}
      path={['pace', 'channels', 'urgency', 'limit']}
      hint={HINTS[rule.pace.kind]()}
    >
      {!rule.report && <PaceChip {...props} />}
      <ByWhatChip {...props} />
      {t('as')}
      <UrgencyChip {...props} />
      {rule.limit && <LimitChip {...props} limit={rule.limit} />}
      {(!rule.together || (!isFixed && edited.includes('together'))) && <BulkChip {...props} />}
    </Part>
  );
}

const PaceChip = ({ rule, edited, isFixed, onChange }: PartProps) => (
  <span className="with-comma">
    <Chip
      label={t('howSoon')}
      className={mark(edited, 'pace')}
      disabled={isFixed}
      editor={() => (
        <PaceEditor
          pace={rule.pace}
          maySettle={rule.when !== null && rule.when.burst === null}
          mayGather={rule.ack === null}
          of={{
            source: rule.scope.sources[0] ?? '',
            item: rule.scope.items.length === 1 ? (rule.scope.items[0] ?? null) : null,
          }}
          onChange={(pace) => onChange({ ...rule, pace })}
        />
      )}
    >
      {t.rich(rule.pace.kind === 'digest' ? 'inA' : 'thePace', { pace: paceWords(rule.pace, phrases()) })}
      {rule.pace.kind === 'settled' && t('atTheLatestAfter', { duration: durationWords(rule.pace.most, phrases()) })}
    </Chip>
    ,
  </span>
);

const ByWhatChip = ({ rule, edited, isFixed, onChange }: PartProps) => (
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
);

const UrgencyChip = ({ rule, edited, isFixed, onChange }: PartProps) => (
  <Chip
    label={t('urgency')}
    className={mark(edited, 'urgency')}
    disabled={isFixed}
    editor={() => (
      <fieldset className="choices">
        <Radios
          name="urgency"
          options={URGENCIES.map((urgency) => [urgency, urgencyName(urgency)])}
          chosen={rule.urgency}
          onChange={(urgency) => onChange({ ...rule, urgency })}
        />
      </fieldset>
    )}
  >
    <strong>{urgencyName(rule.urgency)}</strong>
  </Chip>
);

function LimitChip({ rule, limit, edited, isFixed, onChange }: PartProps & { limit: Limit }) {
  const put = (part: Partial<Limit>) => onChange({ ...rule, limit: { ...limit, ...part } });
  return (
    <Chip
      label={t('howOftenAtMost')}
      className={mark(edited, 'limit')}
      disabled={isFixed}
      onRemove={() => onChange({ ...rule, limit: null })}
      editor={() => (
        <>
          <div className="small quiet">{t('oneAlertThenNoneFor')}</div>
          <DurationInput label={t('noneFor')} value={limit.within} onChange={(within) => put({ within })} />
          <Radios
            name="limit"
            options={[
              ['item', t('ofTheSameItem')],
              ['rule', t('ofThisRule')],
            ]}
            chosen={limit.per}
            onChange={(per) => put({ per })}
          />
        </>
      )}
    >
      {t.rich('atMostOneIn', { duration: durationWords(limit.within, phrases()) })}
      {limit.per === 'item' && ` ${t('anItem')}`}
    </Chip>
  );
}

const BulkChip = ({ rule, edited, isFixed, onChange }: PartProps) => (
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
);
