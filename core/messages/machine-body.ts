import type { Urgency } from '../people/index.ts';
import type { Fault } from '../rules/index.ts';
import { type Instant, printInstant } from '../time/index.ts';
import { plainWords } from './condition-words.ts';
import type { Content } from './content.ts';
import { itemLink, plainLinks, ruleLink, type Site } from './message-links.ts';
import { namesIn, templateEngine } from './template-engine.ts';
import { plainDoNow, wordsOf } from './text.ts';
import { phrasesFor } from './locales/index.ts';

/** How a machine is told: by an event (CloudEvents 1.0), or in JSON or text of its house's own. */
export const BODY_KINDS = ['event', 'json', 'text'] as const;
/** How a machine is told. */
export type BodyKind = (typeof BODY_KINDS)[number];

/** What a template for a machine may put in, by name. */
export const MACHINE_NAMES = [
  'message.headline',
  'message.text',
  'message.urgency',
  'message.form',
  'message.at',
  'message.id',
  'message.items',
  'message.link',
  'item.title',
  'item.id',
  'item.source',
  'item.link',
  'change.what',
  'change.actor',
  'change.when',
  'rule.name',
  'rule.link',
  'message.why',
  'message.doNow',
] as const;
const KNOWN: ReadonlySet<string> = new Set(MACHINE_NAMES);

const plain = templateEngine();
// Within the quotation marks of a JSON text (RFC 8259, section 7).
const inJson = templateEngine((value) => JSON.stringify(String(value ?? '')).slice(1, -1));
const engineOf = (kind: BodyKind) => (kind === 'json' ? inJson : plain);

/** A message as a machine is told of it. */
export interface MachineMessage {
  id: string;
  at: Instant;
  urgency: Urgency;
  content: Content;
}

/**
 * A message put into a template of the house's own: of several items `item`, `change` and `rule` are of the first. `null`
 * where that asks for more work than a message is worth, or comes to no JSON where it should.
 */
export function machineBody(
  kind: 'json' | 'text',
  template: string,
  message: MachineMessage,
  site: Site,
): string | null {
  try {
    const body = String(engineOf(kind).parseAndRenderSync(template, scopeOf(message, site)));
    if (kind === 'json') JSON.parse(body);
    return body;
  } catch {
    return null;
  }
}

function scopeOf({ id, at, urgency, content }: MachineMessage, site: Site): object {
  const phrases = phrasesFor(content.language);
  const links = plainLinks(site, id);
  const [entry] = content.entries;
  const [rule] = entry?.rules ?? [];
  const step = entry?.steps.at(-1);
  const empty = phrases.say('value.empty');
  return {
    message: {
      id,
      at: printInstant(at),
      urgency,
      form: content.form,
      headline: content.headline,
      text: wordsOf(content, 'email', links).trim(),
      items: content.entries.length,
      link: links.whole ?? '',
      why: (entry?.why ?? []).map(plainWords).join(' '),
      doNow: (entry?.doNow ?? []).map(plainDoNow).join(' '),
    },
    item: {
      id: entry?.item.id ?? '',
      title: entry?.item.title ?? '',
      source: entry?.item.sourceName ?? '',
      link: entry ? (itemLink(entry, links) ?? '') : '',
    },
    change: {
      what: [
        ...(entry?.fields ?? []).map(({ label, before, after }) => `${label}: ${before || empty} → ${after || empty}`),
        ...(entry?.notes ?? []),
      ].join('; '),
      actor: step?.actor ?? '',
      when: step?.when ?? content.when,
    },
    rule: { name: rule?.name ?? '', link: rule ? (ruleLink(rule.id, links) ?? '') : '' },
  };
}

/** What keeps a template for a machine from being saved: it cannot be read, names what there is not, or comes to no JSON. */
export function checkMachineBody(
  kind: BodyKind,
  template: string,
  path: string,
  sample: MachineMessage,
  site: Site,
): Fault[] {
  if (kind === 'event') return [];
  const found = namesIn(engineOf(kind), template);
  if ('near' in found) return [{ code: 'unreadableText', path, params: { near: found.near } }];
  const unknown = found.used.map((parts) => parts.join('.')).filter((name) => !KNOWN.has(name));
  if (unknown.length > 0)
    return unknown.map((name) => ({ code: 'unknownName', path, params: { name, allowed: [...MACHINE_NAMES] } }));
  if (kind === 'json' && machineBody(kind, template, sample, site) === null)
    return [{ code: 'noJson', path, params: {} }];
  return [];
}

/** A message of nobody's, to see how a template looks where there has been none yet. */
export const sampleMessage = (id: string, at: Instant): MachineMessage => ({
  id,
  at,
  urgency: 'important',
  content: {
    form: 'single',
    language: 'en',
    headline: 'Tidal Loom (L-12): Status Agreed → On view',
    when: printInstant(at),
    lead: '',
    entries: [
      {
        item: { id: 'L-12', title: 'Tidal Loom (L-12)', source: 'loans', sourceName: 'Loan agreements', folder: [] },
        urgency: 'important',
        rules: [{ id: 'on-view', name: 'Loan goes on view' }],
        headline: 'Tidal Loom (L-12): Status Agreed → On view',
        kind: 'changed',
        notes: [],
        fields: [{ id: 'status', label: 'Status', before: 'Agreed', after: 'On view' }],
        steps: [],
        isBack: false,
        show: [],
        doNow: [],
        why: [['Status became “On view”.']],
      },
    ],
  },
});
