import { useState } from 'react';
import { Button } from 'react-bootstrap';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import type { Pace } from '../../../../core/people/index.ts';
import { useNotice, useViewer } from '../../../parts/index.ts';
import { useRuleActs } from '../../../queries/index.ts';
import { download } from '../export.ts';
import { Chip } from '../editors/chip.tsx';
import { PaceEditor } from '../editors/pace-editor.tsx';
import { HandOver } from '../hand-over.tsx';
import { documentOf } from './troubles.ts';
import { t } from '../../../words/rules.ts';

type Acts = Parameters<ReturnType<typeof useRuleActs>['mutate']>[0];
/** Does something to rules, says so, and can take it back. */
type Act = (body: Acts, words: string, undo?: Acts) => void;

/** What is done to the rules that are chosen, all at once. */
export function ChosenBar({ chosen, onClear }: { chosen: RuleRow[]; onClear: () => void }) {
  const notice = useNotice();
  const acts = useRuleActs();
  const ids = chosen.map((row) => row.id);
  const count = t('rules', { chosen: chosen.length });
  const told = chosen.reduce((sum, row) => sum + row.told, 0);
  const read = chosen.reduce((sum, row) => sum + row.read, 0);
  const mayAll = chosen.every((row) => row.mayEdit);
  const act: Act = (body, words, undo) =>
    acts.mutate(body, {
      onSuccess: () => {
        notice({ words, ...(undo ? { undo: () => acts.mutate(undo) } : {}) });
        onClear();
      },
    });
  return (
    <section className="chosen-bar" aria-label={t('theChosenRules')}>
      <p>
        {t.rich('chosenMessagesIn30Days', { count, told, read })}
        {!mayAll && ` ${t('someOfThemAreNot')}`}
      </p>
      <div className="acts">
        {mayAll && <StateActs chosen={chosen} act={act} />}
        {mayAll && <HandOverChosen chosen={chosen} act={act} />}
        <Button variant="outline-light" onClick={() => download(`${count}.json`, { rules: chosen.map(documentOf) })}>
          {t('export')}
        </Button>
        {mayAll && (
          <Button
            variant="outline-light"
            onClick={() => act({ act: 'delete', ids }, t('deleted', { count }), { act: 'undelete', ids })}
          >
            {t('delete', { count })}
          </Button>
        )}
        <Button variant="link" className="on-ink" onClick={onClear}>
          {t('clear')}
        </Button>
      </div>
    </section>
  );
}

/** What rules that are live, or paused, are told to do: each where it fits all that are chosen. */
function StateActs({ chosen, act }: { chosen: RuleRow[]; act: Act }) {
  const [pace, setPace] = useState<Pace>({ kind: 'digest', every: 'day', at: '08:30' });
  const ids = chosen.map((row) => row.id);
  const count = t('rules', { chosen: chosen.length });
  const isLive = chosen.every((row) => row.state === 'live');
  const pause = () =>
    act({ act: 'pause', ids }, t('pausedWhatTheyCatchIs', { count }), { act: 'resume', ids, catchUp: 'each' });
  const resume = () => act({ act: 'resume', ids, catchUp: 'summary' }, t('goOnWhatWasKept', { count }));
  return (
    <>
      {isLive && chosen.every((row) => !row.isPaused) && (
        <Button variant="outline-light" onClick={pause}>
          {t('pause')}
        </Button>
      )}
      {chosen.every((row) => row.isPaused) && (
        <Button variant="outline-light" onClick={resume}>
          {t('letThemGoOn')}
        </Button>
      )}
      {isLive && (
        <Chip
          label={t('anotherPace')}
          className="is-button on-ink"
          act={{
            words: t('giveItTo', { count }),
            run: () => act({ act: 'pace', ids, pace }, t('haveAnotherPace', { count })),
          }}
          editor={() => <PaceEditor pace={pace} onChange={setPace} />}
        >
          {t('anotherPace2')}
        </Chip>
      )}
      {isLive && (
        <Button
          variant="outline-light"
          onClick={() => act({ act: 'end', ids }, t('ended', { count }), { act: 'revive', ids })}
        >
          {t('end')}
        </Button>
      )}
    </>
  );
}

function HandOverChosen({ chosen, act }: { chosen: RuleRow[]; act: Act }) {
  const { me, person } = useViewer();
  const ids = chosen.map((row) => row.id);
  const count = t('rules', { chosen: chosen.length });
  const handTo = (to: string) =>
    act(
      { act: 'handOver', ids, to },
      to === me.id ? t('areYoursNow', { count }) : t('handedOver', { count, person: person(to) }),
      to === me.id ? undefined : { act: 'leaveOffer', ids },
    );
  return <HandOver className="is-button on-ink" onChoose={handTo} />;
}
