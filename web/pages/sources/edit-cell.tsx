import { type FormEvent, useState } from 'react';
import { Button } from 'react-bootstrap';
import type { ItemRow } from '../../../contract/wire/index.ts';
import { type Field, sameValue, type Value } from '../../../core/values/index.ts';
import { goToUnread, ProblemNote, ValueInput } from '../../parts/index.ts';
import { useSaveItem } from '../../queries/index.ts';
import { t } from '../../words/sources.ts';
import { Chip } from '../rules/editors/chip.tsx';

interface EditCellProps {
  item: ItemRow;
  field: Field;
  /** What stands in the cell. */
  shown: string;
}

/** One cell of a list, edited where it stands. What is typed and not saved is there again when the cell is opened again. */
export function EditCell({ item, field, shown }: EditCellProps) {
  const [typed, setTyped] = useState<Value | undefined>(undefined);
  const save = useSaveItem(item.id);
  const before = item.fields[field.id] ?? null;
  const value = typed === undefined ? before : typed;
  const submit = (close: () => void) => (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    event.stopPropagation();
    if (goToUnread(event.currentTarget)) return;
    if (sameValue(field.type, before, value)) return leave(close);
    save.mutate({ from: item.version, set: { [field.id]: value } }, { onSuccess: () => leave(close) });
  };
  const leave = (close: () => void) => {
    setTyped(undefined);
    save.reset();
    close();
  };
  return (
    <Chip
      label={t('cellOf', { field: field.name, title: item.title })}
      className={`is-cell${typed === undefined ? '' : ' is-edited'}`}
      isPlain
      editor={(close) => (
        <form noValidate className="edit-cell" onSubmit={submit(close)}>
          <label className="form-label" htmlFor={`cell-${item.id}-${field.id}`}>
            {field.name}
          </label>
          <ValueInput id={`cell-${item.id}-${field.id}`} field={field} value={value} onChange={setTyped} />
          {save.error && <ProblemNote error={save.error} />}
          <div className="acts">
            <Button type="submit" size="sm" disabled={save.isPending}>
              {t('saveIt')}
            </Button>
            <Button variant="quiet" size="sm" onClick={() => leave(close)}>
              {t('leaveItAsItWas')}
            </Button>
          </div>
        </form>
      )}
    >
      {shown || '\u00a0'}
    </Chip>
  );
}
