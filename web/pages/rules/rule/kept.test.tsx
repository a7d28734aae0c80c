// @vitest-environment jsdom
import { act, screen, waitFor } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import { draw, Keeper, rowOf, ruleOf } from '../../../testing/drawing.tsx';
import { refuse, serve } from '../../../testing/serving.ts';
import { useKept } from './kept.ts';

const ROW = rowOf({ draftRevision: 3 });

interface EditingProps {
  row: RuleRow;
  rule: Rule;
  mayKeep?: boolean;
  onTheirs?: (rule: Rule) => void;
}

/** A rule's page as far as it keeps what is edited. */
function Editing({ row, rule, mayKeep = true, onTheirs = () => undefined }: EditingProps) {
  const kept = useKept(row, rule, mayKeep, onTheirs);
  return (
    <>
      <button type="button" onClick={() => void kept.settle().then((revision) => settled.push(revision))}>
        settle
      </button>
      {kept.error ? <p role="alert">refused</p> : null}
    </>
  );
}
let settled: number[] = [];

beforeEach(() => {
  settled = [];
  vi.useFakeTimers({ shouldAdvanceTime: true });
});
afterEach(() => vi.useRealTimers());

const named = (name: string) => ruleOf({ name });

describe('edits of a known rule', () => {
  it('are kept on the server shortly after the last of them, each from the revision before', async () => {
    let revision = ROW.draftRevision;
    const asked = serve({ 'rules.keepDraft': () => ({ ...ROW, draftRevision: ++revision }) });
    let set: (rule: Rule) => void = () => undefined;
    draw(
      <Keeper first={ruleOf()}>
        {(rule, put) => {
          set = put;
          return <Editing row={ROW} rule={rule} />;
        }}
      </Keeper>,
    );
    for (const name of ['L', 'Lo', 'Loans']) act(() => set(named(name)));
    expect(asked).toEqual([]);
    await act(() => vi.advanceTimersByTimeAsync(700));
    act(() => set(named('Loans again')));
    await act(() => vi.advanceTimersByTimeAsync(700));
    const sent = asked.map(({ body }) => body as { revision: number; document: Rule });
    expect(sent.map((one) => [one.revision, one.document.name])).toEqual([
      [3, 'Loans'],
      [4, 'Loans again'],
    ]);
  });

  it('that are not sound, or not one’s own to keep, are not sent', async () => {
    const asked = serve({});
    draw(<Editing row={ROW} rule={named('x')} mayKeep={false} />);
    draw(<Editing row={{ ...ROW, mayEdit: false }} rule={named('x')} />);
    await act(() => vi.advanceTimersByTimeAsync(2000));
    expect(asked).toEqual([]);
  });

  it('are all kept before the rule goes live, however fast that is pressed', async () => {
    serve({ 'rules.keepDraft': () => ({ ...ROW, draftRevision: 8 }) });
    const { user } = draw(<Editing row={ROW} rule={named('At once')} />);
    await user.click(screen.getByRole('button', { name: 'settle' }));
    await waitFor(() => expect(settled).toEqual([8]));
  });

  it('stay here where somebody else has kept others meanwhile, and say so', async () => {
    serve({ 'rules.keepDraft': () => refuse('editedMeanwhile') });
    const onTheirs = vi.fn();
    draw(<Editing row={ROW} rule={named('Mine')} onTheirs={onTheirs} />);
    await act(() => vi.advanceTimersByTimeAsync(700));
    expect(await screen.findByRole('alert')).toBeDefined();
    expect(onTheirs).not.toHaveBeenCalled();
  });

  it('of somebody else are taken over where nothing is edited here', async () => {
    serve({});
    const onTheirs = vi.fn();
    const theirs = { ...ROW, draft: named('Theirs'), draftRevision: 9 };
    let show: (row: RuleRow) => void = () => undefined;
    draw(
      <Keeper first={ROW}>
        {(row, put) => {
          show = put;
          return <Editing row={row} rule={ruleOf()} onTheirs={onTheirs} />;
        }}
      </Keeper>,
    );
    act(() => show(theirs));
    expect(onTheirs).toHaveBeenCalledWith(named('Theirs'));
  });
});
