import { useState } from 'react';
import { Button, Dropdown, Form } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import { useNotice, useViewer } from '../../../parts/index.ts';
import { useRuleActs } from '../../../queries/index.ts';
import { download } from '../export.ts';
import { Chip } from '../editors/chip.tsx';

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
                  words: 'Paused. What it catches meanwhile is kept, and nothing is lost.',
                  undo: () => acts.mutate({ act: 'resume', ids: [row.id], catchUp: 'each' }),
                }),
            },
          )
        }
      >
        Pause
      </Button>
    );
  return (
    <GoOn
      row={row}
      onResume={(catchUp) =>
        acts.mutate(
          { act: 'resume', ids: [row.id], catchUp },
          { onSuccess: () => notice({ words: 'The rule goes on.' }) },
        )
      }
    />
  );
}

const CATCH_UP = [
  ['each', 'tell each'],
  ['summary', 'tell them as one summary'],
  ['skip', 'skip them'],
] as const;
export type CatchUp = (typeof CATCH_UP)[number][0];

/** What becomes of what a paused rule kept. */
function GoOn({ row, onResume }: { row: RuleRow; onResume: (catchUp: CatchUp) => void }) {
  const [catchUp, setCatchUp] = useState<CatchUp>(row.kept > 5 ? 'summary' : 'each');
  if (row.kept === 0) return <Button onClick={() => onResume('each')}>Let it go on</Button>;
  const counts = { each: `${row.kept} alert${row.kept === 1 ? '' : 's'}`, summary: '1 alert', skip: 'none' };
  return (
    <Chip
      label="How it goes on"
      className="is-button"
      act={{ words: 'Let it go on', run: () => onResume(catchUp) }}
      editor={() => (
        <fieldset className="choices">
          <legend className="small quiet">
            {row.kept} {row.kept === 1 ? 'match' : 'matches'} kept while paused
          </legend>
          {CATCH_UP.map(([value, words]) => (
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
      Let it go on…
    </Chip>
  );
}

/** What is done with a rule less often. */
export function MoreActs({ row, rule }: { row: RuleRow; rule: Rule }) {
  const { directory, me } = useViewer();
  const navigate = useNavigate();
  const notice = useNotice();
  const acts = useRuleActs();
  const end = () =>
    acts.mutate(
      { act: 'end', ids: [row.id] },
      { onSuccess: () => notice({ words: 'The rule has ended. What it caught stays in the Outbox.' }) },
    );
  const remove = () =>
    acts.mutate(
      { act: 'delete', ids: [row.id] },
      {
        onSuccess: () => {
          notice({ words: `“${rule.name}” is deleted.`, undo: () => acts.mutate({ act: 'undelete', ids: [row.id] }) });
          void navigate('/rules');
        },
      },
    );
  return (
    <>
      <Dropdown align="end">
        <Dropdown.Toggle variant="quiet">More</Dropdown.Toggle>
        <Dropdown.Menu>
          <Dropdown.Item onClick={() => void navigate(`/rules/new?copy=${encodeURIComponent(row.id)}`)}>
            Copy it
          </Dropdown.Item>
          <Dropdown.Item onClick={() => download(`${rule.name}.json`, rule)}>Export as JSON</Dropdown.Item>
          {row.mayEdit && row.state === 'live' && <Dropdown.Item onClick={end}>End it now</Dropdown.Item>}
          {row.mayEdit && <Dropdown.Item onClick={remove}>Delete it</Dropdown.Item>}
        </Dropdown.Menu>
      </Dropdown>
      {row.mayEdit && me.role !== 'member' && (
        <Chip
          label="Hand it over"
          className="is-quiet"
          editor={(close) => (
            <Form.Select
              aria-label="To whom"
              value={row.owner}
              onChange={(event) => {
                acts.mutate(
                  { act: 'handOver', ids: [row.id], to: event.target.value },
                  { onSuccess: () => notice({ words: 'Handed over.' }) },
                );
                close();
              }}
            >
              {directory.people
                .filter((one) => one.isActive || one.id === row.owner)
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
    </>
  );
}
