import { Refusal } from '../../../contract/problems.ts';
import type { FormRow } from '../../../contract/wire/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { type Caller, coordinates, visibleSource } from '../../access/index.ts';
import { keepForm } from '../../acts/index.ts';
import { one, type OpenForm, rows, run, store } from '../../store/index.ts';
import type { Context } from '../context.ts';
import type { Handlers } from '../register.ts';

/** Forms behind links, by which people without an account add to a list; for those who look after it. */
export const formHandlers: Handlers<'forms.list' | 'forms.add' | 'forms.save' | 'forms.drop'> = {
  async 'forms.list'(context, { params, asking }) {
    const source = ownSource(params.source, asking);
    return (await rows(context.pool, store.forms.ofSource(source.id))).map((form) => rowOf(form, context));
  },

  async 'forms.add'(context, { params, body, asking }) {
    const source = ownSource(params.source, asking);
    if (source.kind !== 'list' && source.kind !== 'records') throw new Refusal('badRequest', { because: 'rowsAlone' });
    if (asking.directory.sources.get(source.id)?.sheetOf !== undefined)
      throw new Refusal('badRequest', { because: 'rowsOfDocument' });
    return rowOf(await keepForm(context, source, null, body, asking), context);
  },

  async 'forms.save'(context, { params, body, asking }) {
    const known = await ownForm(context, params.id, asking);
    const source = ownSource(known.source, asking);
    return rowOf(await keepForm(context, source, known, body, asking), context);
  },

  async 'forms.drop'(context, { params, asking }) {
    const { id } = await ownForm(context, params.id, asking);
    await run(context.pool, store.forms.remove(id));
  },
};

function ownSource(id: string, asking: Caller): Source {
  const source = visibleSource(id, asking);
  if (!coordinates(asking.me, [source.id], asking.directory))
    throw new Refusal('notAllowed', { because: 'sourceOfOthers' });
  return source;
}

async function ownForm({ pool }: Context, id: string, asking: Caller): Promise<OpenForm> {
  const form = await one(pool, store.forms.byId(id));
  if (!form) throw new Refusal('notFound');
  ownSource(form.source, asking);
  return form;
}

const rowOf = (
  { id, token, title, about, thanks, fields, most, isOpen, sent }: OpenForm,
  { site }: Pick<Context, 'site'>,
): FormRow => ({ id, link: `${site.base}/form/${token}`, title, about, thanks, fields, most, isOpen, sent });
