import { ruleSchema, schemaFaults } from '../../../contract/documents/index.ts';
import { Refusal } from '../../../contract/problems.ts';
import { languageOf } from '../../../core/locales/index.ts';
import { openRule, type Rule } from '../../../core/rules/index.ts';
import { completeAt, couldStandAt, readSentence, saySentence, type Spoken } from '../../../core/sentence/index.ts';
import type { Caller } from '../../access/index.ts';
import type { Handlers } from '../register.ts';
import { namesKnownTo } from '../typed-names.ts';

/** Of so many stretches that are not understood it is said what could stand there. */
const MOST_HELPED = 5;

/** Rules as sentences: read as they are typed, and said of a rule. */
export const typedHandlers: Handlers<'rules.typed' | 'rules.said'> = {
  async 'rules.typed'(context, { body, asking }) {
    const { text, cursor } = body;
    const known = await namesKnownTo(context, asking, body);
    const seen = body.sources.filter((id) => known.sources.has(id));
    const sources = [...seen, ...known.sources.keys(), 'none'].slice(0, Math.max(1, seen.length));
    const spoken: Spoken = {
      ...spokenBy(asking, known, { ...openRule('typed', 'Typed', asking.me.id, sources), zone: body.zone }),
      isSourceOpen: seen.length === 0,
    };
    const { rule, marks, names } = readSentence(text, spoken);
    return {
      document: asDocument(rule),
      marks: marks.map((mark, at) => ({
        ...mark,
        could: mark.could.length > 0 || at >= MOST_HELPED ? mark.could : couldStandAt(text, mark, spoken),
      })),
      names,
      offered: cursor === null ? [] : completeAt(text, Math.min(cursor, text.length), spoken),
    };
  },

  async 'rules.said'(context, { body, asking }) {
    const rule = asDocument({ id: 'said', ...body.document, owner: asking.me.id });
    const known = await namesKnownTo(context, asking, { ids: itemsIn(rule) });
    return { sentence: saySentence(rule, spokenBy(asking, known, { ...rule, zone: body.zone })) };
  },
};

const spokenBy = ({ me }: Caller, known: Spoken['known'], base: Rule): Spoken => ({
  locale: me.locale,
  language: languageOf(me.locale),
  known,
  base,
});

function asDocument(document: unknown): Rule {
  const read = ruleSchema.safeParse(document);
  if (!read.success) throw new Refusal('badRule', { faults: schemaFaults(read.error, ruleSchema) });
  return read.data;
}

/** The ids in a rule that may be items': those it names outright, and whatever its tests compare with. */
function itemsIn({ scope, ...rule }: Rule): string[] {
  const found: string[] = [...scope.items];
  const look = (node: unknown): void => {
    if (typeof node !== 'object' || node === null) return;
    for (const [key, part] of Object.entries(node)) {
      if (key === 'value' || key === 'any') found.push(...[part].flat().filter((one) => typeof one === 'string'));
      look(part);
    }
  };
  look([scope.where, rule.when, rule.due, rule.idle, rule.report, rule.to, rule.except, rule.ack]);
  return [...new Set(found)].slice(0, 500);
}
