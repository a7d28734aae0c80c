import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import { faultWords } from '../../../../contract/words/faults.ts';
import { eyedAs, type Fault, hasRunOut, type Rule } from '../../../../core/rules/index.ts';
import { dateIn, instantOf } from '../../../../core/time/index.ts';
import { formatDay, type Source } from '../../../../core/values/index.ts';
import { nameFor, RuleState, Time, useViewer } from '../../../parts/index.ts';
import { locale } from '../../../words/index.ts';
import { t } from '../../../words/rule.ts';
import type { useHistory } from './history.ts';
import { EyesNote } from './eyes-note.tsx';
import { OfferNote } from './offer-note.tsx';
import { OnlyRead } from './only-read.tsx';
import { LiveActs, MoreActs } from './rule-acts.tsx';
import type { useWays } from './ways.ts';

interface HeadProps {
  row: RuleRow | null;
  /** The rule as it is edited, and with the name it would be given. */
  rule: Rule;
  named: Rule;
  source: Source;
  /** How many parts differ from what is live. */
  edited: number;
  faults: readonly Fault[];
  isFixed: boolean;
  history: ReturnType<typeof useHistory<Rule>>;
  ways: ReturnType<typeof useWays>;
  isComparing: boolean;
  onCompare: () => void;
  /** Absent where it is being tried. */
  onTry?: () => void;
}

/** A rule's name and state, and what can be done with it as a whole. */
export function BenchHead(props: HeadProps) {
  const { row, rule, named, source, edited, faults, isFixed, history, ways, isComparing, onCompare, onTry } = props;
  const viewer = useViewer();
  const wrong = faults.filter(({ path }) => path === 'name');
  return (
    <>
      <p className="crumbs">
        <Link to="/rules">{t('rules')}</Link> / <Link to={`/sources/${source.id}`}>{source.name}</Link>
      </p>
      <div className="page-head">
        <div style={{ flex: '1 1 20rem', minWidth: 0 }}>
          <h1 className="visually-hidden">{named.name}</h1>
          <textarea
            rows={1}
            className={`name-input ${wrong.length > 0 ? 'is-invalid' : ''}`}
            aria-invalid={wrong.length > 0}
            aria-describedby={wrong.length > 0 ? 'name-fault' : undefined}
            aria-label={t('theRulesName')}
            placeholder={nameFor(rule, viewer)}
            value={rule.name}
            readOnly={isFixed}
            // A name is one line, however many it takes to show.
            onChange={(event) => history.set({ ...rule, name: event.target.value.replace(/\s*\n\s*/g, ' ') })}
          />
          {wrong.length > 0 && (
            <p id="name-fault" className="fault small mt-1" role="alert">
              {wrong.map((fault) => faultWords(fault, locale())).join(' ')}
            </p>
          )}
          <div className="state-line">
            <StateLine row={row} edited={edited} />
            {row && row.version > 0 && (
              <button type="button" className="btn btn-link" aria-expanded={isComparing} onClick={onCompare}>
                {edited > 0 ? t('compare') : t('versionsLower')}
              </button>
            )}
          </div>
        </div>
        <div className="acts">
          {!isFixed && <Steps history={history} />}
          {!isFixed && <Leaving row={row} hasEdits={edited > 0} ways={ways} />}
          {row && <MoreActs row={row} rule={named} />}
          {onTry && (
            <Button variant="outline-primary" onClick={onTry}>
              {t('tryOnAPastChange')}
            </Button>
          )}
          {row && edited === 0 && <LiveActs row={row} />}
          {!isFixed && <Keeping row={row} rule={rule} hasEdits={edited > 0} ways={ways} />}
        </div>
      </div>
      {row && <OfferNote row={row} />}
      {row && <EyesNote row={row} />}
      {row && !row.mayEdit && <OnlyRead row={row} rule={rule} />}
    </>
  );
}

const Steps = ({ history }: Pick<HeadProps, 'history'>) => (
  <>
    <Button variant="quiet" disabled={!history.mayUndo} title="Ctrl+Z" onClick={history.undo}>
      {t('undo')}
    </Button>
    <Button variant="quiet" disabled={!history.mayRedo} title="Ctrl+Y" onClick={history.redo}>
      {t('redo')}
    </Button>
  </>
);

interface ActsProps extends Pick<HeadProps, 'row' | 'ways'> {
  hasEdits: boolean;
}

/** Away from it: a new rule is left, a draft thrown away, edits of a live rule dropped. */
function Leaving({ row, hasEdits, ways }: ActsProps) {
  if (row && row.state !== 'draft' && !hasEdits) return null;
  const words = row?.state === 'draft' ? t('throwTheDraftAway') : t('dropEdits');
  return (
    <Button variant="quiet" disabled={ways.isBusy} onClick={ways.dropEdits}>
      {row ? words : t('leaveIt')}
    </Button>
  );
}

/** On with it: a new rule is kept or goes live; so do a draft, and the edits of a live rule. */
function Keeping({ row, rule, hasEdits, ways }: ActsProps & Pick<HeadProps, 'rule'>) {
  const { me, directory } = useViewer();
  const others = directory.stewards.filter((id) => id !== me.id);
  const isEyed = others.length > 0 && eyedAs(rule, directory.house.secondEyes).length > 0;
  const live = row?.state === 'live' ? t('putEditsLive') : t('putItLive');
  const words = isEyed ? t('askForEyes') : live;
  // What waits is asked for already; edited again, it can be asked for anew.
  const isAsked = row?.ask != null;
  return (
    <>
      {!row && (
        <Button variant="outline-primary" disabled={ways.isBusy} onClick={ways.keepDraft}>
          {t('keepAsADraft')}
        </Button>
      )}
      {(row?.state !== 'live' || hasEdits) && !isAsked && (
        <Button disabled={ways.isBusy} onClick={ways.putLive}>
          {ways.isBusy ? t('oneMoment') : words}
        </Button>
      )}
    </>
  );
}

function StateLine({ row, edited }: { row: RuleRow | null; edited: number }) {
  const { person, me } = useViewer();
  if (!row)
    return (
      <>
        <RuleState state="draft" />
        <span className="quiet">{t('notKeptYet')}</span>
      </>
    );
  const until = row.live?.during.until;
  if (row.state === 'live' && row.live && until && hasRunOut(row.live, dateIn(instantOf(me.now), row.live.zone)))
    return (
      <>
        <RuleState state="ended" words={t('endedOn', { day: formatDay(until, me.locale) })} />
        <span className="quiet">{t('itTellsNobodyAnyMore', { person: person(row.owner) })}</span>
        {edited > 0 && <mark>{t('editsNotLiveYet', { edited })}</mark>}
      </>
    );
  return (
    <>
      <RuleState state={row.state} />
      {row.state === 'live' && (
        <span className="quiet">
          {t.rich('versionSince', { version: row.version, time: row.liveFrom && <Time at={row.liveFrom} /> })}
        </span>
      )}
      {row.state === 'ended' && (
        <span className="quiet">{t.rich('since', { time: row.liveUntil && <Time at={row.liveUntil} /> })}</span>
      )}
      {row.isPaused && row.state === 'live' && (
        <strong>
          {t('paused')}
          {row.kept > 0 && t('kept', { kept: row.kept })}
        </strong>
      )}
      <span className="quiet">{t('of', { person: person(row.owner) })}</span>
      {edited > 0 && <mark>{t('editsNotLiveYet', { edited })}</mark>}
    </>
  );
}
