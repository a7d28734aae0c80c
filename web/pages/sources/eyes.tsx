import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { EyeRow, RuleRow } from '../../../contract/wire/index.ts';
import { paceWords, plainWords, rulePath } from '../../../core/messages/index.ts';
import { eyeOf } from '../../../core/rules/index.ts';
import { useNotice, useViewer, whatWords } from '../../parts/index.ts';
import { useRuleActs, useRules } from '../../queries/index.ts';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/sources.ts';
import { EyeEditor } from './eye.tsx';
import type { EyeTarget } from './eye-choices.ts';

/** Those among the rules that are an eye on just this: the folder, or the source as it stands. */
export function eyesAmong(rows: readonly RuleRow[], { source, under }: EyeTarget): EyeRow[] {
  return rows.flatMap(({ state, live, mayEdit }): EyeRow[] => {
    const person = state === 'live' && live ? eyeOf(live) : null;
    if (!live || person === null || live.scope.sources[0] !== source.id || live.scope.items.length > 0) return [];
    return (under ? live.scope.under.includes(under.id) : live.scope.under.length === 0)
      ? [{ person, rule: live, mayEdit }]
      : [];
  });
}

/** An eye on a folder, a source or a filtered view: who has one, and one's own to make. */
export function EyeOn({ target, onDone }: { target: EyeTarget; onDone?: () => void }) {
  const rules = useRules();
  return (
    <>
      <Eyes eyes={eyesAmong(rules.data ?? [], target)} />
      <EyeEditor target={target} onDone={onDone} />
    </>
  );
}

/** Who keeps an eye on it, each to be changed or ended there by those who may. */
export function Eyes({ eyes }: { eyes: EyeRow[] }) {
  const viewer = useViewer();
  const { me } = viewer;
  const acts = useRuleActs();
  const notice = useNotice();
  if (eyes.length === 0) return null;
  const end = ({ rule }: EyeRow) =>
    acts.mutate(
      { act: 'delete', ids: [rule.id] },
      {
        onSuccess: () =>
          notice({ words: t('nobodyLooksAnyMore'), undo: () => acts.mutate({ act: 'undelete', ids: [rule.id] }) }),
      },
    );
  return (
    <ul className="plain-list eyes">
      {eyes.map((eye) => (
        <li key={eye.rule.id}>
          <EyeMark /> <strong>{eye.person === me.id ? t('you') : viewer.person(eye.person)}</strong>{' '}
          <span className="quiet">
            {plainWords(whatWords(eye.rule, viewer))}, {paceWords(eye.rule.pace, phrases())}
          </span>
          {eye.mayEdit && (
            <>
              {' '}
              <Link to={rulePath(eye.rule.id)}>{t('change')}</Link>{' '}
              <Button variant="link" size="sm" onClick={() => end(eye)}>
                {t('endIt')}
              </Button>
            </>
          )}
        </li>
      ))}
    </ul>
  );
}

/** The sign of somebody who keeps an eye on a thing. */
export const EyeMark = () => (
  <svg className="eye-mark" width="13" height="13" viewBox="0 0 13 13" aria-hidden="true">
    <circle cx="6.5" cy="6.5" r="5.3" fill="none" stroke="currentColor" strokeWidth="1.6" />
    <circle cx="7.6" cy="6.5" r="2.3" fill="currentColor" />
  </svg>
);
