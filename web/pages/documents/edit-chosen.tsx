import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { ItemRow } from '../../../contract/wire/index.ts';
import { followsFromActs } from '../../../core/documents/index.ts';
import { type Field, formatValue, sameValue, type Source, type Value } from '../../../core/values/index.ts';
import { ProblemNote, useNotice, useViewer, ValueInput } from '../../parts/index.ts';
import { useItemActs } from '../../queries/index.ts';
import { t } from '../../words/documents.ts';
import { Chip } from '../rules/editors/chip.tsx';

/** So many items are shown as they would be. */
const SHOWN = 8;

/** One edit of all that is chosen: which field gets which value, and what that would change, before it is made. */
export function EditChosen({
  source,
  chosen,
  onDone,
}: {
  source: Source;
  chosen: readonly ItemRow[];
  onDone: () => void;
}) {
  const acts = useItemActs(source.id);
  const notice = useNotice();
  const fields = source.fields.filter((field) => field.id !== source.titleField && !followsFromActs(source, field.id));
  const [id, setId] = useState(fields[0]?.id ?? '');
  const [value, setValue] = useState<Value | undefined>(undefined);
  const field = fields.find((one) => one.id === id);
  if (!field) return null;
  // Before a value is chosen nothing would change: least of all to nothing.
  const changing =
    value === undefined ? [] : chosen.filter((item) => !sameValue(field.type, item.fields[field.id], value));
  const run = () =>
    acts.mutate(
      { ids: changing.map((item) => item.id), act: { act: 'set', set: { [field.id]: value ?? null } } },
      {
        onSuccess: ({ results }) => {
          notice({ words: t('done.set', { done: results.filter(({ outcome }) => outcome === 'done').length }) });
          onDone();
        },
      },
    );
  return (
    <>
      <Chip
        label={t('editThem', { items: chosen.length })}
        className="is-button"
        act={{ words: t('changeThem', { items: changing.length }), run: () => changing.length > 0 && run() }}
        editor={() => (
          <div className="edit-chosen">
            <Form.Select
              aria-label={t('whichField')}
              value={id}
              onChange={(event) => {
                setId(event.target.value);
                setValue(undefined);
              }}
            >
              {fields.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </Form.Select>
            <ValueInput
              key={field.id}
              id="edit-chosen"
              field={field}
              label={t('newValueOf', { field: field.name })}
              value={value ?? null}
              onChange={setValue}
            />
            <Button variant="link" size="sm" aria-pressed={value === null} onClick={() => setValue(null)}>
              {t('emptyIt')}
            </Button>
            {value !== undefined && <Preview field={field} value={value} chosen={chosen} changing={changing} />}
          </div>
        )}
      >
        {t('editThem', { items: chosen.length })}
      </Chip>
      {acts.error && <ProblemNote error={acts.error} />}
    </>
  );
}

/** What would change, item by item, and how many are so already. */
function Preview({
  field,
  value,
  chosen,
  changing,
}: {
  field: Field;
  value: Value;
  chosen: readonly ItemRow[];
  changing: readonly ItemRow[];
}) {
  const { me, names } = useViewer();
  const say = (one: Value | undefined) => formatValue(field, one, me, names({})) || t('empty');
  return (
    <div aria-live="polite">
      <p className="small quiet">
        {t('wouldChange', { changing: changing.length, same: chosen.length - changing.length })}
      </p>
      <ul className="plain-list small">
        {changing.slice(0, SHOWN).map((item) => (
          <li key={item.id} className="change">
            {item.title} <s>{say(item.fields[field.id])}</s> <mark>{say(value)}</mark>
          </li>
        ))}
        {changing.length > SHOWN && <li className="quiet">{t('andMoreItems', { items: changing.length - SHOWN })}</li>}
      </ul>
    </div>
  );
}
