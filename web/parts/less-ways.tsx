import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Link } from 'react-router';
import type { AnyLessWay, LessPage } from '../../contract/wire/index.ts';
import { addDays, dateIn, instantOf } from '../../core/time/index.ts';
import { useNotice } from './notices.tsx';
import { Loaded, ProblemNote } from './states.tsx';
import { useViewer } from './viewer.tsx';
import { useLess, useLessBack, useTakeLess } from '../queries/index.ts';
import { t } from '../words/parts.ts';

function wayWords(way: AnyLessWay, { rule, item }: Pick<LessPage, 'rule' | 'item'>): string {
  switch (way) {
    case 'becomes':
      return t('onlyWhenItBecomesSo');
    case 'daily':
      return t('onceADayInsteadAt');
    case 'othersOnly':
      return t('onlyWhatOthersDo');
    case 'noEmail':
      return t('inOjoAloneNotBy');
    case 'notThisItem':
      return t('nothingMoreOf', { title: item?.title ?? t('thisItem') });
    case 'notThisRule':
      return t('nothingMoreBy', { name: rule?.name ?? t('thisRule') });
    default:
      return way satisfies never;
  }
}

/** What a way takes away, in a sentence. */
const takesWords = (way: AnyLessWay, { rule }: Pick<LessPage, 'rule'>): string =>
  t(`takes.${way}`, { name: rule?.name ?? t('thisRule') });

const spans = () =>
  [
    ['', t('forGood')],
    ['7', t('forAWeek')],
    ['30', t('forAMonth')],
  ] as const;

/** The ways to hear less of what a message told, each with what it would have left; one press takes one, and one brings it back. */
export function LessWays({ rule, item }: { rule: string; item: string | null }) {
  const less = useLess(rule, item);
  const take = useTakeLess();
  const back = useLessBack();
  const notice = useNotice();
  const { me } = useViewer();
  const [span, setSpan] = useState('');
  const until = span === '' ? null : addDays(dateIn(instantOf(me.now), me.zone), Number(span));
  return (
    <Loaded query={less} what={t('theWaysToHearLess')} rows={3}>
      {(page) =>
        page.rule === null ? (
          <p className="quiet">{t('thatRuleIsLiveNo')}</p>
        ) : (
          <div className="less">
            <p className="small quiet">{t.rich('inTheLastDaysIt', { days: page.days, before: page.before })}</p>
            {take.error && <ProblemNote error={take.error} />}
            <ul className="plain-list">
              {page.ways.map(({ way, after }) => (
                <li key={way}>
                  <Button
                    variant="link"
                    disabled={take.isPending}
                    onClick={() =>
                      take.mutate(
                        { way, rule, item, until: way === 'notThisItem' || way === 'notThisRule' ? until : null },
                        {
                          onSuccess: (before) =>
                            notice({ words: t('done', { way: wayWords(way, page) }), undo: () => back.mutate(before) }),
                        },
                      )
                    }
                  >
                    {wayWords(way, page)}
                  </Button>
                  <span className="change nowrap">
                    <s>{page.before}</s> <mark>{after}</mark>
                  </span>
                  <p className="small quiet">{takesWords(way, page)}</p>
                </li>
              ))}
            </ul>
            <div className="row-of small">
              <span className="quiet">{t('nothingMoreHolds')}</span>
              <Form.Select
                size="sm"
                aria-label={t('howLongNothingMore')}
                value={span}
                onChange={(event) => setSpan(event.target.value)}
              >
                {spans().map(([days, words]) => (
                  <option key={days} value={days}>
                    {words}
                  </option>
                ))}
              </Form.Select>
            </div>
            <p className="small">
              {t.rich('andWhatYouHaveMuted', { link: <Link to="/plan">{t('howOjoReachesYou')}</Link> })}
            </p>
          </div>
        )
      }
    </Loaded>
  );
}
