import { Button, Form } from 'react-bootstrap';
import { Link, useSearchParams } from 'react-router';
import type { OutboxRow } from '../../../contract/wire/index.ts';
import { CHANNEL_WORDS, REASON_WORDS } from '../../../contract/words.ts';
import { itemPath, rulePath } from '../../../core/messages/index.ts';
import { CHANNELS } from '../../../core/people/index.ts';
import { instantOf } from '../../../core/time/index.ts';
import { dayWords, Empty, Hour, Loaded, shortTime, useTyped, useViewer } from '../../parts/index.ts';
import { type OutboxFilter, problemOf, useAside, useOutbox, useSendAgain, useTryAgain } from '../../queries/index.ts';

const FATES = [
  ['', 'Everything'],
  ['delivered', 'Delivered'],
  ['open', 'Under way'],
  ['withheld', 'Withheld'],
  ['failed', 'Failed'],
] as const;

/** Every message with its fate, and everybody who did not hear, with the reason. */
export function OutboxPage() {
  const [search, setSearch] = useSearchParams();
  const filter: OutboxFilter = {
    fate: FATES.find(([value]) => value === search.get('fate'))?.[0] ?? '',
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
        <h1>Outbox</h1>
        <span className="quiet">who was told, by what, and who was not</span>
      </div>
      <div className="filters">
        <ul className="tabs" aria-label="Fate">
          {FATES.map(([value, words]) => (
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
          aria-label="By what"
          value={filter.channel}
          onChange={(event) => put({ channel: CHANNELS.find((channel) => channel === event.target.value) ?? '' })}
        >
          <option value="">by any way</option>
          {Object.entries(CHANNEL_WORDS).map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </Form.Select>
        <Form.Control
          type="search"
          placeholder="Narrow by person or subject"
          aria-label="Narrow by person or subject"
          value={filter.text}
          onChange={(event) => put({ text: event.target.value })}
        />
      </div>
      <AsideList />
      <Loaded query={outbox} what="the Outbox" rows={12}>
        {(rows) =>
          rows.length === 0 ? (
            <Empty title={isNarrow ? 'Nothing like that' : 'Nothing has gone out yet'}>
              <p>
                {isNarrow
                  ? 'No message or withholding fits all of these.'
                  : 'Once a live rule catches a change, everybody it reaches stands here: told, or withheld with the reason.'}
              </p>
            </Empty>
          ) : (
            <Days rows={rows} />
          )
        }
      </Loaded>
    </main>
  );
}

const ASIDE_WORDS = { change: 'A change', act: 'What somebody did', timer: 'Something that fell due' };

/** What could not be decided, for stewards: all else goes on without it. */
function AsideList() {
  const { me } = useViewer();
  const aside = useAside(me.role === 'steward');
  const again = useTryAgain();
  if (!aside.data || aside.data.length === 0) return null;
  return (
    <section className="problem stands-aside" aria-labelledby="aside">
      <h2 id="aside" className="h6 mb-2">
        Could not be decided, and stands aside
      </h2>
      <ul className="plain-list">
        {aside.data.map(({ id, kind, at, item }) => (
          <li key={id}>
            {ASIDE_WORDS[kind]}
            {item && (
              <>
                {' '}
                of <Link to={itemPath(item.id)}>{item.title}</Link>
              </>
            )}
            , {shortTime(instantOf(at), instantOf(me.now), me)}{' '}
            <Button
              variant="link"
              size="sm"
              className="p-0"
              disabled={again.isPending}
              onClick={() => again.mutate(id)}
            >
              Try again
            </Button>
          </li>
        ))}
      </ul>
      {again.isError && (
        <p role="alert" className="fault mb-0">
          {problemOf(again.error).title}
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
      {rows.length >= 300 && <p className="quiet mt-3">The newest 300 are shown. Narrow them to find others.</p>}
    </>
  );
}

function Row({ row }: { row: OutboxRow }) {
  const { person } = useViewer();
  const [item] = row.items;
  return (
    <tr>
      <td>
        <Hour at={row.at} />
      </td>
      <td className="who">
        <strong style={{ fontWeight: 600 }}>{person(row.person)}</strong>
        {row.channel && (
          <div className="small quiet">
            {CHANNEL_WORDS[row.channel]}
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
        {item && row.items.length === 1 ? <Link to={itemPath(item)}>{row.subject}</Link> : row.subject}
        <div className="small quiet">
          {FORM_WORDS[row.form ?? '']}
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
      </td>
    </tr>
  );
}

function FateWords({ row }: { row: OutboxRow }) {
  const { me } = useViewer();
  const hour = (at: string | null) => (at ? shortTime(instantOf(at), instantOf(me.now), me) : '');
  switch (row.fate) {
    case 'delivered':
      return (
        <span>
          <span className="good">delivered</span>
          {row.readAt ? (
            <span>, read {hour(row.readAt)}</span>
          ) : (
            row.channel === 'inApp' && <span className="quiet">, unread</span>
          )}
          {row.reply && (
            <span className="small quiet" style={{ display: 'block' }}>
              {row.reply}
            </span>
          )}
        </span>
      );
    case 'withheld': {
      const reason = row.reason ? REASON_WORDS[row.reason] : { words: 'withheld', isFault: true };
      return (
        <span>
          withheld: <strong className={reason.isFault ? 'fault' : ''}>{reason.words}</strong>
        </span>
      );
    }
    case 'failed':
      return (
        <span>
          <strong className="fault">failed for good</strong>
          <span className="small quiet" style={{ display: 'block' }}>
            {row.reply}
          </span>
          <SendAgain row={row} />
        </span>
      );
    case 'gathering':
      return <span className="quiet">gathers for the digest, {hour(row.retryAt)}</span>;
    case 'waiting':
    case 'sending':
      return (
        <span>
          {row.tries === 0 || !row.retryAt ? (
            'on its way'
          ) : (
            <>
              tried {row.tries} time{row.tries === 1 ? '' : 's'}, again {hour(row.retryAt)}
            </>
          )}
          {row.reply && (
            <span className="small quiet" style={{ display: 'block' }}>
              {row.reply}
            </span>
          )}
          {row.retryAt && <SendAgain row={row} />}
        </span>
      );
    default:
      return row.fate satisfies never;
  }
}

/** Tries at once what failed, or would be tried later. */
function SendAgain({ row }: { row: OutboxRow }) {
  const { person } = useViewer();
  const again = useSendAgain();
  return (
    <span style={{ display: 'block' }}>
      <Button
        variant="link"
        size="sm"
        className="p-0"
        disabled={again.isPending}
        aria-label={`Send again: ${row.subject}, to ${person(row.person)}`}
        onClick={() => again.mutate(row.id)}
      >
        Send again
      </Button>
      {again.isError && (
        <span role="alert" className="small fault" style={{ display: 'block' }}>
          {problemOf(again.error).detail ?? problemOf(again.error).title}
        </span>
      )}
    </span>
  );
}

/** What a message is that is not of one alert. */
const FORM_WORDS: Record<string, string> = {
  digest: 'digest',
  trial: 'to try a channel',
  confirm: 'asks to be confirmed',
  passed: 'passed on',
};
