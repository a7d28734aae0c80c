import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { RuleAct, RuleRow } from '../../../../contract/wire/index.ts';
import { rulePath } from '../../../../core/messages/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import { ProblemNote, useNotice, useViewer } from '../../../parts/index.ts';
import { useChangeLive, useRuleActs, useSuggestions } from '../../../queries/index.ts';
import { figure } from '../../../words/index.ts';
import { t } from '../../../words/rules.ts';
import { suggestionWords } from '../trial/suggestions.tsx';
import { documentOf, type Trouble } from './troubles.ts';

interface MendProps {
  row: RuleRow;
  trouble: Trouble;
}

/** What is best done about a rule's trouble, where it stands: one press does it, and says how to take that back. */
export function Mend({ row, trouble }: MendProps) {
  if (!row.mayEdit) return <SeeRule row={row} trouble={trouble} />;
  switch (trouble.act) {
    case 'suggestion':
      return row.draft === null ? <Quieter row={row} /> : <SeeRule row={row} trouble={trouble} />;
    case 'resume':
      return <GoOn row={row} />;
    case 'takeOver':
      return <TakeOver row={row} />;
    case 'end':
      return <EndIt row={row} trouble={trouble} />;
    case 'leaveOut':
      return row.draft === null ? <LeaveOut row={row} /> : <SeeRule row={row} trouble={trouble} />;
    case 'open':
      return <SeeRule row={row} trouble={trouble} />;
    default:
      return trouble.act satisfies never;
  }
}

function SeeRule({ row, trouble }: MendProps) {
  const ways: Partial<Record<Trouble['kind'], string>> = {
    silent: t('seeWhatItWaitsFor'),
    twin: t('seeWhichToEnd'),
    runOut: t('giveItAnotherDay'),
  };
  return <Link to={rulePath(row.id)}>{ways[trouble.kind] ?? t('seeToIt')}</Link>;
}

/** Does something to a rule and says so; a refusal stands where it was pressed. */
function useAct(row: RuleRow) {
  const acts = useRuleActs();
  const notice = useNotice();
  const act = (does: RuleAct, words: string, undo?: RuleAct) =>
    acts.mutate(does, {
      onSuccess: () => notice({ words, ...(undo ? { undo: () => acts.mutate(undo) } : {}) }),
    });
  return { act, isPending: acts.isPending, ids: [row.id], name: documentOf(row).name };
}

function GoOn({ row }: { row: RuleRow }) {
  const { act, isPending, ids, name } = useAct(row);
  const goOn = (words: string, catchUp: 'summary' | 'skip', undo?: RuleAct) => (
    <Button
      variant="link"
      disabled={isPending}
      onClick={() => act({ act: 'resume', ids, catchUp }, t('goesOn', { name }), undo)}
    >
      {words}
    </Button>
  );
  if (row.kept === 0) return goOn(t('letItGoOn'), 'skip', { act: 'pause', ids });
  return (
    <span className="ways">
      {goOn(t('goOnAndTell', { kept: row.kept }), 'summary')} {goOn(t('goOnWithout'), 'skip')}
    </span>
  );
}

function TakeOver({ row }: { row: RuleRow }) {
  const { me } = useViewer();
  const { act, isPending, ids, name } = useAct(row);
  return (
    <span className="ways">
      <Button
        variant="link"
        disabled={isPending}
        onClick={() => act({ act: 'handOver', ids, to: me.id }, t('isYoursNow', { name }))}
      >
        {t('takeItOver')}
      </Button>{' '}
      <Link to={rulePath(row.id)}>{t('handItOver')}</Link>
    </span>
  );
}

function EndIt({ row, trouble }: MendProps) {
  const { act, isPending, ids, name } = useAct(row);
  return (
    <span className="ways">
      <Button
        variant="link"
        disabled={isPending}
        onClick={() => act({ act: 'end', ids }, t('hasEnded', { name }), { act: 'revive', ids })}
      >
        {t('endIt')}
      </Button>{' '}
      <SeeRule row={row} trouble={trouble} />
    </span>
  );
}

/** Puts another version live by one press, which puts the one before it back where that is asked for. */
function ChangeLive({ row, to, words, why }: { row: RuleRow; to: Rule; words: string; why: string }) {
  const change = useChangeLive();
  const notice = useNotice();
  const before = documentOf(row);
  const put = () =>
    change.mutate(
      { document: to, revision: row.draftRevision, why },
      {
        onSuccess: ({ draftRevision: revision, ask }) =>
          notice(
            ask
              ? { words: t('waitsForEyes') }
              : {
                  words: t('isLiveSo', { name: before.name, how: why }),
                  undo: () => change.mutate({ document: before, revision, why: t('takenBack') }),
                },
          ),
      },
    );
  return (
    <>
      <Button variant="link" disabled={change.isPending} onClick={put}>
        {words}
      </Button>
      {change.error && <ProblemNote error={change.error} />}
    </>
  );
}

/** Of a noisy rule the suggestion that leaves least, with what it would leave. */
function Quieter({ row }: { row: RuleRow }) {
  const rule = documentOf(row);
  const suggestions = useSuggestions(rule, 30, true);
  const best = (suggestions.data ?? []).toSorted((a, b) => a.messages - b.messages)[0];
  if (!best) return <span className="quiet small">{suggestions.isFetching ? t('counting') : ' '}</span>;
  const { id, owner, name } = rule;
  const words = suggestionWords(best);
  return (
    <span className="ways">
      <ChangeLive row={row} to={{ ...best.document, id, owner, name }} words={words} why={words} />{' '}
      <span className="nowrap quiet small">
        {t.rich('messagesAMonth', { messages: <mark>{figure(best.messages)}</mark> })}
      </span>
    </span>
  );
}

/** Takes somebody who has left out of a rule that tells others too. */
function LeaveOut({ row }: { row: RuleRow }) {
  const { person } = useViewer();
  const rule = documentOf(row);
  const gone = String(row.faults[0]?.params.person);
  const named = JSON.stringify({ person: gone });
  const to = rule.to.filter((one) => JSON.stringify(one) !== named);
  if (to.length === 0 || to.length === rule.to.length) return <Link to={rulePath(row.id)}>{t('seeToIt')}</Link>;
  const words = t('leaveOut', { person: person(gone) });
  return <ChangeLive row={row} to={{ ...rule, to }} words={words} why={words} />;
}
