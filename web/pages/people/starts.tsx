import { useEffect, useState } from 'react';
import { Button } from 'react-bootstrap';
import type { StartsPage } from '../../../contract/wire/index.ts';
import type { StartingPlan } from '../../../core/people/index.ts';
import {
  Empty,
  forgetDraft,
  FromBefore,
  goToUnread,
  Loaded,
  ProblemNote,
  readDraft,
  useDraftKey,
  useNotice,
  useViewer,
  writeDraft,
} from '../../parts/index.ts';
import { useSaveStarts, useStarts } from '../../queries/index.ts';
import { t } from '../../words/accounts.ts';
import { FindChip } from '../rules/editors/find-chip.tsx';
import { PlanReach } from '../plan/plan-reach.tsx';
import { moved } from '../rules/editors/condition-groups.ts';

const ROLES = ['member', 'coordinator', 'steward'] as const;

/** The plans that people start with, by group, role or all; whoever has chosen for themselves keeps what they chose. */
export function Starts() {
  const starts = useStarts();
  return (
    <Loaded query={starts} what={t('theStarts')} rows={4}>
      {(page) => <Edited key={page.seal} page={page} />}
    </Loaded>
  );
}

const keyOf = ({ kind, named }: Pick<StartingPlan, 'kind' | 'named'>): string => `${kind}:${named}`;

function Edited({ page }: { page: StartsPage }) {
  const notice = useNotice();
  const save = useSaveStarts();
  const key = useDraftKey('starts');
  const [before] = useState(() => readDraft<StartingPlan[]>(key));
  const [isFromBefore, setFromBefore] = useState(before !== null);
  const [starts, setStarts] = useState<StartingPlan[]>(before?.value ?? page.starts);
  const isEdited = JSON.stringify(starts) !== JSON.stringify(page.starts);
  useEffect(() => {
    if (isEdited) writeDraft(key, { base: '', value: starts });
    else forgetDraft(key);
  }, [isEdited, key, starts]);
  const drop = () => {
    setStarts(page.starts);
    setFromBefore(false);
    save.reset();
  };
  const keep = () => {
    if (goToUnread()) return;
    save.mutate({ starts, seal: page.seal }, { onSuccess: () => notice({ words: t('startsAreKept') }) });
  };
  const put = (at: number, part: Partial<StartingPlan>) =>
    setStarts(starts.map((one, place) => (place === at ? { ...one, ...part } : one)));
  return (
    <section className="starts-page">
      <p className="quiet mt-3">{t('firstThatFits')}</p>
      {isFromBefore && isEdited && <FromBefore onGiveUp={drop} />}
      {starts.length === 0 && (
        <Empty title={t('noStartYet')}>
          <p>{t('ojosOwnHolds')}</p>
        </Empty>
      )}
      <ol className="plain-list">
        {starts.map((start, at) => (
          <StartLine
            key={keyOf(start)}
            start={start}
            kept={page.starts.find((one) => keyOf(one) === keyOf(start)) ?? null}
            goBy={page.goBy[page.starts.findIndex((one) => keyOf(one) === keyOf(start))] ?? null}
            onChange={(plan) => put(at, { plan })}
            onEarlier={at > 0 ? () => setStarts(moved(starts, at, at - 1)) : null}
            onRemove={() => setStarts(starts.filter((_, place) => place !== at))}
          />
        ))}
      </ol>
      <AddStart starts={starts} onAdd={(start) => setStarts([...starts, { ...start, plan: {} }])} />
      {save.error && <ProblemNote error={save.error} />}
      {isEdited && (
        <div className="acts mt-3">
          <Button disabled={save.isPending} onClick={keep}>
            {t('keepStarts')}
          </Button>
          <Button variant="quiet" onClick={drop}>
            {t('leaveIt')}
          </Button>
        </div>
      )}
    </section>
  );
}

interface StartLineProps {
  start: StartingPlan;
  kept: StartingPlan | null;
  /** How many go by it as it is kept; `null` where it is not. */
  goBy: number | null;
  onChange: (plan: StartingPlan['plan']) => void;
  onEarlier: (() => void) | null;
  onRemove: () => void;
}

function StartLine({ start, kept, goBy, onChange, onEarlier, onRemove }: StartLineProps) {
  const name = useNameOf()(start);
  return (
    <li className="start-plan">
      <div className="page-head">
        <h2>{name}</h2>
        {goBy !== null && <span className="quiet">{t('goByIt', { count: goBy })}</span>}
        <div className="acts">
          {onEarlier && (
            <Button variant="link" size="sm" aria-label={t('earlierNamed', { name })} onClick={onEarlier}>
              {t('earlier')}
            </Button>
          )}
          <Button variant="link" size="sm" aria-label={t('takeAwayNamed', { name })} onClick={onRemove}>
            {t('takeAway')}
          </Button>
        </div>
      </div>
      <PlanReach plan={start.plan} beneath={null} before={kept?.plan ?? null} name={name} onChange={onChange} />
    </li>
  );
}

function useNameOf() {
  const { group } = useViewer();
  return ({ kind, named }: Pick<StartingPlan, 'kind' | 'named'>): string => {
    if (kind === 'everybody') return t('everybody');
    const role = ROLES.find((one) => one === named);
    return kind === 'role' && role ? t(`all.${role}`) : (group(named)?.name ?? named);
  };
}

/** Whom one more plan is for, of those who have none. */
function AddStart({
  starts,
  onAdd,
}: {
  starts: readonly StartingPlan[];
  onAdd: (start: Pick<StartingPlan, 'kind' | 'named'>) => void;
}) {
  const { directory } = useViewer();
  const nameOf = useNameOf();
  const all: Pick<StartingPlan, 'kind' | 'named'>[] = [
    ...directory.groups.map(({ id }) => ({ kind: 'group' as const, named: id })),
    ...ROLES.map((role) => ({ kind: 'role' as const, named: role })),
    { kind: 'everybody', named: '' },
  ];
  const free = all.filter((one) => !starts.some((start) => keyOf(start) === keyOf(one)));
  return (
    <FindChip
      words={t('aPlanFor')}
      className="is-adding"
      question={t('forWhom')}
      offers={free.map((one) => ({ value: one, name: nameOf(one), kind: '' }))}
      onChoose={onAdd}
    />
  );
}
