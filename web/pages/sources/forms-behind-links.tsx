import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { z } from 'zod';
import { ASKABLE, formDefinedSchema, type FormRow } from '../../../contract/wire/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { Ends, Refused, SendForm, type Sending, TextField, typedWhole, useSending } from '../../forms/index.ts';
import { CopyLink, Empty, Loaded, ProblemNote, useDraftKey, useNotice } from '../../parts/index.ts';
import { useDropForm, useForms, useSaveForm } from '../../queries/index.ts';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/forms.ts';

/** Forms by which people without an account add to the source: each with its link, what it asks, and how many came. */
export function FormsBehindLinks({ source }: { source: Source }) {
  const forms = useForms(source.id);
  const [open, setOpen] = useState<string | null>(null);
  const onDone = () => setOpen(null);
  return (
    <section className="groups-page">
      {open === 'new' ? (
        <FormEditor source={source} form={null} onDone={onDone} />
      ) : (
        <Button variant="outline-primary" size="sm" className="mt-3" onClick={() => setOpen('new')}>
          {t('newForm')}
        </Button>
      )}
      <Loaded query={forms} what={t('theForms')} rows={3}>
        {(rows) =>
          rows.length === 0 && open !== 'new' ? (
            <Empty title={t('noFormYet')}>
              <p>{t('whatAFormIs')}</p>
            </Empty>
          ) : (
            <ul className="plain-list group-rows">
              {rows.map((form) => (
                <li key={form.id}>
                  {open === form.id ? (
                    <FormEditor source={source} form={form} onDone={onDone} />
                  ) : (
                    <FormLine source={source} form={form} onEdit={() => setOpen(form.id)} />
                  )}
                </li>
              ))}
            </ul>
          )
        }
      </Loaded>
    </section>
  );
}

function FormLine({ source, form, onEdit }: { source: Source; form: FormRow; onEdit: () => void }) {
  const names = form.fields.map(({ field }) => source.fields.find(({ id }) => id === field)?.name ?? field);
  return (
    <div className="group-row">
      <div className="form-line">
        <strong>{form.title}</strong>{' '}
        <span className="quiet small">{form.isOpen ? t('sentSoFar', { sent: form.sent }) : t('isClosed')}</span>
        <div className="quiet small">{t('asks', { names: phrases().and(names) })}</div>
        {form.isOpen && <CopyLink link={form.link} label={t('linkOf', { title: form.title })} />}
      </div>
      <Button variant="quiet" size="sm" aria-label={t('editForm', { title: form.title })} onClick={onEdit}>
        {t('edit')}
      </Button>
    </div>
  );
}

/** A form as it is typed: how many are taken on a day stands there as a text. */
const formShape = z
  .object({
    ...formDefinedSchema.shape,
    title: z.string(),
    about: z.string(),
    thanks: z.string(),
    most: typedWhole(formDefinedSchema.shape.most),
  })
  .pipe(formDefinedSchema);
type Typed = z.input<typeof formShape>;

function FormEditor({ source, form, onDone }: { source: Source; form: FormRow | null; onDone: () => void }) {
  const notice = useNotice();
  const save = useSaveForm(source.id, form?.id ?? null);
  const drop = useDropForm(source.id);
  const sending = useSending({
    shape: formShape,
    start: {
      title: form?.title ?? '',
      about: form?.about ?? '',
      thanks: form?.thanks ?? '',
      most: String(form?.most ?? 100),
      isOpen: form?.isOpen ?? true,
      fields: form?.fields ?? [{ field: source.titleField, isNeeded: true }],
    },
    draft: useDraftKey(`form.${source.id}.${form?.id ?? 'new'}`),
    send: (read) => save.mutateAsync(read),
    onSent: () => {
      notice({ words: t('formIsKept') });
      onDone();
    },
  });
  const takeAway = () =>
    form &&
    drop.mutate(form.id, {
      onSuccess: () => {
        notice({ words: t('formIsGone', { title: form.title }) });
        onDone();
      },
    });
  return (
    <SendForm sending={sending} className="group-editor">
      <TextField sending={sending} name="title" label={t('title')} autoFocus />
      <TextField sending={sending} name="about" label={t('about')} as="textarea" rows={2} />
      <Asked source={source} sending={sending} />
      <TextField sending={sending} name="thanks" label={t('thanks')} hint={t('thanksHint')} />
      <TextField sending={sending} name="most" label={t('most')} inputMode="numeric" />
      <Form.Check
        id="form-open"
        label={t('isOpen')}
        checked={sending.form.watch('isOpen')}
        onChange={(event) => sending.form.setValue('isOpen', event.target.checked, { shouldDirty: true })}
      />
      <Refused sending={sending} />
      {drop.error && <ProblemNote error={drop.error} />}
      <Ends sending={sending} words={form ? t('keepIt') : t('makeIt')} leave={t('leaveIt')} onLeave={onDone}>
        {form && (
          <Button variant="link" className="fault" disabled={drop.isPending} onClick={takeAway}>
            {t('takeAway')}
          </Button>
        )}
      </Ends>
    </SendForm>
  );
}

/** What of the source is asked, in its order, and what has to be filled in; the field that names an item always. */
function Asked({ source, sending }: { source: Source; sending: Sending<Typed> }) {
  const asked = sending.form.watch('fields');
  const put = (fields: Typed['fields']) => sending.form.setValue('fields', fields, { shouldDirty: true });
  const askable = source.fields.filter(({ type }) => ASKABLE.includes(type));
  const others = source.fields.filter(({ type }) => !ASKABLE.includes(type)).map(({ name }) => name);
  const turn = (id: string, part: { isAsked?: boolean; isNeeded?: boolean }) => {
    const now = new Map(asked.map(({ field, isNeeded }) => [field, isNeeded]));
    if (part.isAsked === false) now.delete(id);
    else now.set(id, part.isNeeded ?? now.get(id) ?? false);
    put(
      askable.flatMap((field) =>
        now.has(field.id) ? [{ field: field.id, isNeeded: now.get(field.id) ?? false }] : [],
      ),
    );
  };
  return (
    <fieldset className="asked-fields">
      <legend className="form-label">{t('whatItAsks')}</legend>
      {askable.map(({ id, name }) => {
        const own = asked.find(({ field }) => field === id);
        const isTitle = id === source.titleField;
        return (
          <div key={id}>
            <Form.Check
              id={`asked-${id}`}
              label={name}
              checked={own !== undefined}
              disabled={isTitle}
              onChange={(event) => turn(id, { isAsked: event.target.checked })}
            />
            {own && (
              <Form.Check
                id={`needed-${id}`}
                label={t('isNeeded')}
                aria-label={t('isNeededNamed', { name })}
                checked={own.isNeeded}
                disabled={isTitle}
                onChange={(event) => turn(id, { isNeeded: event.target.checked })}
              />
            )}
          </div>
        );
      })}
      {others.length > 0 && <p className="quiet small">{t('notAsked', { names: phrases().and(others) })}</p>}
    </fieldset>
  );
}
