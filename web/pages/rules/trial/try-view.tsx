import { useState } from 'react';
import { Button } from 'react-bootstrap';
import type { TryPage } from '../../../../contract/wire/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import type { Source } from '../../../../core/values/index.ts';
import { ProblemNote, Time, useViewer, Waiting, WhatHappened, WhyLink } from '../../../parts/index.ts';
import { MessagePreview, WhoseMessage } from './message-preview.tsx';
import { SendToMe } from './send-to-me.tsx';
import { Reached } from './reached.tsx';
import { RuleLine } from '../rule/rule-line.tsx';
import { t } from '../../../words/trial.ts';

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
      <Waiting what={t('aChangeToTryIt')} />
    );
  const { explanation, sample, preview } = data;
  const told = [...new Set(data.messages.map((one) => one.to))];
  const title = sample?.title ?? data.item?.title;
  if (!title)
    return (
      <div className="empty">
        <h2>{t('nothingToTryItOn')}</h2>
        <p>{rule.when ? t('nothingHappenedInTheLast') : t('noItemBringsItAbout')}</p>
        <Button variant="outline-primary" onClick={onBack}>
          {t('backToTheRule')}
        </Button>
      </div>
    );
  return (
    <div className="try-view">
      <div className="try-main">
        <h2>
          {verdict(explanation, title)} <span className="quiet">{toldWords(told, person)}</span>
        </h2>
        {data.isAsIf && (
          <p className="quiet">{explanation?.caught ? t('aloneItDoesNotMake') : t('whoWouldHearIsShown')}</p>
        )}
        <div className="acts mt-2">
          <Button variant="outline-primary" onClick={onBack}>
            {t('backToTheRule')}
          </Button>
          {data.examples.length > 0 && (
            <Button variant="quiet" aria-expanded={isChoosing} onClick={() => setChoosing(!isChoosing)}>
              {t('tryAnotherChange')}
            </Button>
          )}
        </div>
        {sample && <WhyLink source={sample.source} change={sample.row.id} words={t('whoReallyHeard')} />}
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
        <WhoseMessage told={told} shown={preview?.to ?? null} onPerson={onPerson} />
        {preview && <SendToMe rule={rule} change={sample?.row.id ?? null} person={preview.to} />}
        {preview ? <MessagePreview preview={preview} /> : <p className="quiet">{t('thereIsNoMessageTo')}</p>}
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
              <span className="quiet">{t('by', { person: person(example.row.actor) })}</span>
            </span>
            <span className={example.isCaught ? '' : 'quiet'}>{example.isCaught ? t('caught') : t('notCaught')}</span>
          </li>
        );
      })}
    </ul>
  );
}

function toldWords(told: readonly string[], person: (id: string) => string): string {
  const [first] = told;
  if (first === undefined) return t('nobodyWouldBeTold');
  return told.length === 1 ? t('wouldBeTold', { person: person(first) }) : t('wouldBeTold2', { told: told.length });
}

/** What became of the change that is tried, or of the item, where a date or a standstill is. */
function verdict(explanation: TryPage['explanation'], title: string): string {
  if (!explanation) return t('bringsItAbout', { title });
  return explanation.caught ? t('itIsCaught') : t('itIsNotCaught');
}
