import { Button } from 'react-bootstrap';
import type { Rule } from '../../../../core/rules/index.ts';
import { ProblemNote, useViewer } from '../../../parts/index.ts';
import { problemOf } from '../../../queries/index.ts';

/** What stood in the way of keeping a rule or putting it live: somebody else’s edits, a great many messages, or something else. */
export function Clash({
  error,
  onTheirs,
  onSure,
}: {
  error: unknown;
  onTheirs: (draft: Rule, revision: number) => void;
  onSure?: () => void;
}) {
  const { person } = useViewer();
  const problem = problemOf(error);
  const conflict = problem.conflict as { draft: Rule; revision: number; by: string | null } | undefined;
  if (onSure) {
    return (
      <div className="clash" role="alert">
        <strong>{problem.title}.</strong> {problem.detail}
        <div className="mt-2">
          <Button size="sm" variant="outline-primary" onClick={onSure}>
            Put it live all the same
          </Button>
        </div>
      </div>
    );
  }
  if (problem.code !== 'editedMeanwhile' || !conflict) return <ProblemNote error={error} />;
  return (
    <div className="clash" role="alert">
      <strong>{conflict.by ? person(conflict.by) : 'Somebody'} has edited this rule meanwhile.</strong> What you have
      here stays until you choose.
      <div className="mt-2">
        <Button size="sm" variant="outline-primary" onClick={() => onTheirs(conflict.draft, conflict.revision)}>
          Go on from theirs
        </Button>
      </div>
    </div>
  );
}
