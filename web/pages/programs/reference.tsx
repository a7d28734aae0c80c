import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { Loaded } from '../../parts/index.ts';
import { type Described, useDescribed } from '../../queries/index.ts';
import { t } from '../../words/programs.ts';

type Operation = Described['paths'][string][string];

/** Every question that programs can ask, with what it takes and answers. */
export function Reference() {
  const described = useDescribed();
  const [text, setText] = useState('');
  const wanted = text.trim().toLowerCase();
  return (
    <section>
      <h2>{t('everyQuestion')}</h2>
      <p>
        <a href="/api/openapi.json">{t('asOpenApi')}</a>
      </p>
      <Form.Control
        type="search"
        className="reference-find"
        aria-label={t('narrow')}
        placeholder={t('narrow')}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <Loaded query={described} what={t('theDescription')} rows={8}>
        {({ paths }) => (
          <ul className="plain-list reference">
            {Object.entries(paths).flatMap(([path, methods]) =>
              Object.entries(methods)
                .filter(([, { operationId }]) => `${operationId} ${path}`.toLowerCase().includes(wanted))
                .map(([method, operation]) => (
                  <li key={operation.operationId}>
                    <One path={path} method={method} operation={operation} />
                  </li>
                )),
            )}
          </ul>
        )}
      </Loaded>
    </section>
  );
}

const shown = (value: unknown): string => JSON.stringify(value, null, 2);

function One({ path, method, operation }: { path: string; method: string; operation: Operation }) {
  const { operationId, summary, description, parameters = [], requestBody, responses } = operation;
  const [isOpen, setOpen] = useState(false);
  const done = Object.entries(responses).filter(([status]) => status.startsWith('2'));
  const refusals = Object.entries(responses).filter(([status]) => !status.startsWith('2'));
  return (
    <details onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary>
        <strong className="mono">{method.toUpperCase()}</strong> <span className="mono wrap-anywhere">/api{path}</span>{' '}
        <span className="quiet small">{operationId}</span>
      </summary>
      {isOpen && (
        <>
          {summary && <p>{summary}</p>}
          {description && <p className="quiet">{description}</p>}
          {parameters.length > 0 && (
            <ul className="plain-list small">
              {parameters.map(({ name, in: place, schema }) => (
                <li key={`${place} ${name}`}>
                  <span className="mono">{name}</span> <span className="quiet">{place}</span>{' '}
                  <code>{JSON.stringify(schema)}</code>
                </li>
              ))}
            </ul>
          )}
          {Object.entries(requestBody?.content ?? {}).map(([type, { schema }]) => (
            <div key={type}>
              <p className="small quiet">
                {t('takes')} <span className="mono">{type}</span>
              </p>
              <pre className="mail-source">{shown(schema)}</pre>
            </div>
          ))}
          {done.map(([status, { content = {} }]) => (
            <div key={status}>
              <p className="small quiet">
                {t('answers')} <span className="mono">{status}</span>
              </p>
              {Object.values(content).map(({ schema }) => (
                <pre key={status} className="mail-source">
                  {shown(schema)}
                </pre>
              ))}
            </div>
          ))}
          <p className="small quiet">
            {t('refusals', {
              codes: refusals.map(([status, { description: codes }]) => `${status} (${codes})`).join('; '),
            })}
          </p>
        </>
      )}
    </details>
  );
}
