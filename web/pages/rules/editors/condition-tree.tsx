import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { conditionWords } from '../../../../core/messages/index.ts';
import { type Condition, type StateTest, kindOf, partsOf } from '../../../../core/rules/index.ts';
import type { Source, Field } from '../../../../core/values/index.ts';
import { phrasingOf, Said, useViewer } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';
import { ClauseEditor } from './clause-editor.tsx';
import {
  asGroup,
  fromGroup,
  groupWords,
  type Group,
  type GroupKind,
  groupOf,
  insideOf,
  joinerWords,
  moved,
  withInside,
  wrapped,
} from './condition-groups.ts';
import { firstTest } from './test-editor.tsx';
import { t } from '../../../words/editors.ts';

interface TreeProps {
  source: Source;
  className: string;
  isFixed: boolean;
  /** Whether tests of what a change did may stand here, or only of how the item stands. */
  isOfState: boolean;
}

/** The parts of a condition as chips in a row; groups within it stand on lines of their own. */
export function ConditionTree({
  node,
  onChange,
  addWords,
  ...tree
}: TreeProps & { node: Condition; onChange: (node: Condition) => void; addWords: (joiner: string | null) => string }) {
  const group = asGroup(node, tree.isOfState ? 'all' : 'any');
  const put = (next: Group) => onChange(fromGroup(next));
  return <Members group={group} onPut={put} onLift={null} addWords={addWords} {...tree} />;
}

/** The part that is added: a test of a state, a choice that becomes so, else any change. */
function freshPart(field: Field | undefined, isOfState: boolean): Condition {
  if (field && isOfState) return firstTest(field);
  return field?.type === 'choice' ? { became: firstTest(field) } : { changed: '*' };
}

interface MembersProps extends TreeProps {
  group: Group;
  onPut: (group: Group) => void;
  onLift: ((part: Condition, rest: Condition[]) => void) | null;
}

function Members({ addWords, ...members }: MembersProps & { addWords: (joiner: string | null) => string }) {
  const { group, onPut, source, isFixed, className, isOfState } = members;
  const { kind, parts } = group;
  const [added, setAdded] = useState(-1);
  const first = source.fields.find((field) => field.type === 'choice') ?? source.fields[0];
  return (
    <>
      {parts.map((part, at) => (
        <Member key={`${at} ${parts.length}`} {...members} part={part} at={at} isNew={at === added} />
      ))}
      {!isFixed && (
        <button
          type="button"
          className={`chip is-adding ${className && parts.length === 0 ? className : ''}`}
          onClick={() => {
            setAdded(parts.length);
            onPut({ kind, parts: [...parts, freshPart(first, isOfState)] });
          }}
        >
          {addWords(parts.length === 0 ? null : joinerWords(kind))}
        </button>
      )}
    </>
  );
}

/** One part of a group, with what joins it to the one before. */
function Member({
  group,
  onPut,
  onLift,
  part,
  at,
  isNew,
  ...tree
}: MembersProps & { part: Condition; at: number; isNew: boolean }) {
  const { kind, parts } = group;
  const joiner = joinerWords(kind);
  const putParts = (next: Condition[]) => onPut({ kind, parts: next });
  const moves = movesOf(group, at, putParts, onLift);
  const put = (next: Condition) => putParts(parts.with(at, next));
  const take = () => putParts(parts.toSpliced(at, 1));
  return (
    <span style={{ display: 'contents' }}>
      {at > 0 && (
        <button
          type="button"
          className="btn btn-link"
          disabled={tree.isFixed}
          aria-label={t('joinedByPressForThe', { joiner })}
          onClick={() => onPut({ kind: kind === 'any' ? 'all' : 'any', parts })}
        >
          {joiner}
        </button>
      )}
      {groupOf(part) ? (
        <Nest
          part={part}
          onPut={put}
          onRemove={take}
          onLift={(lifted, rest) =>
            putParts(parts.toSpliced(at, 1, ...(rest.length > 0 ? [withInside(part, rest)] : []), lifted))
          }
          moves={moves}
          {...tree}
        />
      ) : (
        <Leaf part={part} isNew={isNew} onPut={put} onRemove={take} moves={moves} {...tree} />
      )}
    </span>
  );
}

/** Where a part of a group can be put instead. */
function movesOf(
  { kind, parts }: Group,
  at: number,
  put: (parts: Condition[]) => void,
  onLift: MembersProps['onLift'],
): Move[] {
  const part = parts[at] as Condition;
  const before = parts[at - 1];
  const all: (Move | false)[] = [
    at > 0 && { words: t('earlier'), act: () => put(moved(parts, at, at - 1)) },
    at < parts.length - 1 && { words: t('later'), act: () => put(moved(parts, at, at + 1)) },
    before !== undefined &&
      groupOf(before) !== null && {
        words: t('intoTheGroupBefore'),
        act: () => put(parts.toSpliced(at - 1, 2, joinedTo(before, part))),
      },
    parts.length > 1 && { words: t('intoAGroupOfIts'), act: () => put(parts.with(at, wrapped(part, kind))) },
    onLift !== null && { words: t('outOfThisGroup'), act: () => onLift(part, parts.toSpliced(at, 1)) },
  ];
  return all.filter((move) => move !== false);
}

/** A part put at the end of the group before it. */
const joinedTo = (group: Condition, part: Condition): Condition => withInside(group, [...insideOf(group), part]);

interface Move {
  words: string;
  act: () => void;
}

const Moves = ({ moves }: { moves: Move[] }) =>
  moves.length === 0 ? null : (
    <div className="moves">
      <span className="quiet small">{t('move')}</span>
      {moves.map(({ words, act }) => (
        <Button key={words} variant="link" size="sm" onClick={act}>
          {words}
        </Button>
      ))}
    </div>
  );

function Leaf({
  part,
  isNew,
  source,
  className,
  isFixed,
  isOfState,
  moves,
  onPut,
  onRemove,
}: TreeProps & {
  part: Condition;
  isNew: boolean;
  moves: Move[];
  onPut: (part: Condition) => void;
  onRemove: () => void;
}) {
  const viewer = useViewer();
  return (
    <Chip
      label={isOfState ? t('narrowedTo') : t('whatHasToHappen')}
      startsOpen={isNew}
      className={className}
      disabled={isFixed}
      onRemove={onRemove}
      editor={() => (
        <>
          <ClauseEditor clause={part} source={source} isOfState={isOfState} onChange={onPut} />
          <Moves moves={moves} />
        </>
      )}
    >
      <Said words={conditionWords(part, phrasingOf(source, viewer))} />
    </Chip>
  );
}

/** A group within a group: its word, and what is in it, on a line of its own. */
function Nest({
  part,
  moves,
  onPut,
  onRemove,
  onLift,
  ...tree
}: TreeProps & {
  part: Condition;
  moves: Move[];
  onPut: (part: Condition) => void;
  onRemove: () => void;
  onLift: (part: Condition, rest: Condition[]) => void;
}) {
  const group = groupOf(part) as { turn: string | null; kind: GroupKind };
  const { isFixed, className, isOfState } = tree;
  const inside = insideOf(part);
  const kinds = Object.keys(groupWords()) as GroupKind[];
  const turns = isOfState ? [] : (['became', 'ceased', 'was'] as const);
  const isState = isOfState || group.turn !== null;
  return (
    <div className="nest">
      <Chip
        label={t('theGroupsWord')}
        className={className}
        disabled={isFixed}
        onRemove={onRemove}
        editor={() => (
          <>
            <Form.Select
              aria-label={t('howItsPartsAreJoined')}
              value={group.kind}
              onChange={(event) => onPut(regrouped(part, group.turn, event.target.value as GroupKind))}
            >
              {kinds.map((kind) => (
                <option key={kind} value={kind}>
                  {groupWords()[kind]}
                </option>
              ))}
            </Form.Select>
            {turns.length > 0 && inside.every(isStateTest) && (
              <Form.Select
                aria-label={t('whenItIsJudged')}
                value={group.turn ?? ''}
                onChange={(event) => onPut(regrouped(part, event.target.value || null, group.kind))}
              >
                <option value="">{t('asEachPartSays')}</option>
                {turns.map((turn) => (
                  <option key={turn} value={turn}>
                    {turnWords()[turn]}
                  </option>
                ))}
              </Form.Select>
            )}
            <Moves moves={moves} />
          </>
        )}
      >
        {group.turn && `${turnWords()[group.turn as Turn]}: `}
        <strong>{groupWords()[group.kind]}</strong>
      </Chip>
      <Members
        group={{ kind: group.kind, parts: inside }}
        onPut={(next) => onPut(regroupedWith(group.turn, next))}
        onLift={isState && !isOfState ? null : onLift}
        addWords={(joiner) => (joiner ? t('addJoined', { joiner }) : t('add'))}
        {...tree}
        isOfState={isState}
      />
    </div>
  );
}

type Turn = 'became' | 'ceased' | 'was';

const turnWords = (): Record<Turn, string> => ({
  became: t('atTheMomentItBecomes'),
  ceased: t('atTheMomentItIs'),
  was: t('ifBeforeTheChangeItWas'),
});

/** Whether a condition asks about one state alone, so that it can stand within a turn. */
const isStateTest = (part: Condition): part is StateTest =>
  ['test', 'all', 'any', 'none'].includes(kindOf(part)) && partsOf(part).every(isStateTest);

const regrouped = (part: Condition, turn: string | null, kind: GroupKind): Condition =>
  regroupedWith(turn, { kind, parts: insideOf(part) });

function regroupedWith(turn: string | null, { kind, parts }: Group): Condition {
  const tree = { [kind]: parts } as Condition;
  return turn === null ? tree : ({ [turn]: tree } as Condition);
}
