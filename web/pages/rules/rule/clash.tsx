import { Button } from 'react-bootstrap';
import type { Rule } from '../../../../core/rules/index.ts';
import { ProblemNote, useViewer, refusalWords } from '../../../parts/index.ts';
import { problemOf } from '../../../queries/index.ts';
import { t } from '../../../words/rule.ts';

/** What stood in the way of keeping a rule or putting it live: somebody else’s edits, a great many messages, or something else. */
export function Clash({
  error,
  onTheirs,
  onSure,
}: {
  error: unknown;
  onTheirs: (draft: Rule, revision: number) => void;
  onSure: () => void;
}) {
  const { person } = useViewer();
  const problem = problemOf(error);
  const conflict = problem.conflict as { draft: Rule; revision: number; by: string | null } | undefined;
  if (problem.code === 'secondLook') {
    return (
      <div className="clash mt-3" role="alert">
        {refusalWords(error)}
        <div className="mt-2">
          <Button size="sm" variant="outline-primary" onClick={onSure}>
            {t('putItLiveAllThe')}
          </Button>
        </div>
      </div>
    );
  }
  if (problem.code !== 'editedMeanwhile' || !conflict)
    return (
      <div className="mt-3">
        <ProblemNote error={error} />
      </div>
    );
  return (
    <div className="clash mt-3" role="alert">
      {t.rich('hasEditedThisRule', { person: conflict.by ? person(conflict.by) : t('somebody') })}
      <div className="mt-2">
        <Button size="sm" variant="outline-primary" onClick={() => onTheirs(conflict.draft, conflict.revision)}>
          {t('goOnFromTheirs')}
        </Button>
      </div>
    </div>
  );
}
