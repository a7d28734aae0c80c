import { Button, Form } from 'react-bootstrap';
import { FIELD_TYPES, isLinkType } from '../../../core/values/index.ts';
import { Controlled, type Sending, TextField } from '../../forms/index.ts';
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
      <div className="field">
        <Form.Label htmlFor={id('type')}>{t('holds')}</Form.Label>
        <Controlled sending={sending} name={`fields.${at}.type`} id={id('type')}>
          {(value, onChange, isInvalid) => (
            <Form.Select
              id={id('type')}
              value={value}
              isInvalid={isInvalid}
              onChange={(event) => onChange(event.target.value)}
            >
              {FIELD_TYPES.map((one) => (
                <option key={one} value={one}>
                  {t(`type.${one}`)}
                </option>
              ))}
            </Form.Select>
          )}
        </Controlled>
      </div>
      {(type === 'choice' || type === 'choices') && (
        <TextField sending={sending} name={`fields.${at}.options`} label={t('options')} hint={t('partedBy')} />
      )}
      {isLinkType(type) && (
        <div className="field">
          <Form.Label htmlFor={id('to')}>{t('leadsTo')}</Form.Label>
          <Controlled sending={sending} name={`fields.${at}.to`} id={id('to')}>
            {(value, onChange, isInvalid) => (
              <Form.Select
                id={id('to')}
                value={value}
                isInvalid={isInvalid}
                onChange={(event) => onChange(event.target.value)}
              >
                <option value="">{t('choose')}</option>
                {directory.sources.map((one) => (
                  <option key={one.id} value={one.id}>
                    {one.name}
                  </option>
                ))}
              </Form.Select>
            )}
          </Controlled>
        </div>
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
