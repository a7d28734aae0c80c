import { randomBytes } from 'node:crypto';
import { type Request, Router } from 'express';
import { z } from 'zod';
import { Refusal } from '../../../contract/problems.ts';
import { faultWords } from '../../../contract/words/faults.ts';
import { escapeHtml, type Phrases, phrasesFor } from '../../../core/messages/index.ts';
import { readCell } from '../../../core/tables/index.ts';
import { atLocal, isCivilDate, isCivilTime, printInstant } from '../../../core/time/index.ts';
import { type Field, type Fields, isEmpty, LONGEST_LINE, optionName, type Source } from '../../../core/values/index.ts';
import { askedBy, takeForm } from '../../acts/index.ts';
import { one, type OpenForm, store } from '../../store/index.ts';
import type { Context } from '../context.ts';
import { gonePage, paragraph, type Shown, shows } from './page.ts';

/** So long may a longer text be that somebody without an account types. */
const LONGEST = 4000;

/** The pages of forms: what is asked, and what is said once it has been sent. Nothing that the house knows is shown there. */
export function formPages(context: Context): Router {
  const routes = Router();
  routes.get('/form/:token', shows(context, askPage));
  routes.post('/form/:token', shows(context, takenPage));
  return routes;
}

interface Open {
  form: OpenForm;
  source: Source;
  phrases: Phrases;
}
type Typed = Record<string, string>;

async function openForm({ pool, directory }: Context, request: Request): Promise<Open | Shown> {
  const form = await one(pool, store.forms.byToken(String(request.params.token)));
  const phrases = phrasesFor(form?.locale ?? 'en-GB');
  const source = (await directory.current(pool)).sources.get(form?.source ?? '');
  if (!form || !source) return gonePage(phrases);
  if (!form.isOpen || askedBy(form, source).length === 0)
    return { phrases, page: { status: 410, title: form.title, parts: [paragraph(phrases.say('form.closed'))] } };
  return { form, source, phrases };
}

async function askPage(context: Context, request: Request): Promise<Shown> {
  const open = await openForm(context, request);
  return 'page' in open ? open : asking(open, {}, {}, randomBytes(12).toString('hex'));
}

const bodySchema = z.record(z.string().max(200), z.union([z.string(), z.array(z.string())]));

async function takenPage(context: Context, request: Request): Promise<Shown> {
  const open = await openForm(context, request);
  if ('page' in open) return open;
  const { form, source, phrases } = open;
  const body = bodySchema.safeParse(request.body ?? {});
  if (!body.success) throw new Refusal('badRequest');
  const typed = Object.fromEntries(
    Object.entries(body.data).map(([name, value]) => [name, typeof value === 'string' ? value : value.join('\n')]),
  );
  const key = /^[0-9a-f]{24}$/.test(typed.key ?? '') ? (typed.key ?? '') : randomBytes(12).toString('hex');
  const { set, faults } = read(open, typed);
  if (Object.keys(faults).length > 0) return asking(open, typed, faults, key);
  if ((await takeForm(context, form, source, { set, key })) === 'closed')
    return { phrases, page: { status: 429, title: form.title, parts: [paragraph(phrases.say('form.full'))] } };
  return { phrases, page: { title: form.thanks || phrases.say('form.thanks'), parts: [] } };
}

const nameOf = (field: Field): string => `f-${field.id}`;

/** What was typed as fields of an item, and what is wrong with it, by field. */
function read({ form, source }: Open, typed: Typed): { set: Fields; faults: Record<string, string> } {
  const set: Fields = {};
  const faults: Record<string, string> = {};
  const nobody = () => null;
  for (const { field, isNeeded } of askedBy(form, source)) {
    const text = (typed[nameOf(field)] ?? '').toWellFormed().replace(/\r\n?/g, '\n');
    const cell = readCell(field, field.type === 'dateTime' ? instantOf(text, form.zone) : text, {
      locale: form.locale,
      person: nobody,
      item: nobody,
    });
    const long = field.type === 'longText' ? LONGEST : LONGEST_LINE;
    if (text.length > long)
      faults[field.id] = faultWords({ code: 'longText', params: { most: String(long) } }, form.locale);
    else if ('fault' in cell) faults[field.id] = faultWords(cell.fault, form.locale);
    else if (isNeeded && isEmpty(cell.value)) faults[field.id] = faultWords({ code: 'empty', params: {} }, form.locale);
    else if (!isEmpty(cell.value)) set[field.id] = cell.value;
  }
  return { set, faults };
}

/** A day and a time, as the browser's own field for them writes it, in the form's zone; anything else as it is. */
function instantOf(text: string, zone: string): string {
  const [day = '', time = ''] = text.trim().split('T');
  return isCivilDate(day) && isCivilTime(time) ? printInstant(atLocal(day, time, zone)) : text;
}

/** The form, with what was typed, and what is wrong where it is. */
function asking({ form, source, phrases }: Open, typed: Typed, faults: Record<string, string>, key: string): Shown {
  const wrong = Object.keys(faults).length;
  const fields = askedBy(form, source).map(({ field, isNeeded }) =>
    fieldHtml(field, isNeeded, typed[nameOf(field)] ?? '', faults[field.id], phrases),
  );
  return {
    phrases,
    page: {
      status: wrong > 0 ? 422 : 200,
      title: form.title,
      parts: [
        ...form.about.split('\n').map((line) => paragraph(line)),
        wrong > 0 ? `<p class="fault" role="alert">${escapeHtml(phrases.say('form.wrong', { count: wrong }))}</p>` : '',
        `<form method="post" novalidate><input type="hidden" name="key" value="${key}">${fields.join('')}<button class="first">${escapeHtml(phrases.say('form.send'))}</button></form>`,
      ],
    },
  };
}

const INPUTS: Partial<Record<Field['type'], string>> = {
  date: 'date',
  dateTime: 'datetime-local',
  email: 'email',
  url: 'url',
};

function fieldHtml(
  field: Field,
  isNeeded: boolean,
  typed: string,
  fault: string | undefined,
  phrases: Phrases,
): string {
  const id = escapeHtml(nameOf(field));
  const hint = isNeeded ? '' : ` <span class="quiet">${escapeHtml(phrases.say('form.mayStayEmpty'))}</span>`;
  const said = fault === undefined ? '' : `<p class="fault" id="${id}-fault">${escapeHtml(fault)}</p>`;
  const marks = `name="${id}"${fault === undefined ? '' : ` aria-invalid="true" aria-describedby="${id}-fault"`}${isNeeded ? ' aria-required="true"' : ''}`;
  const name = escapeHtml(field.name);
  if (field.type === 'choices') {
    const chosen = typed.split('\n');
    const boxes = (field.options ?? []).map(
      (option) =>
        `<label><input type="checkbox" name="${id}" value="${escapeHtml(option)}"${chosen.includes(option) ? ' checked' : ''}> ${escapeHtml(optionName(field, option))}</label>`,
    );
    return `<fieldset><legend>${name}${hint}</legend>${boxes.join('')}${said}</fieldset>`;
  }
  return `<div class="field"><label for="${id}">${name}${hint}</label>${control(field, id, marks, typed, phrases)}${said}</div>`;
}

function control(field: Field, id: string, marks: string, typed: string, phrases: Phrases): string {
  if (field.type === 'longText')
    return `<textarea id="${id}" ${marks} rows="5" maxlength="${LONGEST}">${escapeHtml(typed)}</textarea>`;
  const options =
    field.type === 'boolean'
      ? [
          ['yes', phrases.say('value.yes')],
          ['no', phrases.say('value.no')],
        ]
      : field.options?.map((option) => [option, optionName(field, option)]);
  if (!options)
    return `<input id="${id}" type="${INPUTS[field.type] ?? 'text'}" ${marks} value="${escapeHtml(typed)}">`;
  const lines = options.map(
    ([value = '', words = '']) =>
      `<option value="${escapeHtml(value)}"${value === typed ? ' selected' : ''}>${escapeHtml(words)}</option>`,
  );
  return `<select id="${id}" ${marks}><option value=""></option>${lines.join('')}</select>`;
}
