import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Link } from 'react-router';
import type { AnyLessWay, LessPage } from '../../contract/wire/index.ts';
import { addDays, dateIn, instantOf } from '../../core/time/index.ts';
import { useNotice } from './notices.tsx';
import { Loaded, ProblemNote } from './states.tsx';
import { useViewer } from './viewer.tsx';
import { useLess, useLessBack, useTakeLess } from '../queries/index.ts';

function wayWords(way: AnyLessWay, { rule, item }: Pick<LessPage, 'rule' | 'item'>): string {
  switch (way) {
    case 'becomes':
      return 'Only when it becomes so, not at each save; for everybody it tells';
    case 'daily':
      return 'Once a day instead, at 08:30';
    case 'othersOnly':
      return 'Only what others do';
    case 'noEmail':
      return 'In Ojo alone, not by email';
    case 'notThisItem':
      return `Nothing more of ${item?.title ?? 'this item'}`;
    case 'notThisRule':
      return `Nothing more by “${rule?.name ?? 'this rule'}”`;
    default:
      return way satisfies never;
  }
}

const SPANS = [
  ['', 'for good'],
  ['7', 'for a week'],
  ['30', 'for a month'],
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
    <Loaded query={less} what="the ways to hear less" rows={3}>
      {(page) =>
        page.rule === null ? (
          <p className="quiet">That rule is live no longer; it tells you nothing more.</p>
        ) : (
          <div className="less">
            <p className="small quiet">
              In the last {page.days} days it was{' '}
              <strong>
                {page.before} message{page.before === 1 ? '' : 's'}
              </strong>
              , by every channel together.
            </p>
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
                            notice({ words: `${wayWords(way, page)}: done.`, undo: () => back.mutate(before) }),
                        },
                      )
                    }
                  >
                    {wayWords(way, page)}
                  </Button>
                  <span className="change nowrap">
                    <s>{page.before}</s> <mark>{after}</mark>
                  </span>
                </li>
              ))}
            </ul>
            <div className="row-of small">
              <span className="quiet">“Nothing more” holds</span>
              <Form.Select
                size="sm"
                aria-label="How long nothing more"
                value={span}
                onChange={(event) => setSpan(event.target.value)}
              >
                {SPANS.map(([days, words]) => (
                  <option key={days} value={days}>
                    {words}
                  </option>
                ))}
              </Form.Select>
            </div>
            <p className="small">
              <Link to="/plan">How Ojo reaches you</Link>, and what you have muted, is in your delivery plan.
            </p>
          </div>
        )
      }
    </Loaded>
  );
}
