import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { ProblemNote, useNotice, useViewer } from '../../parts/index.ts';
import { useCost, useKeepAnEye } from '../../queries/index.ts';
import { t } from '../../words/sources.ts';
import {
  type Choice,
  type Chosen,
  type EyeTarget,
  firstChoice,
  linkedSources,
  nameOf,
  ruleOf,
  soonChoices,
  untilChoices,
  wayChoices,
  whatChoices,
} from './eye-choices.ts';

/** One sentence to complete, sensible from the start, with what it would have cost; one press keeps an eye on the thing. */
export function EyeEditor({ target, onDone }: { target: EyeTarget; onDone?: () => void }) {
  const viewer = useViewer();
  const { me, directory } = viewer;
  const notice = useNotice();
  const keep = useKeepAnEye();
  const { source, item } = target;
  const [chosen, setChosen] = useState(firstChoice(target));
  const [isLinked, setLinked] = useState(false);
  const [person, setPerson] = useState(me.id);
  const rows = [
    ['what', whatChoices(target)],
    ['soon', soonChoices()],
    ['by', wayChoices()],
    ['until', untilChoices(target, viewer, person === me.id)],
  ] as const;
  const of = (name: keyof Chosen, list: readonly Choice[]) =>
    list.find((one) => one.id === chosen[name]) ?? (list[0] as Choice);
  const parts = rows.map(([name, list]) => of(name, list));
  const named = nameOf(target);
  const rule = ruleOf(target, person, viewer, parts, isLinked);
  const cost = useCost(person === me.id ? rule : { ...rule, owner: me.id, to: [{ person: me.id }] }, 30, true);
  const messages = cost.data?.messages;
  const mayLink = item !== undefined && linkedSources(source, directory.sources).length > 0;
  const done =
    person === me.id ? t('youKeepAnEyeOn', { named }) : t('keepsAnEyeOn', { person: viewer.person(person), named });
  const save = () =>
    keep.mutate(
      { document: rule, person },
      {
        onSuccess: () => {
          notice({ words: done });
          onDone?.();
        },
      },
    );
  return (
    <div className="eye">
      <EyeSentence parts={parts} person={person} isLinked={isLinked} />
      {rows.map(([name, list]) => (
        <Choices
          key={name}
          name={name}
          list={list}
          chosen={of(name, list).id}
          onChoose={(id) => setChosen({ ...chosen, [name]: id })}
        />
      ))}
      {mayLink && (
        <Form.Check
          id="eye-linked"
          label={t('andWhatIsLinkedWith')}
          checked={isLinked}
          onChange={(event) => setLinked(event.target.checked)}
        />
      )}
      {directory.coordinates.includes(source.id) && (
        <Form.Select
          size="sm"
          aria-label={t('forWhom')}
          value={person}
          onChange={(event) => setPerson(event.target.value)}
        >
          {directory.people
            .filter((one) => one.isActive)
            .map((one) => (
              <option key={one.id} value={one.id}>
                {one.id === me.id ? t('forMe') : t('for', { name: one.name })}
              </option>
            ))}
        </Form.Select>
      )}
      {keep.error && <ProblemNote error={keep.error} />}
      <div className="acts">
        <Button disabled={keep.isPending} onClick={save}>
          {t('keepAnEyeOn', { shortName: shortName(item?.title ?? target.under?.name ?? source.name) })}
        </Button>
        <span className="small quiet" aria-live="polite">
          {messages === undefined ? ' ' : t.rich('wouldHaveBeenMessagesIn', { messages })}
        </span>
      </div>
    </div>
  );
}

const shortName = (name: string) => (name.length > 24 ? `${name.slice(0, 22).trimEnd()}…` : name);

/** What is chosen, as one sentence. */
function EyeSentence({ parts, person, isLinked }: { parts: Choice[]; person: string; isLinked: boolean }) {
  const viewer = useViewer();
  const [what, soon, by, end] = parts as [Choice, Choice, Choice, Choice];
  return (
    <p className="eye-sentence">
      {t.rich(person === viewer.me.id ? 'tellMeWhen' : 'tellThemWhen', {
        person: viewer.person(person),
        what: <u>{isLinked ? `${what.said} ${t('toItOrToWhat')}` : what.said}</u>,
        soon: <u>{soon.said}</u>,
        by: <u>{by.said}</u>,
        end: end.said && (
          <>
            , <u>{end.said}</u>
          </>
        ),
      })}
    </p>
  );
}

interface ChoicesProps {
  name: keyof Chosen;
  list: readonly Choice[];
  chosen: string;
  onChoose: (id: string) => void;
}

/** What can be chosen for a part of the sentence. */
const Choices = ({ name, list, chosen, onChoose }: ChoicesProps) => (
  <fieldset className="eye-row">
    <legend>{t(`row.${name}`)}</legend>
    {list.map((one) => (
      <button
        key={one.id}
        type="button"
        className={chosen === one.id ? 'is-chosen' : ''}
        aria-pressed={chosen === one.id}
        onClick={() => onChoose(one.id)}
      >
        {one.words}
      </button>
    ))}
  </fieldset>
);
