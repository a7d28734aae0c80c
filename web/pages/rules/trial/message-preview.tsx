import { useState } from 'react';
import { Form as Fields, Nav } from 'react-bootstrap';
import type { TryPage } from '../../../../contract/wire/index.ts';
import { MailFrame, ChangeMark, OwnWords, UrgencyBar, Why, ShownFields, useViewer } from '../../../parts/index.ts';
import { t } from '../../../words/trial.ts';

type Preview = NonNullable<TryPage['preview']>;
const forms = () =>
  [
    ['inApp', t('inOjo')],
    ['html', t('email')],
    ['plain', t('plainText')],
    ['text', t('textMessage')],
  ] as const;
type Form = ReturnType<typeof forms>[number][0];

/** Whose message is shown, where several would get one. */
export function WhoseMessage({
  told,
  shown,
  onPerson,
}: {
  told: readonly string[];
  shown: string | null;
  onPerson: (person: string) => void;
}) {
  const { person } = useViewer();
  if (told.length < 2) return null;
  return (
    <Fields.Select
      size="sm"
      aria-label={t('whoseMessage')}
      value={shown ?? ''}
      onChange={(event) => onPerson(event.target.value)}
    >
      {told.map((id) => (
        <option key={id} value={id}>
          {t('theMessageTo', { person: person(id) })}
        </option>
      ))}
    </Fields.Select>
  );
}

/** The message as it would look, in each form in which it can go. */
export function MessagePreview({ preview }: { preview: Preview }) {
  const [form, setForm] = useState<Form>('inApp');
  return (
    <>
      <Nav as="ul" className="tabs" role="tablist" aria-label={t('theMessageBy')}>
        {forms().map(([one, words]) => (
          <li key={one} role="presentation">
            <button type="button" role="tab" aria-selected={form === one} onClick={() => setForm(one)}>
              {words}
            </button>
          </li>
        ))}
      </Nav>
      {form === 'inApp' && <InOjo preview={preview} />}
      {form === 'html' && (
        <>
          <p className="small mt-2">
            <span className="quiet">{t('subject')}</span> <strong>{preview.subject}</strong>
          </p>
          <MailFrame title={t('theEmailAsItWould')} html={preview.html} />
        </>
      )}
      {form === 'plain' && <pre className="mail-source mt-2">{preview.plain}</pre>}
      {form === 'text' && (
        <>
          <div className="text-bubble mt-3">{preview.text}</div>
          <p className="small quiet mt-2">
            {t('characters', { units: preview.segments.units })} {t('segments', { count: preview.segments.count })}
            {preview.segments.alphabet === 'UCS-2' && t('withSignsOutsideTheBasic')}
          </p>
        </>
      )}
    </>
  );
}

function InOjo({ preview: { content, subject } }: { preview: Preview }) {
  return (
    <div className="mt-3">
      <h3 className="preview-head">{subject}</h3>
      {content.own?.body && (
        <div className="own-words">
          <OwnWords text={content.own.body} />
        </div>
      )}
      {content.entries.map((entry) => (
        <div key={entry.item.id} className="preview-entry">
          <UrgencyBar urgency={entry.urgency} />
          <div>
            {content.entries.length > 1 && <strong>{entry.item.title}</strong>}
            <p>
              {entry.fields.length > 0 && <ChangeMark fields={entry.fields} />} {entry.notes.join(', ')}{' '}
              {entry.steps.length > 0 && t('by2', { actor: entry.steps.at(-1)?.actor ?? '' })}
            </p>
            {entry.steps.length > 0 && <p className="quiet">{entry.steps.at(-1)?.when}</p>}
            <ShownFields entry={entry} />
            <h4 className="mt-3">{t('whyYouHeard')}</h4>
            <Why sentences={entry.why} />
          </div>
        </div>
      ))}
    </div>
  );
}
