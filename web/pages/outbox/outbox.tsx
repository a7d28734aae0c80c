import { Button, Form } from 'react-bootstrap';
import { Link, useSearchParams } from 'react-router';
import type { OutboxRow } from '../../../contract/wire/index.ts';
import { itemPath, rulePath } from '../../../core/messages/index.ts';
import { CHANNELS } from '../../../core/people/index.ts';
import { instantOf } from '../../../core/time/index.ts';
import {
  dayWords,
  Empty,
  Hour,
  Loaded,
  shortTime,
  useTyped,
  useViewer,
  WhyLink,
  byWhat,
  refusalWords,
} from '../../parts/index.ts';
import { type OutboxFilter, useAside, useOutbox, useTryAgain } from '../../queries/index.ts';
import { t } from '../../words/outbox.ts';
import { FateWords } from './fate.tsx';

const fates = () =>
  [
    ['', t('everything')],
    ['delivered', t('delivered')],
    ['open', t('underWay')],
    ['withheld', t('withheld')],
    ['failed', t('failed')],
  ] as const;

/** Every message with its fate, and everybody who did not hear, with the reason. */
export function OutboxPage() {
  const [search, setSearch] = useSearchParams();
  const filter: OutboxFilter = {
    fate: fates().find(([value]) => value === search.get('fate'))?.[0] ?? '',
    channel: CHANNELS.find((value) => value === search.get('channel')) ?? '',
    text: search.get('text') ?? '',
  };
  const outbox = useOutbox({ ...filter, text: useTyped(filter.text) });
  const put = (change: Partial<typeof filter>) =>
    setSearch(Object.fromEntries(Object.entries({ ...filter, ...change }).filter(([, value]) => value !== '')), {
      replace: true,
    });
  const isNarrow = Object.values(filter).some((value) => value !== '');
  return (
    <main className="page">
      <div className="page-head">
        <h1>{t('outbox')}</h1>
        <span className="quiet">{t('whoWasToldByWhat')}</span>
      </div>
      <div className="filters">
        <ul className="tabs" aria-label={t('fate')}>
          {fates().map(([value, words]) => (
            <li key={value}>
              <button
                type="button"
                aria-pressed={filter.fate === value}
                className={filter.fate === value ? 'active' : ''}
                onClick={() => put({ fate: value })}
              >
                {words}
              </button>
            </li>
          ))}
        </ul>
        <Form.Select
          aria-label={t('byWhat')}
          value={filter.channel}
          onChange={(event) => put({ channel: CHANNELS.find((channel) => channel === event.target.value) ?? '' })}
        >
          <option value="">{t('byAnyWay')}</option>
          {CHANNELS.map((channel) => (
            <option key={channel} value={channel}>
              {byWhat(channel)}
            </option>
          ))}
        </Form.Select>
        <Form.Control
          type="search"
          placeholder={t('narrowByPersonOrSubject')}
          aria-label={t('narrowByPersonOrSubject')}
          value={filter.text}
          onChange={(event) => put({ text: event.target.value })}
        />
      </div>
      <AsideList />
      <Loaded query={outbox} what={t('theOutbox')} rows={12}>
        {(rows) =>
          rows.length === 0 ? (
            <Empty title={isNarrow ? t('nothingLikeThat') : t('nothingHasGoneOutYet')}>
              <p>{isNarrow ? t('noMessageOrWithholdingFits') : t('onceALiveRuleCatches')}</p>
            </Empty>
          ) : (
            <Days rows={rows} />
          )
        }
      </Loaded>
    </main>
  );
}

const asideWords = () => ({ change: t('aChange'), act: t('whatSomebodyDid'), timer: t('somethingThatFellDue') });

/** What could not be decided, for stewards: all else goes on without it. */
function AsideList() {
  const { me } = useViewer();
  const aside = useAside(me.role === 'steward');
  const again = useTryAgain();
  if (!aside.data || aside.data.length === 0) return null;
  return (
    <section className="problem stands-aside" aria-labelledby="aside">
      <h2 id="aside" className="mb-2">
        {t('couldNotBeDecidedAnd')}
      </h2>
      <ul className="plain-list">
        {aside.data.map(({ id, kind, at, item }) => (
          <li key={id}>
            {asideWords()[kind]}
            {item && <> {t.rich('of', { link: <Link to={itemPath(item.id)}>{item.title}</Link> })}</>},{' '}
            {shortTime(instantOf(at), instantOf(me.now), me)}{' '}
            <Button
              variant="link"
              size="sm"
              className="p-0"
              disabled={again.isPending}
              onClick={() => again.mutate(id)}
            >
              {t('tryAgain')}
            </Button>
          </li>
        ))}
      </ul>
      {again.isError && (
        <p role="alert" className="fault mb-0">
          {refusalWords(again.error)}
        </p>
      )}
    </section>
  );
}

function Days({ rows }: { rows: OutboxRow[] }) {
  const { me } = useViewer();
  const days = new Map<string, OutboxRow[]>();
  for (const row of rows) {
    const day = dayWords(instantOf(row.at), instantOf(me.now), me);
    days.set(day, [...(days.get(day) ?? []), row]);
  }
  return (
    <>
      {[...days].map(([day, own]) => (
        <section key={day}>
          <h2 className="day">{day}</h2>
          <table className="outbox">
            <tbody>
              {own.map((row) => (
                <Row key={row.id} row={row} />
              ))}
            </tbody>
          </table>
        </section>
      ))}
      {rows.length >= 300 && <p className="quiet mt-3">{t('theNewest300AreShown')}</p>}
    </>
  );
}

function Row({ row }: { row: OutboxRow }) {
  const { person } = useViewer();
  return (
    <tr>
      <td>
        <Hour at={row.at} />
      </td>
      <td className="who">
        <strong style={{ fontWeight: 600 }}>{person(row.person)}</strong>
        {row.channel && (
          <div className="small quiet">
            {byWhat(row.channel)}
            {row.channel !== 'inApp' && row.address && (
              <>
                {' '}
                <span className="wrap-anywhere">{row.address}</span>
              </>
            )}
          </div>
        )}
      </td>
      <td>
        <Subject row={row} />
        <div className="small quiet">
          {formWords()[row.form ?? '']}
          {row.form === 'digest' && ', '}
          {row.rules.map((rule, at) => (
            <span key={rule.id}>
              {at > 0 && ', '}
              <Link to={rulePath(rule.id)} className="quiet">
                {rule.name}
              </Link>
            </span>
          ))}
        </div>
      </td>
      <td className="fate">
        <FateWords row={row} />
        {row.fate === 'withheld' && row.change && (
          <div>
            <WhyLink source={row.change.source} change={row.change.id} person={row.person} words={t('whyNot')} />
          </div>
        )}
      </td>
    </tr>
  );
}

/** A message leads to all that became of it, what was withheld to its item. */
function Subject({ row }: { row: OutboxRow }) {
  const [item] = row.items;
  if (row.fate !== 'withheld' && row.fate !== 'gathering') return <Link to={`/outbox/${row.id}`}>{row.subject}</Link>;
  return item && row.items.length === 1 ? <Link to={itemPath(item)}>{row.subject}</Link> : row.subject;
}

/** What a message is that is not of one alert. */
const formWords = (): Record<string, string> => ({
  digest: t('digest'),
  trial: t('toTryAChannel'),
  confirm: t('asksToBeConfirmed'),
  passed: t('passedOn'),
});
