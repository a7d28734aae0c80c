import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { type Fields, isEmpty, type Source } from '../../../core/values/index.ts';
import { ProblemNote, Sheet, useNotice, useViewer, ValueInput } from '../../parts/index.ts';
import { problemOf, useCreateItem } from '../../queries/index.ts';
import { t } from '../../words/sources.ts';

/** Adds an item to a source. */
export function NewItemSheet({
  source,
  onClose,
  onMade,
}: {
  source: Source;
  onClose: () => void;
  onMade: (id: string) => void;
}) {
  const { directory } = useViewer();
  const folders = directory.folders.filter((folder) => folder.source === source.id && folder.parent !== null);
  const [set, setSet] = useState<Fields>({});
  const [folder, setFolder] = useState(folders[0]?.id ?? null);
  const create = useCreateItem(source.id);
  const notice = useNotice();
  const faults = create.error ? problemOf(create.error).faults : undefined;
  return (
    <Sheet label={t('aNewItem')} name="new" onClose={onClose}>
      <p className="quiet small">{source.name}</p>
      <h2>{t('aNewOne')}</h2>
      <Form
        className="field-form mt-3"
        onSubmit={(event) => {
          event.preventDefault();
          create.mutate(
            { set, folder },
            {
              onSuccess: (item) => {
                notice({ words: t('isAdded', { title: item.title }) });
                onMade(item.id);
              },
            },
          );
        }}
      >
        {create.error && !faults && <ProblemNote error={create.error} />}
        {folders.length > 0 && (
          <Form.Group controlId="new-folder">
            <Form.Label>{t('folder')}</Form.Label>
            <Form.Select value={folder ?? ''} onChange={(event) => setFolder(event.target.value)}>
              {folders.map((one) => (
                <option key={one.id} value={one.id}>
                  {directory.folders.find((parent) => parent.id === one.parent)?.name} / {one.name}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
        )}
        {source.fields.map((field) => {
          const fault = faults?.find((one) => one.path === field.id);
          return (
            <div key={field.id}>
              <Form.Label htmlFor={`new-${field.id}`}>{field.name}</Form.Label>
              <ValueInput
                id={`new-${field.id}`}
                field={field}
                value={set[field.id] ?? null}
                onChange={(value) => setSet((now) => ({ ...now, [field.id]: value }))}
                isInvalid={fault !== undefined}
              />
              {fault && <div className="fault small">{fault.words}</div>}
            </div>
          );
        })}
        <div className="acts">
          <Button type="submit" disabled={isEmpty(set[source.titleField]) || create.isPending}>
            {t('addIt')}
          </Button>
          <Button variant="quiet" onClick={onClose}>
            {t('leaveIt')}
          </Button>
        </div>
      </Form>
    </Sheet>
  );
}
