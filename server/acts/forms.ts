import { randomBytes } from 'node:crypto';
import { type FaultAt, Refusal } from '../../contract/problems.ts';
import { ASKABLE, type FormDefined } from '../../contract/wire/index.ts';
import { dateIn } from '../../core/time/index.ts';
import { type Field, type Fields, fieldOf, type Source } from '../../core/values/index.ts';
import { type Caller, nameFault } from '../access/index.ts';
import { passDoor } from '../intake/index.ts';
import { inTransaction, newId, type OpenForm, rows, run, runAll, shortKey, store } from '../store/index.ts';
import type { ActContext } from './context.ts';

type Acting = Pick<ActContext, 'pool' | 'clock'>;

/** Makes a form behind a link, or puts one as it is to be; answers it. */
export async function keepForm(
  { pool, clock }: Acting,
  source: Source,
  known: OpenForm | null,
  given: FormDefined,
  { me }: Caller,
): Promise<OpenForm> {
  const others = (await rows(pool, store.forms.titles())).filter(({ id }) => id !== known?.id);
  // A form that was called like an import would be told from it by nobody, and by no rule.
  const systems = (await rows(pool, store.changes.systems())).map(({ actor }) => actor.slice('system:'.length));
  const taken = [...others.map(({ title }) => title), ...systems.filter((name) => name !== known?.title)];
  const name = nameFault(given.title, taken);
  const faults: FaultAt[] = [...(name ? [{ ...name, path: 'title' }] : []), ...fieldFaults(source, given)];
  if (faults.length > 0) throw new Refusal('badValues', { faults });
  const form: OpenForm = {
    ...(known ?? {
      id: newId(clock.now()),
      token: randomBytes(16).toString('hex'),
      source: source.id,
      locale: me.locale,
      zone: me.zone,
      sent: 0,
    }),
    ...given,
  };
  await run(pool, store.forms.save(form));
  return form;
}

function fieldFaults(source: Source, { fields }: FormDefined): FaultAt[] {
  const faults = fields.flatMap(({ field: id }, at): FaultAt[] => {
    const field = fieldOf(source, id);
    const isTwice = fields.slice(0, at).some((one) => one.field === id);
    if (field && ASKABLE.includes(field.type) && !isTwice) return [];
    return [{ code: 'notAskable', path: `fields.${at}.field`, params: { field: field?.name ?? id } }];
  });
  const title = fieldOf(source, source.titleField);
  if (fields.some(({ field, isNeeded }) => field === source.titleField && isNeeded)) return faults;
  return [...faults, { code: 'titleIsNeeded', path: 'fields', params: { field: title?.name ?? source.titleField } }];
}

/** What a form asks, of the fields that the source still has; without the one that names an item it asks nothing. */
export function askedBy(form: OpenForm, source: Source): { field: Field; isNeeded: boolean }[] {
  const asked = form.fields.flatMap(({ field: id, isNeeded }) => {
    const field = fieldOf(source, id);
    return field && ASKABLE.includes(field.type) ? [{ field, isNeeded }] : [];
  });
  return asked.some(({ field }) => field.id === source.titleField) ? asked : [];
}

/**
 * Takes what somebody without an account has sent: one new item, by the form as a system of its own. Sent again under the
 * same key it is the same item. Answers what became of it.
 */
export async function takeForm(
  { pool, clock, wake }: Pick<ActContext, 'pool' | 'clock' | 'wake'>,
  form: OpenForm,
  source: Source,
  { set, key }: { set: Fields; key: string },
): Promise<'taken' | 'closed'> {
  const at = clock.now();
  const id = shortKey(`form/${form.id}/${key}`);
  const done = await inTransaction(pool, async (on) => {
    const [again] = await rows(on, store.changes.byIds([[source.id, id]]));
    if (again) return 'taken';
    const [counted] = await runAll(on, [store.forms.take(form.id, dateIn(at, form.zone))]);
    if (!counted?.affectedRows) return 'closed';
    const actor = `system:${form.title}`;
    const item = shortKey(`form/item/${form.id}/${key}`);
    return passDoor(on, { id, actor, source, item, kind: 'created', set, folder: null, at });
  });
  if (typeof done === 'string') return done;
  if (done.outcome === 'saved') wake(done.change);
  return 'taken';
}
