import { useId, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { DoorTried } from '../../../contract/wire/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { ProblemNote, useViewer } from '../../parts/index.ts';
import { useTryDoor } from '../../queries/index.ts';
import { t } from '../../words/doors.ts';
import { mappingsOf, type TypedDoor } from './door-typed.ts';

/** What a sample would come to by what is typed; nothing of it is kept. */
export function TryDoor({ source, mappings }: { source: Source; mappings: TypedDoor['mappings'] }) {
  const id = useId();
  const [sample, setSample] = useState('');
  const tried = useTryDoor(source.id);
  const read = mappingsOf(mappings);
  return (
    <div className="field">
      <Form.Label htmlFor={id}>{t('sample')}</Form.Label>
      <Form.Control
        as="textarea"
        id={id}
        rows={5}
        className="mono"
        spellCheck={false}
        aria-describedby={`${id}-hint`}
        value={sample}
        onChange={(event) => setSample(event.target.value)}
      />
      <p id={`${id}-hint`} className="small quiet mt-1">
        {t('sampleHint')}
      </p>
      <Button
        variant="outline-primary"
        size="sm"
        disabled={tried.isPending || sample.trim() === '' || read === null}
        onClick={() => read && tried.mutate({ mappings: read, sample })}
      >
        {t('tryIt')}
      </Button>
      {tried.error && <ProblemNote error={tried.error} />}
      {tried.data && <Outcome tried={tried.data} />}
    </div>
  );
}

function Outcome({ tried: { outcome, key, text, actor, fields, faults } }: { tried: DoorTried }) {
  const { person } = useViewer();
  return (
    <div className="tried-sample" role="status">
      <p className={outcome === 'refused' ? 'fault' : ''}>
        {t(`tried.${outcome}`, { key: key ?? '', text: text ?? '' })}
      </p>
      {fields.length > 0 && (
        <dl>
          {fields.map(({ field, words }) => (
            <div key={field}>
              <dt>{field}</dt>
              <dd>{words || '–'}</dd>
            </div>
          ))}
        </dl>
      )}
      {actor !== null && (
        <p className="quiet small">
          {actor.startsWith('system:') ? t('doneByDoor') : t('doneBy', { person: person(actor) })}
        </p>
      )}
      <ul className="plain-list">
        {faults.map(({ path, words }) => (
          <li key={`${path} ${words}`} className="fault small">
            {words} <span className="mono">{path}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
