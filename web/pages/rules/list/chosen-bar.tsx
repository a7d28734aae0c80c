import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import type { Pace } from '../../../../core/people/index.ts';
import { useNotice, useViewer } from '../../../parts/index.ts';
import { problemOf, useRuleActs } from '../../../queries/index.ts';
import { download } from '../export.ts';
import { Chip } from '../editors/chip.tsx';
import { PaceEditor } from '../editors/pace-editor.tsx';
import { documentOf } from './troubles.ts';

/** What is done to the rules that are chosen, all at once. */
export function ChosenBar({ chosen, onClear }: { chosen: RuleRow[]; onClear: () => void }) {
  const { directory } = useViewer();
  const notice = useNotice();
  const acts = useRuleActs();
  const [pace, setPace] = useState<Pace>({ kind: 'digest', every: 'day', at: '08:30' });
  const ids = chosen.map((row) => row.id);
  const count = `${chosen.length} rule${chosen.length === 1 ? '' : 's'}`;
  const isAll = (test: (row: RuleRow) => boolean) => chosen.every(test);
  const told = chosen.reduce((sum, row) => sum + row.told, 0);
  const read = chosen.reduce((sum, row) => sum + row.read, 0);
  const mayAll = isAll((row) => row.mayEdit);
  const act = (body: Parameters<typeof acts.mutate>[0], words: string, undo?: Parameters<typeof acts.mutate>[0]) =>
    acts.mutate(body, {
      onSuccess: () => {
        notice({ words, ...(undo ? { undo: () => acts.mutate(undo) } : {}) });
        onClear();
      },
      onError: (error) => notice({ words: problemOf(error).detail ?? problemOf(error).title }),
    });
  return (
    <section className="chosen-bar" aria-label="The chosen rules">
      <p>
        <strong>{count} chosen:</strong> {told.toLocaleString()} messages in 30 days, {read.toLocaleString()} read.
        {!mayAll && ' Some of them are not yours to change.'}
      </p>
      <div className="acts">
        {mayAll && isAll((row) => row.state === 'live' && !row.isPaused) && (
          <Button
            variant="outline-light"
            onClick={() =>
              act({ act: 'pause', ids }, `${count} paused; what they catch is kept.`, {
                act: 'resume',
                ids,
                catchUp: 'each',
              })
            }
          >
            Pause
          </Button>
        )}
        {mayAll && isAll((row) => row.isPaused) && (
          <Button
            variant="outline-light"
            onClick={() =>
              act({ act: 'resume', ids, catchUp: 'summary' }, `${count} go on, what was kept as one summary each.`)
            }
          >
            Let them go on
          </Button>
        )}
        {mayAll && isAll((row) => row.state === 'live') && (
          <Chip
            label="Another pace"
            className="is-button on-ink"
            act={{
              words: `Give it to ${count}`,
              run: () => act({ act: 'pace', ids, pace }, `${count} have another pace.`),
            }}
            editor={() => <PaceEditor pace={pace} onChange={setPace} />}
          >
            Another pace…
          </Chip>
        )}
        {mayAll && (
          <Chip
            label="Hand over"
            className="is-button on-ink"
            editor={(close) => (
              <Form.Select
                aria-label="To whom"
                value=""
                onChange={(event) => {
                  act({ act: 'handOver', ids, to: event.target.value }, `${count} handed over.`);
                  close();
                }}
              >
                <option value="">to …</option>
                {directory.people
                  .filter((one) => one.isActive)
                  .map((one) => (
                    <option key={one.id} value={one.id}>
                      {one.name}
                    </option>
                  ))}
              </Form.Select>
            )}
          >
            Hand over…
          </Chip>
        )}
        {mayAll && isAll((row) => row.state === 'live') && (
          <Button variant="outline-light" onClick={() => act({ act: 'end', ids }, `${count} ended.`)}>
            End
          </Button>
        )}
        <Button variant="outline-light" onClick={() => download(`${count}.json`, { rules: chosen.map(documentOf) })}>
          Export
        </Button>
        {mayAll && (
          <Button
            variant="outline-light"
            onClick={() => act({ act: 'delete', ids }, `${count} deleted.`, { act: 'undelete', ids })}
          >
            Delete {count}
          </Button>
        )}
        <Button variant="link" className="on-ink" onClick={onClear}>
          Clear
        </Button>
      </div>
    </section>
  );
}
