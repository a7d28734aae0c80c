import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { ProblemNote, useNotice, useViewer } from '../../parts/index.ts';
import { useCost, useKeepAnEye, useReaders } from '../../queries/index.ts';
import { phrases } from '../../words/index.ts';
import { t as said } from '../../words/eye.ts';
import { t } from '../../words/sources.ts';
import { Chip } from '../rules/editors/chip.tsx';
import { RhythmHint } from '../rules/editors/rhythm-hint.tsx';
import {
  BY_WHOM,
  type EyeChoice,
  type EyeTarget,
  eyeRule,
  firstChoice,
  nameOf,
  soonsFor,
  WAYS,
} from './eye-choices.ts';
import { OneOf, UntilEditor, WhatEditor } from './eye-editors.tsx';
import { eyeWords } from './eye-words.ts';

/** One sentence whose parts one presses, sensible from the start, with what it would have cost; one press keeps an eye on the thing. */
export function EyeEditor({ target, onDone }: { target: EyeTarget; onDone?: () => void }) {
  const viewer = useViewer();
  const { me } = viewer;
  const notice = useNotice();
  const keep = useKeepAnEye();
  const [choice, setChoice] = useState(() => firstChoice(target, me.id));
  const { whose } = choice;
  const rule = eyeRule(target, choice, viewer);
  const cost = useCost({ ...rule, owner: me.id, to: [{ person: me.id }] }, 30, true);
  const messages = cost.data?.messages;
  const named = nameOf(target);
  const done =
    whose === me.id ? t('youKeepAnEyeOn', { named }) : t('keepsAnEyeOn', { person: viewer.person(whose), named });
  const save = () =>
    keep.mutate(
      { document: rule, person: whose },
      {
        onSuccess: () => {
          notice({ words: done });
          onDone?.();
        },
      },
    );
  return (
    <div className="eye">
      <EyeSentence
        target={target}
        choice={choice}
        onChange={(part) => setChoice((before) => ({ ...before, ...part }))}
      />
      <MayRead target={target} person={whose} />
      {keep.error && <ProblemNote error={keep.error} />}
      <div className="acts">
        <Button disabled={keep.isPending} onClick={save}>
          {t('keepAnEyeOn', { shortName: shortName(nameOnButton(target)) })}
        </Button>
        <span className="small quiet" aria-live="polite">
          {messages === undefined ? ' ' : t.rich('wouldHaveBeenMessagesIn', { messages })}
        </span>
      </div>
    </div>
  );
}

const nameOnButton = (target: EyeTarget): string =>
  target.these ? nameOf(target) : (target.item?.title ?? target.under?.name ?? target.source.name);

const shortName = (name: string) => (name.length > 24 ? `${name.slice(0, 22).trimEnd()}…` : name);

interface SentenceProps {
  target: EyeTarget;
  choice: EyeChoice;
  onChange: (part: Partial<EyeChoice>) => void;
}

/** What is chosen, as one sentence; each part of it opens to be changed. */
function EyeSentence({ target, choice, onChange }: SentenceProps) {
  const viewer = useViewer();
  const { me } = viewer;
  const ruleFor = (one: EyeChoice) => eyeRule(target, one, viewer);
  const words = eyeWords(ruleFor(choice), viewer);
  const parts = { target, choice, onChange };
  const among = { choice, ruleFor, onChange };
  const by = (
    <Chip label={said('label.by')} editor={() => <OneOf part="by" options={BY_WHOM} {...among} />}>
      {words.by}
    </Chip>
  );
  return (
    <p className="eye-sentence say">
      {said.rich(choice.whose === me.id ? 'sentence' : 'sentenceForOther', {
        named: nameOf(target),
        whose: <Whose {...parts} />,
        what: (
          <Chip label={said('label.what')} editor={() => <WhatEditor {...parts} />}>
            {words.what}
          </Chip>
        ),
        by:
          words.by === '' ? (
            ''
          ) : (
            <>
              {'\u2060, '}
              {by}
            </>
          ),
        until: (
          <Chip label={said('label.until')} editor={() => <UntilEditor {...parts} />}>
            {words.until}
          </Chip>
        ),
        soon: (
          <Chip
            label={said('label.soon')}
            editor={() => (
              <>
                <OneOf part="soon" options={soonsFor(choice.what)} {...among} />
                {choice.soon === 'settled' && (
                  <RhythmHint
                    source={target.source.id}
                    item={target.item?.id ?? null}
                    quiet={choice.quiet}
                    onChange={(quiet) => onChange({ quiet })}
                  />
                )}
              </>
            )}
          >
            {words.soon}
          </Chip>
        ),
        way: (
          <Chip label={said('label.way')} editor={() => <OneOf part="way" options={WAYS} {...among} />}>
            {words.way}
          </Chip>
        ),
      })}
    </p>
  );
}

/** Who hears: whoever asks, or, for those who make rules for others here, anybody. */
function Whose({ target: { source }, choice: { whose }, onChange }: SentenceProps) {
  const { me, directory, person } = useViewer();
  const words = whose === me.id ? said('i') : person(whose);
  if (!directory.coordinates.includes(source.id)) return words;
  return (
    <Chip
      label={said('label.whose')}
      editor={() => (
        <Form.Select
          aria-label={said('label.whose')}
          value={whose}
          onChange={(event) => onChange({ whose: event.target.value })}
        >
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
      {words}
    </Chip>
  );
}

/** That somebody may not read what they would keep an eye on, and who could open it to them: said before it is kept. */
function MayRead({ target: { source, item }, person: id }: { target: EyeTarget; person: string }) {
  const { me, person, directory } = useViewer();
  const readers = useReaders(source.id, item?.id ?? null, id !== me.id);
  if (id === me.id || !readers.data || readers.data.includes(id)) return null;
  return (
    <p className="fault small" role="status">
      {said('mayNotRead', { person: person(id) })}{' '}
      {directory.stewards.length > 0 &&
        said('stewardsCanOpen', { stewards: phrases().or(directory.stewards.map(person)) })}
    </p>
  );
}
