import { Button, Form } from 'react-bootstrap';
import { FIELD_TYPES, isLinkType } from '../../../core/values/index.ts';
import { SelectField, type Sending, TextField } from '../../forms/index.ts';
import { useViewer } from '../../parts/index.ts';
import { t } from '../../words/defining.ts';
import type { DefinedTyped } from './defined-shape.ts';

interface FieldRowProps {
  sending: Sending<DefinedTyped>;
  at: number;
  /** Items are called by it. */
  isTitle: boolean;
  onTitle: () => void;
  onRemove: (() => void) | null;
}

/** One field: what it is called, what it holds, whether it names an item. */
export function FieldRow({ sending, at, isTitle, onTitle, onRemove }: FieldRowProps) {
  const { directory } = useViewer();
  const type = FIELD_TYPES.find((one) => one === sending.form.watch(`fields.${at}.type`)) ?? 'text';
  const place = at + 1;
  const id = (part: string) => `field-${at}-${part}`;
  return (
    <li>
      <TextField sending={sending} name={`fields.${at}.name`} label={t('nameOfField', { place })} />
      <SelectField
        sending={sending}
        name={`fields.${at}.type`}
        label={t('holds')}
        options={FIELD_TYPES.map((one) => [one, t(`type.${one}`)] as const)}
      />
      {(type === 'choice' || type === 'choices') && <Options sending={sending} at={at} />}
      {isLinkType(type) && (
        <SelectField
          sending={sending}
          name={`fields.${at}.to`}
          label={t('leadsTo')}
          empty={t('choose')}
          options={directory.sources.map((one) => [one.id, one.name] as const)}
        />
      )}
      <Form.Check
        type="radio"
        name="title-of-source"
        id={id('title')}
        className="field-names-it"
        label={t('namesIt')}
        checked={isTitle}
        onChange={onTitle}
      />
      {onRemove && (
        <Button variant="link" size="sm" aria-label={t('takeOffField', { place })} onClick={onRemove}>
          {t('takeOff')}
        </Button>
      )}
    </li>
  );
}

/** What can be chosen: options that there are, to be called otherwise or taken off, and a line for further ones. */
function Options({ sending, at }: { sending: Sending<DefinedTyped>; at: number }) {
  const kept = sending.form.watch(`fields.${at}.kept`);
  return (
    <div className="field-options">
      {kept.length > 0 && <p className="form-label">{t('options')}</p>}
      {kept.map(({ id }, place) => (
        <TextField
          key={id}
          sending={sending}
          name={`fields.${at}.kept.${place}.name`}
          label={t('optionMadeAs', { option: id })}
          isBare
          placeholder={t('isTakenOff', { option: id })}
        />
      ))}
      <TextField
        sending={sending}
        name={`fields.${at}.options`}
        label={kept.length > 0 ? t('furtherOptions') : t('options')}
        hint={kept.length > 0 ? t('calledOtherwise') : t('partedBy')}
      />
    </div>
  );
}
