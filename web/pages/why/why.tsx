import type { ReactNode } from 'react';
import { Form } from 'react-bootstrap';
import { Link, useParams, useSearchParams } from 'react-router';
import type { Verdict, WhyPage as Page } from '../../../contract/wire/index.ts';
import { itemPath, rulePath } from '../../../core/messages/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { byWhat, Loaded, Time, useViewer, WhatHappened } from '../../parts/index.ts';
import { useWhy } from '../../queries/index.ts';
import { t } from '../../words/why.ts';
import { RuleLine } from '../rules/rule/rule-line.tsx';

/** Why somebody heard of a change, or did not: rule by rule, in whole sentences. */
export function WhyPage() {
  const { source = '', change = '' } = useParams();
  const [search, setSearch] = useSearchParams();
  const { me, person: nameOf, directory } = useViewer();
  const person = search.get('person') ?? me.id;
  const why = useWhy(source, change, person);
  const isMe = person === me.id;
  const others = [
    ...directory.people.map(({ id, name }) => ({ id, name })),
    ...directory.contacts.map(({ id, name }) => ({ id, name })),
  ];
  return (
    <main className="page why-page">
      <div className="page-head">
        <h1>{isMe ? t('titleMine') : t('title', { person: nameOf(person) })}</h1>
        {me.role !== 'member' && (
          <Form.Select
            aria-label={t('whose')}
            value={person}
            onChange={(event) => setSearch({ person: event.target.value }, { replace: true })}
          >
            {others.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </Form.Select>
        )}
      </div>
      <Loaded query={why} what={t('thisChange')} rows={5}>
        {(page) => <Verdicts page={page} />}
      </Loaded>
    </main>
  );
}

function Verdicts({ page }: { page: Page }) {
  const viewer = useViewer();
  const { source: sourceOf, person } = viewer;
  const about = aboutOf(page, viewer);
  const { sample, verdicts, others } = page;
  const source = sourceOf(sample.source);
  if (!source) return null;
  const like = `/rules/new?source=${encodeURIComponent(sample.source)}&like=${encodeURIComponent(sample.row.id)}`;
  return (
    <>
      <p className="why-change">
        <Link className="title" to={itemPath(sample.item)}>
          {sample.title}
        </Link>{' '}
        <WhatHappened row={sample.row} source={source} most={6} />{' '}
        <span className="quiet">
          {t('by', { person: person(sample.row.actor) })}, <Time at={sample.row.at} full />
        </span>
      </p>
      {verdicts.length === 0 && (
        <p>
          {t('noRuleLooks', about)} <Link to={like}>{t('makeARule')}</Link>
        </p>
      )}
      <ol className="plain-list">
        {verdicts.map((verdict) => (
          <OneRule key={verdict.rule.id} verdict={verdict} page={page} source={source} />
        ))}
      </ol>
      {others > 0 && <p className="quiet">{t('others', { count: others, source: source.name })}</p>}
    </>
  );
}

type Viewing = ReturnType<typeof useViewer>;
const aboutOf = ({ person: id }: Page, { me, person }: Viewing) => ({
  mine: id === me.id ? 'yes' : 'no',
  person: person(id),
});

function OneRule({ verdict, page, source }: { verdict: Verdict; page: Page; source: Source }) {
  const { document, messages, explanation } = verdict;
  return (
    <li className="why-rule">
      <p>
        <Sentence verdict={verdict} page={page} />
      </p>
      {messages.length > 0 && (
        <ul>
          {messages.map((message) => (
            <li key={message.id}>
              {t.rich('messageWent', {
                way: byWhat(message.channel),
                time: <Time at={message.at} />,
                fate: <span className={message.fate === 'failed' ? 'fault' : ''}>{t(`fate.${message.fate}`)}</span>,
              })}
              {message.readAt && <>, {t.rich('wasRead', { time: <Time at={message.readAt} /> })}</>}
              {'. '}
              <Link to={`/outbox/${message.id}`}>{t('seeIt')}</Link>
            </li>
          ))}
        </ul>
      )}
      {explanation && (
        <details open={verdict.verdict === 'notCaught'}>
          <summary>{t('howItJudged')}</summary>
          <RuleLine rule={document} source={source} explanation={explanation} sample={page.sample} />
        </details>
      )}
    </li>
  );
}

/** What a rule came to, as one sentence. */
function Sentence({ verdict: { rule, verdict, reason, until, explanation }, page }: { verdict: Verdict; page: Page }) {
  const about = aboutOf(page, useViewer());
  const name: ReactNode = <Link to={rulePath(rule.id)}>{rule.name}</Link>;
  switch (verdict) {
    case 'told':
      return t.rich('told', { rule: name, ...about });
    case 'gathers':
      return t.rich('gathers', { rule: name, ...about, time: until ? <Time at={until} /> : '' });
    case 'withheld':
      return t.rich('withheld', { rule: name, ...about, reason: reason ? t(`reason.${reason}`) : '' });
    case 'notReached':
      return t.rich('notReached', { rule: name, ...about });
    case 'notCaught':
      return t.rich(`notCaught.${stoppedAt(explanation)}`, { rule: name, ...about });
    case 'undone':
    case 'skipped':
    case 'waits':
    case 'paused':
      return t.rich(verdict, { rule: name });
    default:
      return verdict satisfies never;
  }
}

/** The first part of a rule that a change did not pass. */
function stoppedAt(explanation: Verdict['explanation']): 'scope' | 'kinds' | 'by' | 'if' | 'during' {
  if (explanation && !explanation.scope.held) return 'scope';
  if (explanation && !explanation.kinds.held) return 'kinds';
  if (explanation && !explanation.by.held) return 'by';
  return explanation && !explanation.during.held && explanation.if?.held !== false ? 'during' : 'if';
}
