import { useState } from 'react';
import { Button, Dropdown, Form } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import { useNotice, useViewer } from '../../../parts/index.ts';
import { useRuleActs } from '../../../queries/index.ts';
import { download } from '../export.ts';
import { Chip } from '../editors/chip.tsx';
import { HandOver } from '../hand-over.tsx';
import { t } from '../../../words/rule.ts';

/** Pausing a live rule, or letting it go on with what it kept. */
export function LiveActs({ row }: { row: RuleRow }) {
  const acts = useRuleActs();
  const notice = useNotice();
  if (row.state !== 'live' || !row.mayEdit) return null;
  if (!row.isPaused)
    return (
      <Button
        variant="outline-primary"
        disabled={acts.isPending}
        onClick={() =>
          acts.mutate(
            { act: 'pause', ids: [row.id] },
            {
              onSuccess: () =>
                notice({
                  words: t('pausedWhatItCatchesMeanwhile'),
                  undo: () => acts.mutate({ act: 'resume', ids: [row.id], catchUp: 'each' }),
                }),
            },
          )
        }
      >
        {t('pause')}
      </Button>
    );
  return (
    <GoOn
      row={row}
      onResume={(catchUp) =>
        acts.mutate(
          { act: 'resume', ids: [row.id], catchUp },
          { onSuccess: () => notice({ words: t('theRuleGoesOn') }) },
        )
      }
    />
  );
}

const catchUpWays = () =>
  [
    ['each', t('tellEach')],
    ['summary', t('tellThemAsOneSummary')],
    ['skip', t('skipThem')],
  ] as const;
export type CatchUp = ReturnType<typeof catchUpWays>[number][0];

/** What becomes of what a paused rule kept. */
function GoOn({ row, onResume }: { row: RuleRow; onResume: (catchUp: CatchUp) => void }) {
  const [catchUp, setCatchUp] = useState<CatchUp>(row.kept > 5 ? 'summary' : 'each');
  if (row.kept === 0) return <Button onClick={() => onResume('each')}>{t('letItGoOn')}</Button>;
  const counts = { each: t('alerts', { kept: row.kept }), summary: t('alerts', { kept: 1 }), skip: t('none') };
  return (
    <Chip
      label={t('howItGoesOn')}
      className="is-button"
      act={{ words: t('letItGoOn'), run: () => onResume(catchUp) }}
      editor={() => (
        <fieldset className="choices">
          <legend className="small quiet">{t('matchesKeptWhilePaused', { kept: row.kept })}</legend>
          {catchUpWays().map(([value, words]) => (
            <Form.Check
              key={value}
              type="radio"
              name="catch-up"
              id={`catch-up-${value}`}
              checked={catchUp === value}
              onChange={() => setCatchUp(value)}
              label={
                <>
                  {words} <span className="quiet">{counts[value]}</span>
                </>
              }
            />
          ))}
        </fieldset>
      )}
    >
      {t('letItGoOn2')}
    </Chip>
  );
}

/** What is done with a rule less often. */
export function MoreActs({ row, rule }: { row: RuleRow; rule: Rule }) {
  const { me, person } = useViewer();
  const navigate = useNavigate();
  const notice = useNotice();
  const acts = useRuleActs();
  const end = () =>
    acts.mutate(
      { act: 'end', ids: [row.id] },
      {
        onSuccess: () =>
          notice({ words: t('theRuleHasEndedWhat'), undo: () => acts.mutate({ act: 'revive', ids: [row.id] }) }),
      },
    );
  const revive = () =>
    acts.mutate(
      { act: 'revive', ids: [row.id] },
      {
        onSuccess: () =>
          notice({ words: t('theRuleIsLiveAgain'), undo: () => acts.mutate({ act: 'end', ids: [row.id] }) }),
      },
    );
  const handTo = (to: string) =>
    acts.mutate(
      { act: 'handOver', ids: [row.id], to },
      {
        onSuccess: () =>
          to === me.id
            ? notice({ words: t('handedOver') })
            : notice({
                words: t('theyAreAsked', { person: person(to) }),
                undo: () => acts.mutate({ act: 'leaveOffer', ids: [row.id] }),
              }),
      },
    );
  const remove = () =>
    acts.mutate(
      { act: 'delete', ids: [row.id] },
      {
        onSuccess: () => {
          notice({
            words: t('isDeleted', { name: rule.name }),
            undo: () => acts.mutate({ act: 'undelete', ids: [row.id] }),
          });
          void navigate('/rules');
        },
      },
    );
  return (
    <>
      <Dropdown align="end">
        <Dropdown.Toggle variant="quiet">{t('more')}</Dropdown.Toggle>
        <Dropdown.Menu>
          <Dropdown.Item onClick={() => void navigate(`/rules/new?copy=${encodeURIComponent(row.id)}`)}>
            {t('copyIt')}
          </Dropdown.Item>
          <Dropdown.Item onClick={() => download(`${rule.name}.json`, rule)}>{t('exportAsJSON')}</Dropdown.Item>
          {row.mayEdit && row.state === 'live' && <Dropdown.Item onClick={end}>{t('endItNow')}</Dropdown.Item>}
          {row.mayEdit && row.state === 'ended' && (
            <Dropdown.Item onClick={revive}>{t('letItBeLiveAgain')}</Dropdown.Item>
          )}
          {row.mayEdit && <Dropdown.Item onClick={remove}>{t('deleteIt')}</Dropdown.Item>}
        </Dropdown.Menu>
      </Dropdown>
      {row.mayEdit && me.role !== 'member' && <HandOver className="is-quiet" owner={row.owner} onChoose={handTo} />}
    </>
  );
}
