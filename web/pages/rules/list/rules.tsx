import { type CSSProperties, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Link, useSearchParams } from 'react-router';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import { rulePath, paceWords } from '../../../../core/messages/index.ts';
import { eyeOf } from '../../../../core/rules/index.ts';
import {
  Empty,
  Loaded,
  Said,
  ShareRead,
  Timeline,
  UrgencyBar,
  useViewer,
  editedParts,
  whatWords,
  whoWords,
} from '../../../parts/index.ts';
import { useRules } from '../../../queries/index.ts';
import { ChosenBar } from './chosen-bar.tsx';
import { CostStrip } from './cost-strip.tsx';
import { ImportRules } from './import-rules.tsx';
import { Mend } from './mend.tsx';
import { SecondEyes } from './second-eyes.tsx';
import { documentOf, type Trouble, troubleOf, twinsAmong } from './troubles.ts';
import { phrases } from '../../../words/index.ts';
import { t } from '../../../words/rules.ts';

/** All rules, to scan: what each watches, who hears, how soon, how often it caught something, whether anybody read it, and which want somebody. */
export function RulesPage() {
  const rules = useRules();
  const [isImporting, setImporting] = useState(false);
  return (
    <main className="page">
      <Loaded query={rules} what={t('theRules')} rows={9}>
        {(rows) => (
          <>
            <div className="rule-head">
              <div>
                <div className="page-head">
                  <h1>{t('rules2')}</h1>
                  <div className="acts">
                    <Link className="btn btn-quiet" to="/wordings">
                      {t('wordings')}
                    </Link>
                    <Button variant="quiet" onClick={() => setImporting(!isImporting)}>
                      {t('import')}
                    </Button>
                    <Link className="btn btn-outline-primary" to="/rules/new">
                      {t('newRule')}
                    </Link>
                  </div>
                </div>
                <Summary rows={rows} />
              </div>
              {rows.some((row) => row.told > 0) && <CostStrip rows={rows} />}
            </div>
            {isImporting && <ImportRules onDone={() => setImporting(false)} />}
            {rows.length === 0 ? (
              <Empty title={t('noRuleYet')}>
                <p>{t('aRuleSaysWhichChanges')}</p>
                <Link className="btn btn-primary" to="/rules/new">
                  {t('makeTheFirst')}
                </Link>
              </Empty>
            ) : (
              <Listed rows={rows} />
            )}
            <SecondEyes />
          </>
        )}
      </Loaded>
    </main>
  );
}

function Summary({ rows }: { rows: RuleRow[] }) {
  const told = rows.reduce((sum, row) => sum + row.told, 0);
  const read = rows.reduce((sum, row) => sum + row.read, 0);
  const count = (state: RuleRow['state']) => rows.filter((row) => row.state === state).length;
  const states = (['live', 'draft', 'ended'] as const)
    .filter((state) => count(state) > 0)
    .map((state) => t(`state.${state}`, { count: count(state) }))
    .join(', ');
  return (
    <>
      {told > 0 && (
        <p className="mt-1">
          <strong>{t('messagesInOjoIn30', { told, share: Math.round((read / told) * 100) })}</strong>
        </p>
      )}
      <p className="quiet">{states}</p>
    </>
  );
}

const tabs = () =>
  [
    ['', t('all')],
    ['mine', t('mine')],
    ['troubles', t('wantSomebody')],
    ['eyes', t('eyesKept')],
    ['ended', t('ended2')],
  ] as const;

function Listed({ rows }: { rows: RuleRow[] }) {
  const viewer = useViewer();
  const [search, setSearch] = useSearchParams();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const show = search.get('show') ?? '';
  const text = (search.get('text') ?? '').trim().toLowerCase();
  const twins = twinsAmong(rows);
  const troubles = new Map(rows.map((row) => [row.id, troubleOf(row, viewer, twins.get(row.id))]));
  const isShown = (row: RuleRow) => {
    const isEye =
      eyeOf(documentOf(row)) !== null && documentOf(row).scope.items.length + documentOf(row).scope.under.length > 0;
    if (show === 'ended' ? row.state !== 'ended' : row.state === 'ended') return false;
    if (show === 'eyes' ? !isEye : isEye && show !== 'mine') return false;
    if (show === 'mine' && row.owner !== viewer.me.id) return false;
    if (show === 'troubles' && !troubles.get(row.id)) return false;
    const document = documentOf(row);
    return (
      text === '' ||
      `${document.name} ${whoWords(document, viewer)} ${viewer.person(row.owner)}`.toLowerCase().includes(text)
    );
  };
  const shown = rows.filter(isShown);
  const put = (key: string, value: string) =>
    setSearch(
      (now) => {
        const next = new URLSearchParams(now);
        if (value) next.set(key, value);
        else next.delete(key);
        return next;
      },
      { replace: true },
    );
  const choose = (id: string) =>
    setChosen((now) => (now.has(id) ? new Set([...now].filter((one) => one !== id)) : new Set([...now, id])));
  const picked = shown.filter((row) => chosen.has(row.id));
  return (
    <>
      <div className="filters">
        <ul className="tabs">
          {tabs().map(([value, words]) => (
            <li key={value}>
              <button
                type="button"
                aria-pressed={show === value}
                className={show === value ? 'active' : ''}
                onClick={() => put('show', value)}
              >
                {words}
              </button>
            </li>
          ))}
        </ul>
        <Form.Control
          type="search"
          aria-label={t('narrowTheRulesByName')}
          placeholder={t('narrowByNameOrPerson')}
          value={search.get('text') ?? ''}
          onChange={(event) => put('text', event.target.value)}
        />
      </div>
      {shown.length === 0 ? (
        <Empty title={t('noRuleIsLikeThat')}>
          <Button variant="outline-primary" onClick={() => setSearch({}, { replace: true })}>
            {t('showAll')}
          </Button>
        </Empty>
      ) : (
        <RuleTable rows={shown} troubles={troubles} chosen={chosen} onChoose={choose} />
      )}
      {picked.length > 0 && <ChosenBar chosen={picked} onClear={() => setChosen(new Set())} />}
    </>
  );
}

interface Group {
  name: string;
  note: string;
  rows: RuleRow[];
}

/** Those that want somebody first, then source by source. */
function groupsOf(
  rows: RuleRow[],
  troubles: ReadonlyMap<string, Trouble | null>,
  sources: readonly { id: string; name: string }[],
): Group[] {
  const order = { live: 0, draft: 1, ended: 2 };
  const wanting = rows.filter((row) => troubles.get(row.id)).sort((a, b) => b.told - a.told);
  const rest = rows.filter((row) => !troubles.get(row.id));
  const bySource = sources.map(
    (source): Group => ({
      name: source.name,
      note: '',
      rows: rest
        .filter((row) => documentOf(row).scope.sources[0] === source.id)
        .sort((a, b) => order[a.state] - order[b.state] || b.alerts - a.alerts),
    }),
  );
  return [
    { name: t('wantSomebody'), note: t('of', { wanting: wanting.length, rows: rows.length }), rows: wanting },
    ...bySource,
  ].filter((group) => group.rows.length > 0);
}

function RuleTable({
  rows,
  troubles,
  chosen,
  onChoose,
}: {
  rows: RuleRow[];
  troubles: ReadonlyMap<string, Trouble | null>;
  chosen: ReadonlySet<string>;
  onChoose: (id: string) => void;
}) {
  const { directory } = useViewer();
  const groups = groupsOf(rows, troubles, directory.sources);
  return (
    <table className="rule-table">
      <thead>
        <tr>
          <th className="group" />
          <th className="pick" />
          <th className="bar-cell" />
          <th scope="col">{t('ruleAndWhatItWaits')}</th>
          <th scope="col" className="who">
            {t('whoHears')}
          </th>
          <th scope="col" className="soon">
            {t('howSoon')}
          </th>
          <th scope="col" className="timeline-cell">
            {t('last30Days')}
          </th>
          <th scope="col" className="num">
            {t('caught')}
          </th>
          <th scope="col" className="num">
            {t('told2')}
          </th>
          <th scope="col" className="share-cell">
            {t('ofWhichRead')}
          </th>
        </tr>
      </thead>
      <tbody>
        {groups.flatMap(({ name, note, rows: own }) =>
          own.map((row, at) => (
            <Row
              key={row.id}
              row={row}
              trouble={troubles.get(row.id) ?? null}
              isChosen={chosen.has(row.id)}
              onChoose={onChoose}
              group={at === 0 ? { name, note } : null}
              span={own.length}
            />
          )),
        )}
      </tbody>
    </table>
  );
}

/** What else became of its alerts, in a few words. */
const besides = ({ withheld, failed, acknowledged }: RuleRow): string =>
  [
    acknowledged > 0 && t('acknowledged', { acknowledged }),
    withheld > 0 && t('withheld', { withheld }),
    failed > 0 && t('failed', { failed }),
  ]
    .filter(Boolean)
    .join(', ');

function Row({
  row,
  trouble,
  isChosen,
  onChoose,
  group,
  span,
}: {
  row: RuleRow;
  trouble: Trouble | null;
  isChosen: boolean;
  onChoose: (id: string) => void;
  group: { name: string; note: string } | null;
  span: number;
}) {
  const viewer = useViewer();
  const rule = documentOf(row);
  const edits = row.live && row.draft ? editedParts(row.draft, row.live).length : 0;
  const muted = row.state === 'live' && !row.isPaused ? '' : 'quiet';
  const isFault = trouble?.kind === 'broken' || trouble?.kind === 'ownerless' || trouble?.kind === 'failing';
  return (
    <tr
      className={`${group === null ? '' : 'is-first'}${isChosen ? ' is-chosen' : ''}`}
      style={{ '--rows': span } as CSSProperties}
    >
      {group !== null && (
        <td className="group" rowSpan={span}>
          {group.name}
          {group.note && <small>{group.note}</small>}
        </td>
      )}
      <td className="pick">
        <Form.Check
          aria-label={t('choose', { name: rule.name })}
          checked={isChosen}
          onChange={() => onChoose(row.id)}
        />
      </td>
      <td className="bar-cell">
        <UrgencyBar urgency={rule.urgency} />
      </td>
      <td className={`name ${muted}`}>
        <Link to={rulePath(row.id)}>{rule.name}</Link>{' '}
        {!trouble && (
          <span className="quiet small">
            <Said words={whatWords(rule, viewer)} />
          </span>
        )}
        {row.state !== 'live' && (
          <>
            {' '}
            <strong>{row.state === 'draft' ? t('draft') : t('ended2')}</strong>
          </>
        )}
        {edits > 0 && (
          <>
            {' '}
            <mark>{t('editsNotLive', { edits })}</mark>
          </>
        )}
        {row.waits > 0 && <span className="quiet small"> {t('toAcknowledge', { waits: row.waits })}</span>}
        {trouble && (
          <div className="small">
            <strong className={isFault ? 'fault' : ''}>{trouble.head}</strong> {trouble.words}
            <div>
              <Mend row={row} trouble={trouble} />
            </div>
          </div>
        )}
      </td>
      <td className={`who ${muted}`}>{whoWords(rule, viewer)}</td>
      <td className={`soon ${muted}`}>{paceWords(rule.pace, phrases())}</td>
      <td className="timeline-cell">
        <Timeline all={[]} caught={row.caught} now={viewer.me.now} label={t('n30DaysAlerts', { alerts: row.alerts })} />
      </td>
      <td className="num">{row.alerts}</td>
      <td className="num">{row.told}</td>
      <td className="share-cell">
        <ShareRead told={row.told} read={row.read} />
        <small>{besides(row)}</small>
      </td>
    </tr>
  );
}
