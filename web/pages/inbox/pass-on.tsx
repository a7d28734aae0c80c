import { Button } from 'react-bootstrap';
import { z } from 'zod';
import { isPersonType } from '../../../core/values/index.ts';
import { type Passing, passSchema } from '../../../contract/wire/index.ts';
import { asKind } from '../../../core/people/index.ts';
import { Controlled, Ends, Refused, SendForm, TextField, useSending } from '../../forms/index.ts';
import { Combobox, type Found, useNotice, useViewer, useDraftKey } from '../../parts/index.ts';
import { useItem, usePass, usePassCheck } from '../../queries/index.ts';
import { t } from '../../words/inbox.ts';
import { phrases } from '../../words/index.ts';

type Named = { person: string } | { group: string };

/** What is typed: to whom, and a word of one's own. Who may not read it is the server's to say. */
const typedSchema = passSchema.pick({ word: true }).extend({
  to: z
    .array(z.union([z.strictObject({ person: z.string() }), z.strictObject({ group: z.string() })]))
    .refine((to) => to.length > 0, { params: { code: 'nobodyNamed', params: {} } }),
});

/** A person or a group that is named. */
const partOf = (one: Named) => ({ person: asKind(one, 'person')?.person, group: asKind(one, 'group')?.group });

/** Whom an item names in its fields, each with the field's name; empty until it is known. */
function useNamedBy(id: string): ReadonlyMap<string, string> {
  const { source } = useViewer();
  const { data } = useItem(id);
  const fields = data ? (source(data.item.source)?.fields ?? []) : [];
  return new Map(
    fields.flatMap(({ id: field, name, type }) =>
      isPersonType(type)
        ? [data?.item.fields[field] ?? []].flat().map((person): [string, string] => [String(person), name])
        : [],
    ),
  );
}

/** Everybody to whom an item can be passed on: whom it names itself come first, as they are most often meant. */
function useOffers(item: string): Found<Named>[] {
  const { me, directory } = useViewer();
  const ofItem = useNamedBy(item);
  const people = directory.people
    .filter((one) => one.isActive && one.id !== me.id)
    .map((one) => ({ value: { person: one.id }, name: one.name, kind: ofItem.get(one.id) ?? one.title }));
  const isNamed = (one: (typeof people)[number]) => Number(ofItem.has(one.value.person));
  return [
    ...people.toSorted((a, b) => isNamed(b) - isNamed(a)),
    ...directory.groups.map((one) => ({ value: { group: one.id }, name: one.name, kind: t('group') })),
  ];
}

/** Passes an item, or what a message tells of it, on to colleagues with a word of one's own. Whoever may not read it is named first. */
export function PassOn({ item, message, onDone }: { item: string; message?: string; onDone: () => void }) {
  const { person, group } = useViewer();
  const notice = useNotice();
  const pass = usePass();
  const passingTo = (to: readonly Named[]): Passing => ({
    item,
    ...(message ? { message } : {}),
    people: to.flatMap((one) => partOf(one).person ?? []),
    groups: to.flatMap((one) => partOf(one).group ?? []),
  });
  const sending = useSending({
    shape: typedSchema,
    start: { word: '', to: [] as Named[] },
    draft: useDraftKey(`pass.${item}`),
    send: ({ word, to }) => pass.mutateAsync({ ...passingTo(to), word }),
    onSent: ({ told }) => {
      const value = told.length === 1 ? person(told[0] ?? '') : t('people', { told: told.length });
      notice({ words: t('passedOnTo', { value }) });
      onDone();
    },
  });
  const named = sending.form.watch('to');
  const name = (to: Named[]) =>
    sending.form.setValue('to', to, { shouldDirty: true, shouldValidate: sending.form.formState.isSubmitted });
  const check = usePassCheck(passingTo(named));
  const known = new Set(named.map((one) => JSON.stringify(one)));
  const offers = useOffers(item).filter(({ value }) => !known.has(JSON.stringify(value)));
  const may = named.length > 0 ? (check.data?.may ?? []) : [];
  const mayNot = named.length > 0 ? (check.data?.mayNot ?? []) : [];
  const nameOf = (one: Named) => {
    const { person: of, group: id = '' } = partOf(one);
    return of === undefined ? (group(id)?.name ?? id) : person(of);
  };
  return (
    <SendForm sending={sending} className="pass-on">
      {named.length > 0 && (
        <ul className="plain-list named">
          {named.map((one) => (
            <li key={JSON.stringify(one)}>
              <strong>{nameOf(one)}</strong>
              <Button
                variant="link"
                size="sm"
                aria-label={t('leaveOut', { name: nameOf(one) })}
                onClick={() => name(named.filter((other) => other !== one))}
              >
                {t('leaveOut2')}
              </Button>
            </li>
          ))}
        </ul>
      )}
      <Controlled sending={sending} name="to" id="pass-to">
        {(to) => (
          <Combobox id="pass-to" offers={offers} label={t('toWhomAPersonOr')} onAdd={(one) => name([...to, one])} />
        )}
      </Controlled>
      <TextField
        sending={sending}
        name="word"
        label={t('aWordOfYourOwn')}
        isBare
        as="textarea"
        rows={2}
        placeholder={t('aWordOfYourOwn')}
      />
      {mayNot.length > 0 && (
        <p className="fault small" role="status">
          {t('mayNotReadItAnd', { mayNot: phrases().and(mayNot.map(person)), mayNotToo: mayNot.length })}
        </p>
      )}
      <Refused sending={sending} />
      <Ends
        sending={sending}
        words={
          may.length === 0
            ? t('tellThem')
            : t('tell', { value: may.length === 1 ? person(may[0] ?? '') : t('people2', { may: may.length }) })
        }
        leave={t('leaveIt')}
        onLeave={onDone}
      />
    </SendForm>
  );
}
