import { Form } from 'react-bootstrap';
import { z } from 'zod';
import { isEmpty, type Source } from '../../../core/values/index.ts';
import { Ends, Refused, SendForm, useSending } from '../../forms/index.ts';
import { Sheet, useNotice, useViewer, useDraftKey } from '../../parts/index.ts';
import { useCreateItem } from '../../queries/index.ts';
import { t } from '../../words/sources.ts';
import { editsIn, fieldIn, ItemFields, valuesOf, valuesShape } from './item-fields.tsx';

/** An item has a name at least. */
const newItemShape = (source: Source) =>
  z.object({
    folder: z.string().nullable(),
    values: valuesShape(source, {}).superRefine((values, context) => {
      const at = source.fields.findIndex((field) => field.id === source.titleField);
      if (isEmpty(values[at] ?? null))
        context.addIssue({ code: 'custom', path: [at], params: { code: 'empty', params: {} } });
    }),
  });

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
  const create = useCreateItem(source.id);
  const notice = useNotice();
  const sending = useSending({
    shape: newItemShape(source),
    start: { folder: folders[0]?.id ?? null, values: valuesOf(source, {}) },
    fieldOf: fieldIn(source),
    draft: useDraftKey(`new.${source.id}`),
    send: ({ folder, values }) => create.mutateAsync({ folder, set: editsIn(source, {}, values) }),
    onSent: (item) => {
      notice({ words: t('isAdded', { title: item.title }) });
      onMade(item.id);
    },
  });
  return (
    <Sheet label={t('aNewItem')} name="new" isForm onClose={onClose}>
      <p className="quiet small">{source.name}</p>
      <h2>{t('aNewOne')}</h2>
      <SendForm sending={sending} className="field-form mt-3">
        {folders.length > 0 && (
          <Form.Group controlId="new-folder">
            <Form.Label>{t('folder')}</Form.Label>
            <Form.Select {...sending.form.register('folder')}>
              {folders.map((one) => (
                <option key={one.id} value={one.id}>
                  {directory.folders.find((parent) => parent.id === one.parent)?.name} / {one.name}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
        )}
        <ItemFields sending={sending} source={source} />
        <Refused sending={sending} />
        <Ends sending={sending} words={t('addIt')} leave={t('leaveIt')} onLeave={onClose} />
      </SendForm>
    </Sheet>
  );
}
