import { useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { Button, Form } from 'react-bootstrap';
import { z } from 'zod';
import type { ItemPage } from '../../../contract/wire/index.ts';
import { type Field, formatValue, type Source, type Value } from '../../../core/values/index.ts';
import { Refused, SendForm, useSending } from '../../forms/index.ts';
import { Time, useNotice, useViewer, useDraftKey } from '../../parts/index.ts';
import { editsIn, fieldIn, ItemFields, valuesOf, valuesShape } from './item-fields.tsx';
import { printInstant } from '../../../core/time/index.ts';
import { problemOf, useSaveItem } from '../../queries/index.ts';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/sources.ts';

/** What another person did to the item while it was being edited, as the door tells it. */
interface Meanwhile {
  field: string;
  by: string;
  at: number;
  theirs: Value;
  yours?: Value;
}
interface Conflict {
  version: number;
  meanwhile: Meanwhile[];
}

/** Where what is typed over an item is kept. */
export const itemPlace = (item: string): string => `item.${item}`;

/** Edits an item's fields; what is typed stays, whatever happens to the item meanwhile. */
export function ItemForm({ page, source, onDone }: { page: ItemPage; source: Source; onDone: () => void }) {
  const { item } = page;
  // The state that the edits began from: what arrives while one types must not move under one's hands.
  const [start, setStart] = useState({ version: item.version, fields: item.fields });
  const save = useSaveItem(item.id);
  const notice = useNotice();
  const sending = useSending({
    shape: z.object({ values: valuesShape(source, start.fields) }),
    start: { values: valuesOf(source, start.fields) },
    fieldOf: fieldIn(source),
    draft: useDraftKey(itemPlace(item.id)),
    send: ({ values }) => save.mutateAsync({ from: start.version, set: editsIn(source, start.fields, values) }),
    onSent: () => {
      notice({ words: t('isSaved', { title: item.title }) });
      onDone();
    },
  });
  const { form, refusal, isPending } = sending;
  const set = editsIn(source, start.fields, form.watch('values'));
  const edited = Object.keys(set).length;
  const conflict = conflictIn(refusal);
  /** Goes on from what is there now: fields where the other's value is taken are no longer edits. */
  const goOn = (found: Conflict, taken: string[]) => {
    const theirs = Object.fromEntries(found.meanwhile.map((one) => [one.field, one.theirs]));
    const fields = { ...start.fields, ...theirs };
    const kept = Object.fromEntries(Object.entries(set).filter(([id]) => !taken.includes(id)));
    if (Object.keys(kept).length === 0) return onDone();
    // Sent once the form stands on what is there now.
    flushSync(() => setStart({ version: found.version, fields }));
    form.reset({ values: valuesOf(source, { ...fields, ...kept }) });
    again.current();
  };
  const again = useRef(sending.submit);
  again.current = sending.submit;

  return (
    <SendForm sending={sending} className="field-form mt-3">
      {conflict ? (
        <Clash
          key={conflict.version}
          conflict={conflict}
          source={source}
          names={page.names}
          onGoOn={(taken) => goOn(conflict, taken)}
        />
      ) : (
        <Refused sending={sending} />
      )}
      <ItemFields sending={sending} source={source} isEdited={(field) => field.id in set} />
      <div className="acts">
        <Button type="submit" disabled={edited === 0 || isPending || conflict !== null}>
          {isPending ? t('saving') : t('saveEdits', { edited })}
        </Button>
        <Button
          variant="quiet"
          onClick={() => {
            sending.giveUp();
            onDone();
          }}
        >
          {edited === 0 ? t('close') : t('dropEdits')}
        </Button>
      </div>
    </SendForm>
  );
}

function conflictIn(refusal: unknown): Conflict | null {
  const problem = refusal === null ? null : problemOf(refusal);
  return problem?.code === 'editedMeanwhile' ? (problem.conflict as Conflict) : null;
}

/** Tells the second of two writers what the first did, field by field, and lets them choose where both wrote. */
function Clash({
  conflict,
  source,
  names,
  onGoOn,
}: {
  conflict: Conflict;
  source: Source;
  names: Record<string, string>;
  onGoOn: (taken: string[]) => void;
}) {
  const { me, person, names: namesFor } = useViewer();
  const both = conflict.meanwhile.filter((one) => one.yours !== undefined);
  const [taken, setTaken] = useState<string[]>([]);
  const say = (field: Field | undefined, value: Value | undefined) =>
    (field && formatValue(field, value, me, namesFor(names))) || t('empty');
  const who = [...new Set(conflict.meanwhile.map((one) => person(one.by)))];
  return (
    <div className="clash" role="alert">
      {t.rich('editedThisWhileYouDid', { who: who.length > 0 ? phrases().and(who) : t('somebody') })}
      <ul>
        {conflict.meanwhile.map((one) => {
          const field = source.fields.find((known) => known.id === one.field);
          const isBoth = one.yours !== undefined;
          return (
            <li key={one.field}>
              <div>
                {t.rich('isNowBy', {
                  name: field?.name ?? one.field,
                  say: say(field, one.theirs),
                  person: person(one.by),
                  time: <Time at={printInstant(one.at)} />,
                })}
              </div>
              {isBoth && (
                <div role="radiogroup" aria-label={t('whichStays', { name: field?.name ?? one.field })}>
                  <Form.Check
                    inline
                    type="radio"
                    id={`mine-${one.field}`}
                    name={`clash-${one.field}`}
                    label={t('yours', { say: say(field, one.yours) })}
                    checked={!taken.includes(one.field)}
                    onChange={() => setTaken((now) => now.filter((id) => id !== one.field))}
                  />
                  <Form.Check
                    inline
                    type="radio"
                    id={`theirs-${one.field}`}
                    name={`clash-${one.field}`}
                    label={t('theirs', { say: say(field, one.theirs) })}
                    checked={taken.includes(one.field)}
                    onChange={() => setTaken((now) => [...now, one.field])}
                  />
                </div>
              )}
            </li>
          );
        })}
      </ul>
      <div className="mt-2">
        <Button size="sm" onClick={() => onGoOn(taken)}>
          {both.length === 0 ? t('saveYoursAsWell') : t('saveAsChosen')}
        </Button>
      </div>
    </div>
  );
}
