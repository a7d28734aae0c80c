import { lazy, Suspense, useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { MessagePage } from '../../../contract/wire/index.ts';
import { isFault, reasonWords } from '../../../contract/words/refusals.ts';
import { type Entry, itemPath, kindWords, rulePath, sourcePath, termsFor } from '../../../core/messages/index.ts';
import { instantOf } from '../../../core/time/index.ts';
import {
  ChangeMark,
  Loaded,
  Sheet,
  shortTime,
  Time,
  UrgencyBar,
  useViewer,
  Why,
  LessWays,
  byWhat,
  urgencyWords,
} from '../../parts/index.ts';
import { useInboxAct, useMessage } from '../../queries/index.ts';
import { PassOn } from './pass-on.tsx';
import { SinceThen } from './since.tsx';
import { Thread } from './thread.tsx';
import { headlineOf, nextWords } from './message-words.ts';
import { t } from '../../words/inbox.ts';
import { locale, phrases } from '../../words/index.ts';

// A picture is rarely needed, and what draws it is large.
const ReadingLine = lazy(() => import('./reading-line.tsx'));

/** One message whole: what changed, what to do, why its reader heard, who else did. */
export function MessageSheet({ id, onClose, onUnread }: { id: string; onClose: () => void; onUnread: () => void }) {
  const message = useMessage(id);
  const act = useInboxAct();
  return (
    <Sheet label={t('theMessageInFocus')} name={id} onClose={onClose}>
      <Loaded query={message} what={t('theMessage')}>
        {(known) => (
          <Whole message={known} onUnread={onUnread} onAcknowledge={() => act.mutate({ acknowledge: [id] })} />
        )}
      </Loaded>
    </Sheet>
  );
}

function Whole({
  message,
  onUnread,
  onAcknowledge,
}: {
  message: MessagePage;
  onUnread: () => void;
  onAcknowledge: () => void;
}) {
  const { waits } = message;
  const { entries, lead, form, headline, rule, thread } = message.content;
  const [isPassing, setPassing] = useState(false);
  const [only] = entries;
  const unread = (
    <Button variant="outline-primary" onClick={onUnread}>
      {t('unreadAgain3')}
    </Button>
  );
  const stop = () => setPassing(false);
  if (entries.length === 0) {
    return (
      <>
        <p>
          <Time at={message.at} full />
        </p>
        <h2>{headline}</h2>
        <p className="mt-2">{lead}</p>
        <div className="acts">
          {rule && (
            <Link className="btn btn-primary" to={rulePath(rule.id)}>
              {t('lookAtTheRule')}
            </Link>
          )}
          {form === 'trial' && (
            <Link className="btn btn-primary" to="/plan">
              {t('yourDeliveryPlan')}
            </Link>
          )}
          {unread}
        </div>
      </>
    );
  }
  if (form === 'digest' || form === 'summary' || entries.length !== 1 || !only) {
    return (
      <>
        {form === 'digest' || form === 'summary' ? (
          <p className="quiet small">{t('gatheredUntil', { when: message.content.when })}</p>
        ) : (
          <p>
            <Time at={message.at} full />
          </p>
        )}
        <h2>{headline}</h2>
        {lead && <p className="quiet">{lead}</p>}
        <div className="acts">
          {waits && <Button onClick={onAcknowledge}>{t('acknowledge')}</Button>}
          {unread}
        </div>
        <Answer message={message} />
        {entries.map((entry, at) => (
          <section key={entry.item.id}>
            {entry.item.source !== entries[at - 1]?.item.source &&
              new Set(entries.map((one) => one.item.source)).size > 1 && <h3>{entry.item.sourceName}</h3>}
            <EntryInDigest entry={entry} message={message} />
          </section>
        ))}
      </>
    );
  }
  const since = message.since.find((one) => one.item === only.item.id);
  return (
    <>
      <p className="quiet small">
        {form === 'passed'
          ? t('passedOn')
          : t('urgencyAndRules', {
              urgency: urgencyWords(message.urgency),
              rules: only.rules.map((one) => one.name).join(', '),
            })}
      </p>
      <h2>{headlineOf(message)}</h2>
      {form === 'passed' && lead && <p className="mt-2 word">{lead}</p>}
      <p className="mt-2">
        {only.fields.length > 0 && <ChangeMark fields={only.fields} />} {only.notes.join(', ')}{' '}
        {only.steps.length > 0 && <span>{t('by', { actor: only.steps.at(-1)?.actor ?? '' })}</span>}
      </p>
      {form !== 'passed' && lead && <p className="quiet">{lead}</p>}
      <p>
        <Time at={message.at} full />
      </p>
      <Shown entry={only} />
      <div className="acts">
        {waits && <Button onClick={onAcknowledge}>{t('acknowledge')}</Button>}
        <Link className={`btn ${waits ? 'btn-outline-primary' : 'btn-primary'}`} to={itemPath(only.item.id)}>
          {t('open', { shortTitle: shortTitle(only.item.title) })}
        </Link>
        {!isPassing && (
          <Button variant="outline-primary" onClick={() => setPassing(true)}>
            {t('passItOn')}
          </Button>
        )}
        {unread}
      </div>
      {isPassing && <PassOn item={only.item.id} message={message.id} onDone={stop} />}
      <Answer message={message} />
      {thread && <Thread id={thread} />}
      {since && (
        <section>
          <h3>{t('whatHappenedSince')}</h3>
          <SinceThen since={since} entry={only} />
        </section>
      )}
      {message.reading && (
        <section>
          <h3>{t('theReadings')}</h3>
          <Readings reading={message.reading} entry={only} at={message.at} />
        </section>
      )}
      <section>
        <h3>{t('whyYouHeard')}</h3>
        <Why sentences={only.why} />
        {only.rules.length > 0 && (
          <p className="small mt-2">
            {t('rule')} <RuleLinks entry={only} />
          </p>
        )}
      </section>
      <LessOf entry={only} />
      {form !== 'passed' && <WhoElse message={message} />}
      <section>
        <h3>{t('goTo')}</h3>
        <p>
          <Link to={sourcePath(only.item.source)}>{only.item.sourceName}</Link>
          {only.item.folder.length > 0 && <span className="quiet">, {only.item.folder.join(' / ')}</span>}
        </p>
      </section>
    </>
  );
}

function Readings({ reading, entry, at }: { reading: NonNullable<MessagePage['reading']>; entry: Entry; at: string }) {
  const name = entry.fields.find((field) => field.id === reading.field)?.label ?? reading.field;
  // Space is kept for the picture while it loads.
  return (
    <Suspense fallback={<div style={{ height: 156 }} />}>
      <ReadingLine reading={reading} name={name} at={at} />
    </Suspense>
  );
}

/** Who has it, or what follows while nobody does. */
function Answer({ message: { answered, next } }: { message: MessagePage }) {
  const viewer = useViewer();
  const { me, person } = viewer;
  if (answered.length === 0 && next.length === 0) return null;
  return (
    <section>
      <h3>{t('whoHasIt')}</h3>
      {answered.length > 0 ? (
        <p>{answered.map((id) => (id === me.id ? t('you') : person(id))).join(', ')}</p>
      ) : (
        <ul className="plain-list">
          {next.map((step) => (
            <li key={`${step.what} ${step.at}`}>{nextWords(step, viewer)}</li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** The ways to hear less of it, once they are asked for. */
function LessOf({ entry }: { entry: Entry }) {
  const [isOpen, setOpen] = useState(false);
  const [rule] = entry.rules;
  if (!rule) return null;
  return (
    <section>
      <h3>{t('lessOfThis')}</h3>
      {isOpen ? (
        <LessWays rule={rule.id} item={entry.item.id} />
      ) : (
        <Button variant="outline-primary" size="sm" onClick={() => setOpen(true)}>
          {t('showHowAndWhatIt')}
        </Button>
      )}
    </section>
  );
}

/** A title for a button: without what stands in brackets, and cut where it is long. */
const shortTitle = (title: string) => {
  const plain = title.replace(/ \(.*\)$/, '');
  return plain.length > 22 ? `${plain.slice(0, 20).trimEnd()}…` : plain;
};

function Shown({ entry }: { entry: Entry }) {
  return (
    <>
      {entry.show.length > 0 && (
        <dl className="field-list mt-2">
          {entry.show.map(({ label, value }) => (
            <div key={label} style={{ display: 'contents' }}>
              <dt>{label}</dt>
              <dd>{value || <span className="quiet">{t('empty')}</span>}</dd>
            </div>
          ))}
        </dl>
      )}
      {entry.doNow.map((line) => (
        <p key={line} className="mt-2">
          <strong>{t('doNow')}</strong> {line}
        </p>
      ))}
    </>
  );
}

const RuleLinks = ({ entry }: { entry: Entry }) =>
  entry.rules.map((rule, at) => (
    <span key={rule.id}>
      {at > 0 && ', '}
      <Link to={rulePath(rule.id)}>{rule.name}</Link>
    </span>
  ));

const fieldWords = ({ label, before, after }: Entry['fields'][number]): string =>
  `${label} ${before || t('empty')} → ${after || t('empty')}`;

function EntryInDigest({ entry, message }: { entry: Entry; message: MessagePage }) {
  const since = message.since.find((one) => one.item === entry.item.id);
  const [open, setOpen] = useState<'less' | 'pass' | null>(null);
  const [rule] = entry.rules;
  return (
    <div style={{ display: 'grid', gridTemplateColumns: '20px minmax(0, 1fr)' }}>
      <UrgencyBar urgency={entry.urgency} />
      <div>
        <strong>
          <Link to={itemPath(entry.item.id)}>{entry.item.title}</Link>
        </strong>{' '}
        <span className="quiet small">{entry.item.folder.at(-1) ?? entry.item.sourceName}</span>
        <div>
          {entry.isBack ? (
            <strong>{t('backWhereItWas2')}</strong>
          ) : entry.fields.length > 0 ? (
            <ChangeMark fields={entry.fields} />
          ) : (
            <mark>
              {entry.kind === null ? entry.notes.join(', ') : kindWords(entry.kind, termsFor(message.content.language))}
            </mark>
          )}
        </div>
        {entry.kind !== null && entry.notes.map((note) => <div key={note}>{note}</div>)}
        <ul className="plain-list small">
          {entry.steps.map((step) => (
            <li key={step.change}>
              <time dateTime={step.at}>{step.hour}</time>{' '}
              <span className="quiet">
                {step.actor}
                {entry.steps.length > 1 && step.fields.length > 0 && `: ${step.fields.map(fieldWords).join(', ')}`}
              </span>
            </li>
          ))}
        </ul>
        <Shown entry={entry} />
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
        {open === null && (
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
        )}
        {open === 'less' && rule && <LessWays rule={rule.id} item={entry.item.id} />}
        {open === 'pass' && <PassOn item={entry.item.id} message={message.id} onDone={() => setOpen(null)} />}
      </div>
    </div>
  );
}

function WhoElse({ message }: { message: MessagePage }) {
  const { me, person } = useViewer();
  if (message.others.length + message.withheld.length === 0)
    return (
      <section>
        <h3>{t('whoElse')}</h3>
        <p className="quiet">{t('nobodyThisReachedYouAlone')}</p>
      </section>
    );
  const hour = (at: string) => shortTime(instantOf(at), instantOf(me.now), me);
  return (
    <section>
      <h3>{t('whoElse')}</h3>
      <ul className="plain-list">
        {message.others.map((other) => (
          <li key={other.person}>
            {person(other.person)},{' '}
            {other.readAt ? (
              t('read2', { hour: hour(other.readAt) })
            ) : (
              <span className="quiet">
                {t('told', {
                  ways: phrases().and([...new Set(other.channels.map((one) => byWhat(one.channel)))]),
                })}
              </span>
            )}
          </li>
        ))}
        {message.withheld.map(({ person: id, reason }) => (
          <li key={id}>
            {person(id)},{' '}
            <span className={isFault(reason) ? 'fault' : 'quiet'}>
              {t('withheld', { words: reasonWords(reason, locale()) })}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
