import { lazy, Suspense, useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { MessagePage } from '../../../contract/wire/index.ts';
import { isFault, reasonWords } from '../../../contract/words/refusals.ts';
import { type Entry, itemPath, rulePath, sourcePath } from '../../../core/messages/index.ts';
import { instantOf } from '../../../core/time/index.ts';
import {
  ChangeMark,
  NowStands,
  OwnWords,
  ReportTable,
  Loaded,
  Sheet,
  shortTime,
  Time,
  useViewer,
  Why,
  LessWays,
  byWhat,
  urgencyWords,
  ShownFields,
} from '../../parts/index.ts';
import { useInboxAct, useMessage } from '../../queries/index.ts';
import { PassOn } from './pass-on.tsx';
import { SinceThen } from './since.tsx';
import { Thread } from './thread.tsx';
import { headlineOf, nextWords } from './message-words.ts';
import { t } from '../../words/inbox.ts';
import { locale, phrases } from '../../words/index.ts';
import { ComesAgain, TellAgain } from './again.tsx';
import { EntryInDigest } from './entry.tsx';

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

interface WholeProps {
  message: MessagePage;
  onUnread: () => void;
  onAcknowledge: () => void;
}

function Whole(props: WholeProps) {
  const { entries, form, report } = props.message.content;
  if (report) return <Reported {...props} />;
  const [only, ...others] = entries;
  if (!only) return <Bare {...props} />;
  if (form === 'digest' || form === 'summary' || others.length > 0) return <Gathered {...props} />;
  return <Single {...props} entry={only} />;
}

const UnreadAgain = ({ onUnread }: Pick<WholeProps, 'onUnread'>) => (
  <Button variant="outline-primary" onClick={onUnread}>
    {t('unreadAgain3')}
  </Button>
);

const At = ({ at }: { at: string }) => (
  <p>
    <Time at={at} full />
  </p>
);

/** One that is about no item: a trial, a word about a rule. */
function Bare({ message: { at, content }, onUnread }: WholeProps) {
  const { headline, lead, rule, form } = content;
  return (
    <>
      <At at={at} />
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
        <UnreadAgain onUnread={onUnread} />
      </div>
    </>
  );
}

/** A report: its table, and what of it is new. */
function Reported({ message, onUnread }: WholeProps) {
  const { report, lead, own } = message.content;
  const [isAsking, setAsking] = useState(false);
  if (!report) return null;
  return (
    <>
      <At at={message.at} />
      <h2>{headlineOf(message)}</h2>
      {lead && <p className="quiet">{lead}</p>}
      {message.again && <ComesAgain at={message.again} />}
      <div className="acts">
        <Link className="btn btn-primary" to={rulePath(report.rule.id)}>
          {t('lookAtTheRule')}
        </Link>
        <AgainButton isOpen={isAsking} onOpen={() => setAsking(true)} />
        <UnreadAgain onUnread={onUnread} />
      </div>
      {isAsking && <TellAgain message={message.id} onDone={() => setAsking(false)} />}
      {own?.body && (
        <div className="own-words">
          <OwnWords text={own.body} />
        </div>
      )}
      <ReportTable table={report} />
    </>
  );
}

const AgainButton = ({ isOpen, onOpen }: { isOpen: boolean; onOpen: () => void }) =>
  isOpen ? null : (
    <Button variant="outline-primary" onClick={onOpen}>
      {t('tellMeAgain')}
    </Button>
  );

/** One of several items: a digest, a summary, a batch. */
function Gathered({ message, onUnread, onAcknowledge }: WholeProps) {
  const { entries, headline, lead, form, when } = message.content;
  const hasSources = new Set(entries.map((one) => one.item.source)).size > 1;
  const [isAsking, setAsking] = useState(false);
  return (
    <>
      {form === 'digest' || form === 'summary' ? (
        <p className="quiet small">{t('gatheredUntil', { when })}</p>
      ) : (
        <At at={message.at} />
      )}
      <h2>{headline}</h2>
      {lead && <p className="quiet">{lead}</p>}
      <div className="acts">
        {message.waits && <Button onClick={onAcknowledge}>{t('acknowledge')}</Button>}
        <AgainButton isOpen={isAsking} onOpen={() => setAsking(true)} />
        <UnreadAgain onUnread={onUnread} />
      </div>
      {isAsking && <TellAgain message={message.id} onDone={() => setAsking(false)} />}
      {message.again && <ComesAgain at={message.again} />}
      <Answer message={message} />
      {entries.map((entry, at) => (
        <section key={entry.item.id}>
          {hasSources && entry.item.source !== entries[at - 1]?.item.source && <h3>{entry.item.sourceName}</h3>}
          <EntryInDigest entry={entry} message={message} />
        </section>
      ))}
    </>
  );
}

/** One alert about one item. */
function Single({ message, entry, onUnread, onAcknowledge }: WholeProps & { entry: Entry }) {
  const { form, lead, thread } = message.content;
  const isPassed = form === 'passed';
  const since = message.since.find((one) => one.item === entry.item.id);
  return (
    <>
      <p className="quiet small">{isPassed ? t('passedOn') : aboutWords(message, entry)}</p>
      <h2>{headlineOf(message)}</h2>
      {isPassed && lead && <p className="mt-2 word">{lead}</p>}
      <p className="mt-2">
        {entry.fields.length > 0 && <ChangeMark fields={entry.fields} />} {entry.notes.join(', ')}{' '}
        {entry.steps.length > 0 && <span>{t('by', { actor: entry.steps.at(-1)?.actor ?? '' })}</span>}
      </p>
      {message.content.own?.body && (
        <div className="own-words">
          <OwnWords text={message.content.own.body} />
        </div>
      )}
      <NowStands entry={entry} />
      {!isPassed && lead && <p className="quiet">{lead}</p>}
      <At at={message.at} />
      <ShownFields entry={entry} />
      <SingleActs message={message} entry={entry} onUnread={onUnread} onAcknowledge={onAcknowledge} />
      <Answer message={message} />
      {thread && <Thread id={thread} />}
      {since && (
        <section>
          <h3>{t('whatHappenedSince')}</h3>
          <SinceThen since={since} entry={entry} />
        </section>
      )}
      {message.reading && (
        <section>
          <h3>{t('theReadings')}</h3>
          <Readings reading={message.reading} entry={entry} at={message.at} />
        </section>
      )}
      <WhyHeard entry={entry} />
      <LessOf entry={entry} />
      {!isPassed && <WhoElse message={message} />}
      <section>
        <h3>{t('goTo')}</h3>
        <p>
          <Link to={sourcePath(entry.item.source)}>{entry.item.sourceName}</Link>
          {entry.item.folder.length > 0 && <span className="quiet">, {entry.item.folder.join(' / ')}</span>}
        </p>
      </section>
    </>
  );
}

const ruleNames = ({ rules }: Entry): string => rules.map((one) => one.name).join(', ');

const aboutWords = ({ urgency }: MessagePage, entry: Entry): string =>
  t('urgencyAndRules', { urgency: urgencyWords(urgency), rules: ruleNames(entry) });

function SingleActs({ message, entry, onUnread, onAcknowledge }: WholeProps & { entry: Entry }) {
  const [isPassing, setPassing] = useState(false);
  const [isAsking, setAsking] = useState(false);
  const { waits } = message;
  return (
    <>
      <div className="acts">
        {waits && <Button onClick={onAcknowledge}>{t('acknowledge')}</Button>}
        <Link className={`btn ${waits ? 'btn-outline-primary' : 'btn-primary'}`} to={itemPath(entry.item.id)}>
          {t('open', { shortTitle: shortTitle(entry.item.title) })}
        </Link>
        {!isPassing && (
          <Button variant="outline-primary" onClick={() => setPassing(true)}>
            {t('passItOn')}
          </Button>
        )}
        {entry.rules.length > 0 && <AgainButton isOpen={isAsking} onOpen={() => setAsking(true)} />}
        <UnreadAgain onUnread={onUnread} />
      </div>
      {isAsking && <TellAgain message={message.id} onDone={() => setAsking(false)} />}
      {message.again && <ComesAgain at={message.again} />}
      {isPassing && <PassOn item={entry.item.id} message={message.id} onDone={() => setPassing(false)} />}
    </>
  );
}

const WhyHeard = ({ entry }: { entry: Entry }) => (
  <section>
    <h3>{t('whyYouHeard')}</h3>
    <Why sentences={entry.why} />
    {entry.rules.length > 0 && (
      <p className="small mt-2">
        {t('rule')} <RuleLinks entry={entry} />
      </p>
    )}
  </section>
);

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

const RuleLinks = ({ entry }: { entry: Entry }) =>
  entry.rules.map((rule, at) => (
    <span key={rule.id}>
      {at > 0 && ', '}
      <Link to={rulePath(rule.id)}>{rule.name}</Link>
    </span>
  ));

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
