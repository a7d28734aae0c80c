import type { CSSProperties } from 'react';
import { Link } from 'react-router';
import type { RuleRow } from '../../contract/api.ts';
import { rulePath } from '../../core/messages/index.ts';
import type { Rule } from '../../core/rules/index.ts';
import { Empty, Loaded, Said, ShareRead, Tape, UrgencyBar, useReading } from '../parts/index.ts';
import { useRules } from '../queries/index.ts';
import { editedParts, paceWords, whatWords, whoWords } from './rule-words.ts';

/** All rules, to scan: what each watches, who hears, how soon, how often it caught something, whether anybody read it. */
export function RulesPage() {
  const rules = useRules();
  return (
    <main className="page">
      <Loaded query={rules} what="the rules" rows={9}>
        {(rows) => (
          <>
            <div className="rule-head">
              <div>
                <div className="page-head"><h1>Rules</h1><div className="acts"><Link className="btn btn-outline-primary" to="/rules/new">New rule</Link></div></div>
                <Summary rows={rows} />
              </div>
              {rows.some((row) => row.told > 0) && <CostStrip rows={rows} />}
            </div>
            {rows.length === 0 ? <Empty title="No rule yet"><p>A rule says which changes matter, who hears of them, and how soon.</p><Link className="btn btn-primary" to="/rules/new">Make the first</Link></Empty> : <RuleTable rows={rows} />}
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
  const states = (['live', 'draft', 'ended'] as const).filter((state) => count(state) > 0).map((state) => `${count(state)} ${state}`).join(', ');
  return (
    <>
      {told > 0 && <p className="mt-1"><strong>{told.toLocaleString()} messages in Ojo in 30 days, {Math.round((read / told) * 100)} % read.</strong></p>}
      <p className="quiet">{states}</p>
    </>
  );
}

/** Width is messages, filling is what was read: what costs most and gives least is seen at once. */
function CostStrip({ rows }: { rows: RuleRow[] }) {
  const sorted = rows.filter((row) => row.told > 0).sort((a, b) => b.told - a.told);
  const total = sorted.reduce((sum, row) => sum + row.told, 0);
  const named = sorted.slice(0, 4).filter((row) => row.told / total > 0.1);
  const rest = total - named.reduce((sum, row) => sum + row.told, 0);
  const share = (row: RuleRow) => `${Math.round((row.read / row.told) * 100)}%`;
  return (
    <div className="cost">
      <div className="names" aria-hidden="true">
        {named.map((row) => <span key={row.id} style={{ flex: `${row.told} 0 0` }}><b className="cut">{(row.live ?? row.draft)?.name}</b><span className="quiet">{row.told} told, {share(row).replace('%', ' %')} read</span></span>)}
        {rest > 0 && <span style={{ flex: `${rest} 0 0`, textAlign: 'right' }}><b className="cut">the others</b><span className="quiet">{rest} told</span></span>}
      </div>
      <div className="strip" role="img" aria-label={sorted.map((row) => `${(row.live ?? row.draft)?.name}: ${row.told} told, ${share(row)} read`).join('; ')}>
        {sorted.map((row) => <i key={row.id} style={{ flex: `${row.told} 0 0`, '--share': share(row) } as CSSProperties} />)}
      </div>
    </div>
  );
}

function RuleTable({ rows }: { rows: RuleRow[] }) {
  const { directory } = useReading();
  const order = { live: 0, draft: 1, ended: 2 };
  const documentOf = (row: RuleRow) => (row.live ?? row.draft) as Rule;
  const groups = directory.sources.map((source) => ({ source, rules: rows.filter((row) => documentOf(row).scope.sources[0] === source.id).sort((a, b) => order[a.state] - order[b.state] || b.alerts - a.alerts) })).filter((group) => group.rules.length > 0);
  return (
    <table className="rule-table">
      <thead>
        <tr><th className="group" /><th className="bar-cell" /><th scope="col">rule, and what it waits for</th><th scope="col" className="who">who hears</th><th scope="col" className="soon">how soon</th><th scope="col" className="tape-cell">last 30 days</th><th scope="col" className="num">caught</th><th scope="col" className="num">told</th><th scope="col" className="share-cell">of which read</th></tr>
      </thead>
      <tbody>
        {groups.flatMap(({ source, rules }) => rules.map((row, at) => <Row key={row.id} row={row} rule={documentOf(row)} group={at === 0 ? source.name : null} span={rules.length} />))}
      </tbody>
    </table>
  );
}

function Row({ row, rule, group, span }: { row: RuleRow; rule: Rule; group: string | null; span: number }) {
  const reading = useReading();
  const edits = row.live && row.draft ? editedParts(row.draft, row.live).length : 0;
  const muted = row.state === 'live' && !row.isPaused ? '' : 'quiet';
  return (
    <tr className={group === null ? '' : 'is-first'}>
      {group !== null && <td className="group" rowSpan={span}>{group}</td>}
      <td className="bar-cell"><UrgencyBar urgency={rule.urgency} /></td>
      <td className={`name ${muted}`}>
        <Link to={rulePath(row.id)}>{rule.name}</Link>{' '}
        <span className="quiet small"><Said words={whatWords(rule, reading)} /></span>
        {row.state !== 'live' && <> <strong>{row.state === 'draft' ? 'Draft' : 'Ended'}</strong></>}
        {row.isPaused && row.state === 'live' && <> <strong>Paused{row.kept > 0 && `, ${row.kept} kept`}</strong></>}
        {edits > 0 && <> <mark>{edits} edit{edits === 1 ? '' : 's'} not live</mark></>}
      </td>
      <td className={`who ${muted}`}>{whoWords(rule, reading)}</td>
      <td className={`soon ${muted}`}>{paceWords(rule.pace)}</td>
      <td className="tape-cell"><Tape all={[]} caught={row.caught} now={reading.me.now} /></td>
      <td className="num">{row.alerts}</td>
      <td className="num">{row.told}</td>
      <td className="share-cell"><ShareRead told={row.told} read={row.read} /></td>
    </tr>
  );
}
