import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { MessagePage } from '../../../contract/wire/index.ts';
import { type Entry, itemPath, kindWords, termsFor } from '../../../core/messages/index.ts';
import { ChangeMark, LessWays, NowStands, UrgencyBar, Why, ShownFields } from '../../parts/index.ts';
import { t } from '../../words/inbox.ts';
import { PassOn } from './pass-on.tsx';
import { SinceThen } from './since.tsx';

/** One item among several in a message. */
export function EntryInDigest({ entry, message }: { entry: Entry; message: MessagePage }) {
  const since = message.since.find((one) => one.item === entry.item.id);
  return (
    <div style={{ display: 'grid', gridTemplateColumns: '20px minmax(0, 1fr)' }}>
      <UrgencyBar urgency={entry.urgency} />
      <div>
        <strong>
          <Link to={itemPath(entry.item.id)}>{entry.item.title}</Link>
        </strong>{' '}
        <span className="quiet small">{entry.item.folder.at(-1) ?? entry.item.sourceName}</span>
        <div>
          <NetChange entry={entry} language={message.content.language} />
        </div>
        <NowStands entry={entry} />
        {entry.kind !== null && entry.notes.map((note) => <div key={note}>{note}</div>)}
        <Steps entry={entry} />
        <ShownFields entry={entry} />
        <div className="mt-1">
          <Why
            sentences={[...entry.why, t.words('ruleNamed', { rules: entry.rules.map((one) => one.name).join(', ') })]}
          />
        </div>
        {since && (
          <div className="mt-2 small">
            <span className="quiet">{t('sinceThen')}</span>
            <SinceThen since={since} entry={entry} />
          </div>
        )}
        <EntryActs entry={entry} message={message} />
      </div>
    </div>
  );
}

/** What the item is now that it was not before, in all. */
function NetChange({ entry, language }: { entry: Entry; language: string | undefined }) {
  if (entry.isBack) return <strong>{t('backWhereItWas2')}</strong>;
  if (entry.fields.length > 0) return <ChangeMark fields={entry.fields} />;
  return <mark>{entry.kind === null ? entry.notes.join(', ') : kindWords(entry.kind, termsFor(language))}</mark>;
}

const fieldWords = ({ label, before, after }: Entry['fields'][number]): string =>
  `${label} ${before || t('empty')} → ${after || t('empty')}`;

/** Each change behind it, where there were several with what it did. */
const Steps = ({ entry: { steps } }: { entry: Entry }) => (
  <ul className="plain-list small">
    {steps.map((step) => (
      <li key={step.change}>
        <time dateTime={step.at}>{step.hour}</time>{' '}
        <span className="quiet">
          {step.actor}
          {steps.length > 1 && step.fields.length > 0 && `: ${step.fields.map(fieldWords).join(', ')}`}
        </span>
      </li>
    ))}
  </ul>
);

function EntryActs({ entry, message }: { entry: Entry; message: MessagePage }) {
  const [open, setOpen] = useState<'less' | 'pass' | null>(null);
  const [rule] = entry.rules;
  if (open === 'less' && rule) return <LessWays rule={rule.id} item={entry.item.id} />;
  if (open === 'pass') return <PassOn item={entry.item.id} message={message.id} onDone={() => setOpen(null)} />;
  return (
    <div className="entry-acts">
      <Button variant="link" size="sm" onClick={() => setOpen('pass')}>
        {t('passItOn')}
      </Button>
      {rule && (
        <Button variant="link" size="sm" onClick={() => setOpen('less')}>
          {t('lessOfThis')}
        </Button>
      )}
    </div>
  );
}
