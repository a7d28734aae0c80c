import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import type { Pace } from '../../../../core/people/index.ts';
import { useNotice, useViewer, refusalWords } from '../../../parts/index.ts';
import { useRuleActs } from '../../../queries/index.ts';
import { download } from '../export.ts';
import { Chip } from '../editors/chip.tsx';
import { PaceEditor } from '../editors/pace-editor.tsx';
import { documentOf } from './troubles.ts';
import { t } from '../../../words/rules.ts';

/** What is done to the rules that are chosen, all at once. */
export function ChosenBar({ chosen, onClear }: { chosen: RuleRow[]; onClear: () => void }) {
  const { directory } = useViewer();
  const notice = useNotice();
  const acts = useRuleActs();
  const [pace, setPace] = useState<Pace>({ kind: 'digest', every: 'day', at: '08:30' });
  const ids = chosen.map((row) => row.id);
  const count = t('rules', { chosen: chosen.length });
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
      onError: (error) => notice({ words: refusalWords(error) }),
    });
  return (
    <section className="chosen-bar" aria-label={t('theChosenRules')}>
      <p>
        {t.rich('chosenMessagesIn30Days', { count, told, read })}
        {!mayAll && ` ${t('someOfThemAreNot')}`}
      </p>
      <div className="acts">
        {mayAll && isAll((row) => row.state === 'live' && !row.isPaused) && (
          <Button
            variant="outline-light"
            onClick={() =>
              act({ act: 'pause', ids }, t('pausedWhatTheyCatchIs', { count }), {
                act: 'resume',
                ids,
                catchUp: 'each',
              })
            }
          >
            {t('pause')}
          </Button>
        )}
        {mayAll && isAll((row) => row.isPaused) && (
          <Button
            variant="outline-light"
            onClick={() => act({ act: 'resume', ids, catchUp: 'summary' }, t('goOnWhatWasKept', { count }))}
          >
            {t('letThemGoOn')}
          </Button>
        )}
        {mayAll && isAll((row) => row.state === 'live') && (
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
        {mayAll && (
          <Chip
            label={t('handOver')}
            className="is-button on-ink"
            editor={(close) => (
              <Form.Select
                aria-label={t('toWhom')}
                value=""
                onChange={(event) => {
                  act({ act: 'handOver', ids, to: event.target.value }, t('handedOver', { count }));
                  close();
                }}
              >
                <option value="">{t('to')}</option>
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
            {t('handOver2')}
          </Chip>
        )}
        {mayAll && isAll((row) => row.state === 'live') && (
          <Button variant="outline-light" onClick={() => act({ act: 'end', ids }, t('ended', { count }))}>
            {t('end')}
          </Button>
        )}
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
