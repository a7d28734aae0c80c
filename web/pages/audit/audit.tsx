import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { askedOfSchema, AUDITED_KINDS, type AuditedKind, type AuditRow } from '../../../contract/wire/index.ts';
import { Loaded, Time, useViewer, StewardsOnly } from '../../parts/index.ts';
import { useAudit, useMore } from '../../queries/index.ts';
import { t } from '../../words/audit.ts';

/** What people did in Ojo itself: who, what, when, from which address; for stewards. */
export const AuditPage = () => (
  <StewardsOnly title={t('forStewards')}>
    <Entries />
  </StewardsOnly>
);

function Entries() {
  const [kind, setKind] = useState<AuditedKind | null>(null);
  const audit = useAudit(kind);
  const onMore = useMore(audit);
  return (
    <main className="page">
      <div className="page-head">
        <h1>{t('title')}</h1>
        <span className="quiet">{t('about')}</span>
      </div>
      <Form.Select
        className="audit-kind"
        aria-label={t('whichSort')}
        value={kind ?? ''}
        onChange={(event) => setKind(AUDITED_KINDS.find((one) => one === event.target.value) ?? null)}
      >
        <option value="">{t('everySort')}</option>
        {AUDITED_KINDS.map((one) => (
          <option key={one} value={one}>
            {t(`kind.${one}`)}
          </option>
        ))}
      </Form.Select>
      <Loaded query={audit} what={t('title')} rows={8}>
        {({ pages }) => {
          const entries = pages.flatMap((page) => page.entries);
          if (entries.length === 0) return <p className="quiet mt-3">{t('nothingYet')}</p>;
          return (
            <>
              <table className="audit-table">
                <thead>
                  <tr>
                    <th scope="col">{t('when')}</th>
                    <th scope="col">{t('who')}</th>
                    <th scope="col">{t('what')}</th>
                    <th scope="col">{t('fromWhere')}</th>
                  </tr>
                </thead>
                <tbody>
                  {entries.map((entry) => (
                    <Entry key={entry.seq} entry={entry} />
                  ))}
                </tbody>
              </table>
              {audit.hasNextPage && (
                <Button className="mt-3" variant="outline-primary" disabled={audit.isFetchingNextPage} onClick={onMore}>
                  {t('older')}
                </Button>
              )}
            </>
          );
        }}
      </Loaded>
    </main>
  );
}

function Entry({ entry: { at, kind, actor, origin, about } }: { entry: AuditRow }) {
  const { person } = useViewer();
  return (
    <tr>
      <td className="num">
        <Time at={at} />
      </td>
      <td>{actor === '' ? t('somebody') : person(actor)}</td>
      <td className="wrap-anywhere">
        {t(`kind.${kind}`)} <span className="quiet">{aboutWords(kind, about)}</span>
      </td>
      <td className="num quiet">{origin ?? t('byItself')}</td>
    </tr>
  );
}

/** What an entry was about, in a few words. */
function aboutWords(kind: AuditedKind, about: AuditRow['about']): string {
  const text = (key: string) => String(about[key] ?? '');
  switch (kind) {
    case 'signedIn':
    case 'signInRefused':
    case 'signedOut':
    case 'passwordChosen':
    case 'sessionsEnded':
    case 'startsChanged':
    case 'keepingChanged':
      return '';
    case 'secondFactorChanged':
      return about.of === undefined ? text('name') : t(`askedOf.${askedOfSchema.parse(about.of)}`);
    case 'personChanged':
    case 'groupChanged':
    case 'contactChanged':
    case 'machineChanged':
    case 'doorChanged':
    case 'tokenMade':
    case 'tokenEnded':
      return text('name');
    case 'sourceDefined':
      return text('source');
    case 'accessChanged':
      return [text('source'), text('folder')].filter(Boolean).join(' / ');
    case 'looksNoted':
      return t(about.isOn === 1 ? 'noted' : 'notNoted', { place: `${text('source')} / ${text('folder')}` });
    case 'ruleLive':
    case 'ruleApproved':
      return t('versionOf', { rule: text('rule'), version: text('version') });
    case 'exported':
      return t('rowsAs', { rows: Number(about.rows ?? 0), source: text('source'), as: text('as').toUpperCase() });
    case 'imported':
      return t('rowsInto', { rows: Number(about.rows ?? 0), source: text('source') });
    default:
      return kind satisfies never;
  }
}
