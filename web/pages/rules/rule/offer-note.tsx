import { Button } from 'react-bootstrap';
import type { RuleAct, RuleRow } from '../../../../contract/wire/index.ts';
import { ProblemNote, Time, useNotice, useViewer } from '../../../parts/index.ts';
import { useRuleActs } from '../../../queries/index.ts';
import { t } from '../../../words/rule.ts';

/** That somebody has been asked to look after a rule: theirs to answer, and for those who may edit it to take back. */
export function OfferNote({ row: { id, offer, mayEdit } }: { row: RuleRow }) {
  const { me, person } = useViewer();
  const acts = useRuleActs();
  const notice = useNotice();
  if (!offer) return null;
  const isMine = offer.to === me.id;
  if (!isMine && !mayEdit) return null;
  const act = (what: Extract<RuleAct['act'], 'takeOver' | 'leaveOffer'>, words: string) =>
    acts.mutate({ act: what, ids: [id] }, { onSuccess: () => notice({ words }) });
  return (
    <div className="offer-note" role="status">
      <p className="mb-0">
        <strong>
          {isMine
            ? t('youAreAsked', { by: person(offer.by) })
            : t('isAsked', { by: person(offer.by), person: person(offer.to) })}
        </strong>{' '}
        <span className="quiet">{t.rich('askedSince', { time: <Time at={offer.at} /> })}</span>
      </p>
      {acts.error && <ProblemNote error={acts.error} />}
      <div className="acts">
        {isMine ? (
          <>
            <Button size="sm" disabled={acts.isPending} onClick={() => act('takeOver', t('youLookAfterIt'))}>
              {t('takeItOver')}
            </Button>
            <Button
              size="sm"
              variant="quiet"
              disabled={acts.isPending}
              onClick={() => act('leaveOffer', t('youSaidNo', { by: person(offer.by) }))}
            >
              {t('sayNo')}
            </Button>
          </>
        ) : (
          <Button
            size="sm"
            variant="outline-primary"
            disabled={acts.isPending}
            onClick={() => act('leaveOffer', t('askedNoMore', { person: person(offer.to) }))}
          >
            {t('askNoMore')}
          </Button>
        )}
      </div>
    </div>
  );
}
