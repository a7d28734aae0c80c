import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { ItemPage } from '../../../contract/wire/index.ts';
import {
  type Field,
  type Fields,
  formatValue,
  sameValue,
  type Source,
  type Value,
} from '../../../core/values/index.ts';
import { ProblemNote, Time, useNotice, useViewer, ValueInput } from '../../parts/index.ts';
import { printInstant } from '../../../core/time/index.ts';
import { problemOf, useSaveItem } from '../../queries/index.ts';
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

/** Edits an item's fields; what is typed stays, whatever happens to the item meanwhile. */
export function ItemForm({ page, source, onDone }: { page: ItemPage; source: Source; onDone: () => void }) {
  const { item } = page;
  // The state that the edits began from: what arrives while one types must not move under one's hands.
  const [start, setStart] = useState({ version: item.version, fields: item.fields });
  const [set, setSet] = useState<Fields>({});
  const save = useSaveItem(item.id);
  const notice = useNotice();
  const edited = Object.keys(set).length;
  const problem = save.error ? problemOf(save.error) : null;
  const conflict = problem?.code === 'editedMeanwhile' ? (problem.conflict as Conflict) : null;

  const put = (field: Field, value: Value) =>
    setSet((now) => {
      const next = { ...now, [field.id]: value };
      if (sameValue(field.type, value, start.fields[field.id])) delete next[field.id];
      return next;
    });
  const submit = (from: number, values: Fields) =>
    save.mutate(
      { from, set: values },
      {
        onSuccess: () => {
          notice({ words: t('isSaved', { title: item.title }) });
          onDone();
        },
      },
    );
  /** Goes on from what is there now: fields where the other's value is taken are no longer edits. */
  const goOn = (found: Conflict, taken: string[]) => {
    const values = Object.fromEntries(Object.entries(set).filter(([id]) => !taken.includes(id)));
    setSet(values);
    setStart({
      version: found.version,
      fields: { ...start.fields, ...Object.fromEntries(found.meanwhile.map((one) => [one.field, one.theirs])) },
    });
    save.reset();
    if (Object.keys(values).length === 0) onDone();
    else submit(found.version, values);
  };

  return (
    <Form
      className="field-form mt-3"
      onSubmit={(event) => {
        event.preventDefault();
        submit(start.version, set);
      }}
    >
      {conflict && (
        <Clash
          key={conflict.version}
          conflict={conflict}
          source={source}
          names={page.names}
          onGoOn={(taken) => goOn(conflict, taken)}
        />
      )}
      {problem && !conflict && <ProblemNote error={save.error} />}
      {source.fields.map((field) => {
        const value = field.id in set ? (set[field.id] ?? null) : (start.fields[field.id] ?? null);
        const fault = problem?.faults?.find((one) => one.path === field.id);
        return (
          <div key={field.id} className={field.id in set ? 'is-edited' : ''}>
            <Form.Label htmlFor={`field-${field.id}`}>{field.name}</Form.Label>
            <ValueInput
              id={`field-${field.id}`}
              field={field}
              value={value}
              onChange={(next) => put(field, next)}
              isInvalid={fault !== undefined}
            />
            {fault && <div className="fault small">{fault.words}</div>}
          </div>
        );
      })}
      <div className="acts">
        <Button type="submit" disabled={edited === 0 || save.isPending || conflict !== null}>
          {save.isPending ? t('saving') : t('saveEdits', { edited })}
        </Button>
        <Button variant="quiet" onClick={onDone}>
          {edited === 0 ? t('close') : t('dropEdits')}
        </Button>
      </div>
    </Form>
  );
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
    (field && formatValue(field, value, me, namesFor(names))) || 'empty';
  const who = [...new Set(conflict.meanwhile.map((one) => person(one.by)))].join(' and ');
  return (
    <div className="clash" role="alert">
      {t.rich('editedThisWhileYouDid', { who: who || t('somebody') })}
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
