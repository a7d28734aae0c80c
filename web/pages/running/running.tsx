import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { RunningPage as Page } from '../../../contract/wire/index.ts';
import { durationWords } from '../../../core/messages/index.ts';
import { instantOf } from '../../../core/time/index.ts';
import { Loaded, ProblemNote, StewardsOnly, Time, useNotice, useViewer } from '../../parts/index.ts';
import { useResumeAddress, useRunning } from '../../queries/index.ts';
import { bytes, phrases } from '../../words/index.ts';
import { t } from '../../words/running.ts';
import { Keeps } from './keeps.tsx';

/** How Ojo runs, for stewards: what waits, what fails, what grows. */
export const RunningPage = () => (
  <StewardsOnly title={t('forStewards')}>
    <Running />
  </StewardsOnly>
);

function Running() {
  const running = useRunning();
  return (
    <main className="page running">
      <div className="page-head">
        <h1>{t('title')}</h1>
        <span className="quiet">{t('about')}</span>
      </div>
      <Loaded query={running} what={t('title')} rows={6}>
        {(page) => (
          <>
            <Waits page={page} />
            <Fails page={page} />
            <Keeps page={page} />
            <Grows page={page} />
          </>
        )}
      </Loaded>
    </main>
  );
}

/** For how long the oldest of something has waited, in whole seconds, minutes or hours. */
function waited(oldest: string, at: string): string {
  const seconds = Math.max(0, Math.round((instantOf(at) - instantOf(oldest)) / 1000));
  if (seconds < 90) return durationWords(`PT${seconds}S`, phrases());
  const minutes = Math.round(seconds / 60);
  return durationWords(minutes < 120 ? `PT${minutes}M` : `PT${Math.round(minutes / 60)}H`, phrases());
}

const Waits = ({ page }: { page: Page }) => (
  <section aria-live="polite">
    <h2>{t('whatWaits')}</h2>
    {page.waiting.length === 0 ? (
      <p className="live">{t('nothingWaits')}</p>
    ) : (
      <ul className="plain-list">
        {page.waiting.map(({ what, count, oldest }) => (
          <li key={what}>
            <strong className="num">{count}</strong> {t(`waits.${what}`, { count })}
            {oldest && <span className="quiet">{t('theOldestFor', { time: waited(oldest, page.at) })}</span>}
          </li>
        ))}
      </ul>
    )}
  </section>
);

function Fails({ page: { fates, failing, cameBack, silenced } }: { page: Page }) {
  const failed = fates.filter(({ fate }) => fate === 'failed');
  const isSound = failed.length + failing.machines.length + failing.troubles + cameBack.length === 0;
  return (
    <section>
      <h2>{t('whatFails')}</h2>
      {isSound && <p className="live">{t('nothingFails')}</p>}
      <ul className="plain-list">
        {failed.map(({ channel, count }) => (
          <li key={channel} className="fault">
            {t(`failed.${channel}`, { count })} <Link to="/outbox">{t('inTheOutbox')}</Link>
          </li>
        ))}
        {failing.machines.map((name) => (
          <li key={name} className="fault">
            {t('machineFails', { name })} <Link to="/people?see=machines">{t('toMachines')}</Link>
          </li>
        ))}
        {cameBack.map((one) => (
          <CameBack key={one.address} one={one} />
        ))}
        {silenced.map(({ number, whose }) => (
          <li key={number} className="quiet">
            {t('answeredStop', { whose, number })}
          </li>
        ))}
        {failing.troubles > 0 && (
          <li className="fault">
            {t('troubles', { count: failing.troubles })} <Link to="/rules">{t('toRules')}</Link>
          </li>
        )}
      </ul>
      <p className="quiet">
        {t('inADay', {
          delivered: fates.filter(({ fate }) => fate === 'delivered').reduce((sum, { count }) => sum + count, 0),
          withheld: fates.filter(({ fate }) => fate === 'withheld').reduce((sum, { count }) => sum + count, 0),
        })}
      </p>
    </section>
  );
}

/** An address that mail came back from, which goes on by one press. */
function CameBack({ one: { address, whose, since, reply } }: { one: Page['cameBack'][number] }) {
  const resume = useResumeAddress();
  const notice = useNotice();
  return (
    <li>
      <span className="fault">
        {t.rich('cameBack', { address: <span className="wrap-anywhere">{address}</span>, time: <Time at={since} /> })}
      </span>{' '}
      {whose && <span>{t('whose', { whose })} </span>}
      <span className="quiet wrap-anywhere">{t('saying', { reply })}</span>{' '}
      <Button
        variant="link"
        size="sm"
        className="p-0"
        disabled={resume.isPending}
        aria-label={t('tryAddressAgain', { address })}
        onClick={() => resume.mutate(address, { onSuccess: () => notice({ words: t('goesAgain', { address }) }) })}
      >
        {t('tryAgain')}
      </Button>
      {resume.error && <ProblemNote error={resume.error} />}
    </li>
  );
}

function Grows({ page: { tables } }: { page: Page }) {
  const { me } = useViewer();
  const most = Math.max(1, ...tables.map((table) => table.bytes));
  return (
    <section>
      <h2>{t('whatGrows')}</h2>
      <table className="people-table">
        <thead>
          <tr>
            <th scope="col">{t('table')}</th>
            <th scope="col" className="num">
              {t('rowsAbout')}
            </th>
            <th scope="col" className="num">
              {t('room')}
            </th>
            <th scope="col">
              <span className="visually-hidden">{t('room')}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {tables.map(({ name, rows, bytes: size }) => (
            <tr key={name}>
              <td className="mono">{name}</td>
              <td className="num">{new Intl.NumberFormat(me.locale).format(rows)}</td>
              <td className="num">{bytes(size)}</td>
              <td aria-hidden="true">
                <meter min={0} max={most} value={size} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
