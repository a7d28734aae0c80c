import { Form } from 'react-bootstrap';
import { countedWords, markWords } from '../../../../core/messages/index.ts';
import { TALLY_OPS, type Tally } from '../../../../core/rules/index.ts';
import { type Field, isFigureType, isMoney, type Value } from '../../../../core/values/index.ts';
import { ValueInput } from '../../../parts/index.ts';
import { phrases } from '../../../words/index.ts';
import { t } from '../../../words/editors.ts';
import { Chip } from './chip.tsx';
import { mark, type PartProps } from './part.tsx';
import { TallyChart } from './tally-chart.tsx';

/** What a mark is compared by: how many items there are, as if that were a field. */
const COUNT: Field = { id: 'items', name: '', type: 'number' };
const PARTING: readonly Field['type'][] = ['choice', 'person', 'link'];

/** A tally that passes its mark: what is counted, for each of what, and the mark. */
export function TallyThat(props: PartProps & { tally: Tally }) {
  const { rule, tally, source, edited, isFixed, onChange } = props;
  const put = (part: Partial<Tally>) => onChange({ ...rule, tally: { ...tally, ...part } });
  const className = mark(edited, 'tally');
  const summed = tally.of === 'items' ? undefined : tally.of.sum;
  const field = source.fields.find((one) => one.id === summed) ?? COUNT;
  const putMark = (value: Value) => {
    if (typeof value === 'number' || typeof value === 'string' || isMoney(value))
      put({ becomes: { ...tally.becomes, value } });
  };
  return (
    <>
      <Chip
        label={t('whatIsCounted')}
        className={className}
        disabled={isFixed}
        editor={() => (
          <>
            <Form.Select
              aria-label={t('whatIsCounted')}
              value={summed ?? ''}
              onChange={({ target }) => put(countingOf(target.value, source.fields))}
            >
              <option value="">{t('howManyThereAre')}</option>
              {source.fields
                .filter((one) => isFigureType(one.type))
                .map((one) => (
                  <option key={one.id} value={one.id}>
                    {t('theSumOf', { field: one.name })}
                  </option>
                ))}
            </Form.Select>
            <Form.Select
              aria-label={t('forEachOfWhat')}
              value={tally.per ?? ''}
              onChange={({ target }) => put({ per: target.value || null })}
            >
              <option value="">{t('allTogether')}</option>
              {source.fields
                .filter((one) => PARTING.includes(one.type))
                .map((one) => (
                  <option key={one.id} value={one.id}>
                    {t('forEach', { field: one.name })}
                  </option>
                ))}
            </Form.Select>
          </>
        )}
      >
        <strong>{countedWords(tally, source, phrases())}</strong>
      </Chip>
      {t('comeToBe')}
      <Chip
        label={t('theMark')}
        className={className}
        disabled={isFixed}
        editor={() => (
          <>
            <Form.Select
              aria-label={t('howItIsCompared')}
              value={tally.becomes.op}
              onChange={({ target }) =>
                put({ becomes: { ...tally.becomes, op: TALLY_OPS.find((op) => op === target.value) ?? 'above' } })
              }
            >
              {TALLY_OPS.map((op) => (
                <option key={op} value={op}>
                  {t(`tallyOp.${op}`)}
                </option>
              ))}
            </Form.Select>
            <ValueInput
              id="tally-mark"
              label={t('theMark')}
              field={field}
              value={tally.becomes.value}
              onChange={putMark}
            />
          </>
        )}
      >
        <strong>{markWords(tally, phrases())}</strong>
      </Chip>
      <TallyChart rule={rule} tally={tally} isFixed={isFixed} onMark={putMark} />
    </>
  );
}

/** What is counted, with a first mark that fits it. */
function countingOf(id: string, fields: readonly Field[]): Pick<Tally, 'of' | 'becomes'> {
  const field = fields.find((one) => one.id === id);
  if (!field) return { of: 'items', becomes: { op: 'above', value: 10 } };
  const value = field.type === 'money' ? { amount: '100000', currency: 'EUR' } : 100;
  return { of: { sum: field.id }, becomes: { op: 'above', value } };
}
