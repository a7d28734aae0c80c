import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { TryPage } from '../../../../contract/wire/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import type { Source } from '../../../../core/values/index.ts';
import { ProblemNote, Time, useViewer, Waiting, WhatHappened } from '../../../parts/index.ts';
import { MessagePreview } from './message-preview.tsx';
import { Reached } from './reached.tsx';
import { RuleLine } from '../rule/rule-line.tsx';

interface TryProps {
  rule: Rule;
  source: Source;
  tried: { data: TryPage | undefined; error: unknown };
  onBack: () => void;
  onChoose: (change: string) => void;
  onPerson: (person: string) => void;
  onLeaveOut?: (person: string) => void;
}

/** One past change run through the rule: what held and what did not, who would have been told, when and in which words. */
export function TryView({ rule, source, tried, onBack, onChoose, onPerson, onLeaveOut }: TryProps) {
  const { person } = useViewer();
  const [isChoosing, setChoosing] = useState(false);
  const { data, error } = tried;
  if (!data)
    return error ? (
      <div className="mt-3">
        <ProblemNote error={error} />
      </div>
    ) : (
      <Waiting what="a change to try it on" />
    );
  const { explanation, sample, preview } = data;
  const told = [...new Set(data.messages.map((one) => one.to))];
  const title = sample?.title ?? data.item?.title;
  if (!title)
    return (
      <div className="empty">
        <h2>Nothing to try it on yet</h2>
        <p>
          {rule.when
            ? 'Nothing happened in the last 90 days where this rule looks.'
            : 'No item brings it about within a year.'}
        </p>
        <Button variant="outline-primary" onClick={onBack}>
          Back to the rule
        </Button>
      </div>
    );
  return (
    <div className="try-view">
      <div className="try-main">
        <h2>
          {explanation ? (explanation.caught ? 'It is caught.' : 'It is not caught.') : `${title} brings it about.`}{' '}
          <span className="quiet">
            {told.length === 0
              ? 'Nobody would be told.'
              : `${told.length === 1 ? `${person(told[0] ?? '')} would be` : `${told.length} would be`} told.`}
          </span>
        </h2>
        {data.isAsIf && (
          <p className="quiet">
            {explanation?.caught
              ? 'Alone it does not make an alert; who would hear is shown as if it did.'
              : 'Who would hear is shown as if it were caught.'}
          </p>
        )}
        <div className="acts mt-2">
          <Button variant="outline-primary" onClick={onBack}>
            Back to the rule
          </Button>
          {data.examples.length > 0 && (
            <Button variant="quiet" aria-expanded={isChoosing} onClick={() => setChoosing(!isChoosing)}>
              Try another change
            </Button>
          )}
        </div>
        {isChoosing && (
          <Examples
            data={data}
            onChoose={(id) => {
              onChoose(id);
              setChoosing(false);
            }}
          />
        )}
        {explanation && sample && <RuleLine rule={rule} source={source} explanation={explanation} sample={sample} />}
        <Reached
          rule={rule}
          source={source}
          tried={data}
          chosen={preview?.to ?? null}
          onPerson={onPerson}
          onLeaveOut={onLeaveOut}
        />
      </div>
      <aside className="try-side">
        {told.length > 1 && (
          <Form.Select
            size="sm"
            aria-label="Whose message"
            value={preview?.to ?? ''}
            onChange={(event) => onPerson(event.target.value)}
          >
            {told.map((id) => (
              <option key={id} value={id}>
                The message to {person(id)}
              </option>
            ))}
          </Form.Select>
        )}
        {preview ? (
          <MessagePreview preview={preview} />
        ) : (
          <p className="quiet">There is no message to show: nobody would be told.</p>
        )}
      </aside>
    </div>
  );
}

function Examples({ data, onChoose }: { data: TryPage; onChoose: (change: string) => void }) {
  const { source, person } = useViewer();
  return (
    <ul className="plain-list examples">
      {data.examples.map((example) => {
        const of = source(example.source);
        return (
          <li key={example.row.id}>
            <Time at={example.row.at} />
            <span>
              <button
                type="button"
                className="btn btn-link"
                aria-current={example.row.id === data.sample?.row.id}
                onClick={() => onChoose(example.row.id)}
              >
                {example.title}
              </button>{' '}
              {of && <WhatHappened row={example.row} source={of} most={2} isSeen={!example.isCaught} />}{' '}
              <span className="quiet">by {person(example.row.actor)}</span>
            </span>
            <span className={example.isCaught ? '' : 'quiet'}>{example.isCaught ? 'caught' : 'not caught'}</span>
          </li>
        );
      })}
    </ul>
  );
}
