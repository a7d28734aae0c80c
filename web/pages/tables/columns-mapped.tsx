import { Form } from 'react-bootstrap';
import type { TableLooked } from '../../../contract/wire/index.ts';
import { followsFromActs } from '../../../core/documents/index.ts';
import { ITEM_ID } from '../../../core/tables/index.ts';
import type { Source } from '../../../core/values/index.ts';
import type { TableMapping } from '../../queries/index.ts';
import { t } from '../../words/tables.ts';

interface ColumnsMappedProps {
  source: Source;
  looked: TableLooked;
  mapping: TableMapping;
  onChange: (mapping: TableMapping) => void;
}

/** Which column goes to which field, with what it holds, and by which field rows are known again. */
export function ColumnsMapped({ source, looked, mapping, onChange }: ColumnsMappedProps) {
  const fields = source.fields.filter(({ id }) => id === source.titleField || !followsFromActs(source, id));
  const choose = (at: number, field: string | null) => {
    // A field is filled by one column: chosen here, it is taken off where it stood.
    const columns = mapping.columns.map((one, place) => (place !== at && one === field ? null : one));
    columns[at] = field;
    onChange({ ...mapping, columns, key: columns.includes(mapping.key) ? mapping.key : null });
  };
  const keysThere = mapping.columns.filter((one): one is string => one !== null);
  return (
    <>
      <table className="mapped-columns">
        <thead>
          <tr>
            <th scope="col">{t('column')}</th>
            <th scope="col">{t('holds')}</th>
            <th scope="col">{t('goesTo')}</th>
          </tr>
        </thead>
        <tbody>
          {looked.columns.map(({ name, samples }, at) => (
            <tr key={name}>
              <th scope="row" className="wrap-anywhere">
                {name}
              </th>
              <td className="quiet small wrap-anywhere">{samples.join(' · ') || t('empty')}</td>
              <td>
                <Form.Select
                  size="sm"
                  aria-label={t('fieldOf', { column: name })}
                  value={mapping.columns[at] ?? ''}
                  onChange={(event) => choose(at, event.target.value || null)}
                >
                  <option value="">{t('leftOut')}</option>
                  {fields.map((field) => (
                    <option key={field.id} value={field.id}>
                      {field.name}
                    </option>
                  ))}
                  <option value={ITEM_ID}>{t('itemsId')}</option>
                </Form.Select>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mapped-key">
        <label htmlFor="mapped-key">{t('knownBy')}</label>{' '}
        <Form.Select
          id="mapped-key"
          size="sm"
          value={mapping.key ?? ''}
          onChange={(event) => onChange({ ...mapping, key: event.target.value || null })}
        >
          {keysThere.map((id) => (
            <option key={id} value={id}>
              {id === ITEM_ID ? t('itemsId') : (fields.find((field) => field.id === id)?.name ?? id)}
            </option>
          ))}
          <option value="">{t('eachIsNew')}</option>
        </Form.Select>
      </p>
    </>
  );
}
