import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Combobox, type Found, ProblemNote, useNotice, useViewer } from '../../parts/index.ts';
import type { Passing } from '../../../contract/wire/index.ts';
import { usePass, usePassCheck } from '../../queries/index.ts';
import { t } from '../../words/inbox.ts';
import { phrases } from '../../words/index.ts';

type Named = { person: string } | { group: string };

/** Passes an item, or what a message tells of it, on to colleagues with a word of one's own. Whoever may not read it is named first. */
export function PassOn({ item, message, onDone }: { item: string; message?: string; onDone: () => void }) {
  const { me, directory, person, group } = useViewer();
  const notice = useNotice();
  const [named, setNamed] = useState<Named[]>([]);
  const [word, setWord] = useState('');
  const passing: Passing = {
    item,
    ...(message ? { message } : {}),
    people: named.flatMap((one) => ('person' in one ? [one.person] : [])),
    groups: named.flatMap((one) => ('group' in one ? [one.group] : [])),
  };
  const check = usePassCheck(passing);
  const pass = usePass();
  const known = new Set(named.map((one) => JSON.stringify(one)));
  const offers: Found<Named>[] = [
    ...directory.people
      .filter((one) => one.isActive && one.id !== me.id)
      .map((one) => ({ value: { person: one.id }, name: one.name, kind: one.title })),
    ...directory.groups.map((one) => ({ value: { group: one.id }, name: one.name, kind: t('group') })),
  ].filter(({ value }) => !known.has(JSON.stringify(value)));
  const may = named.length > 0 ? (check.data?.may ?? []) : [];
  const mayNot = named.length > 0 ? (check.data?.mayNot ?? []) : [];
  const nameOf = (one: Named) => ('person' in one ? person(one.person) : (group(one.group)?.name ?? one.group));
  const send = () =>
    pass.mutate(
      { ...passing, word },
      {
        onSuccess: ({ told }) => {
          notice({
            words: t('passedOnTo', {
              value: told.length === 1 ? person(told[0] ?? '') : t('people', { told: told.length }),
            }),
          });
          onDone();
        },
      },
    );
  return (
    <div className="pass-on">
      {named.length > 0 && (
        <ul className="plain-list named">
          {named.map((one) => (
            <li key={JSON.stringify(one)}>
              <strong>{nameOf(one)}</strong>
              <Button
                variant="link"
                size="sm"
                aria-label={t('leaveOut', { name: nameOf(one) })}
                onClick={() => setNamed(named.filter((other) => other !== one))}
              >
                {t('leaveOut2')}
              </Button>
            </li>
          ))}
        </ul>
      )}
      <Combobox offers={offers} label={t('toWhomAPersonOr')} onAdd={(value) => setNamed([...named, value])} />
      <Form.Control
        as="textarea"
        rows={2}
        maxLength={2000}
        aria-label={t('aWordOfYourOwn')}
        placeholder={t('aWordOfYourOwn')}
        value={word}
        onChange={(event) => setWord(event.target.value)}
      />
      {mayNot.length > 0 && (
        <p className="fault small" role="status">
          {t('mayNotReadItAnd', { mayNot: phrases().and(mayNot.map(person)), mayNotToo: mayNot.length })}
        </p>
      )}
      {pass.error && <ProblemNote error={pass.error} />}
      <div className="acts">
        <Button disabled={may.length === 0 || pass.isPending} onClick={send}>
          {may.length === 0
            ? t('tellThem')
            : t('tell', { value: may.length === 1 ? person(may[0] ?? '') : t('people2', { may: may.length }) })}
        </Button>
        <Button variant="quiet" onClick={onDone}>
          {t('leaveIt')}
        </Button>
      </div>
    </div>
  );
}
