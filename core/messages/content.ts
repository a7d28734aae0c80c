import type { Words } from '../locales/index.ts';
import type { Reason, Urgency } from '../people/index.ts';
import type { Occasion, Rule } from '../rules/index.ts';
import type { Instant } from '../time/index.ts';
import type { Change, ChangeKind, Reader } from '../values/index.ts';

export type { Words } from '../locales/index.ts';

/** A field that differs, both sides in the reader's words; the empty string where it was or is empty. */
export interface ShownField {
  id: string;
  label: string;
  before: string;
  after: string;
}

/** One change behind what an entry says. `at` is the instant itself, `when` its day and hour as the reader has them, `hour` the same with the weekday alone. */
export interface ShownStep {
  change: string;
  at: string;
  when: string;
  hour: string;
  kind: ChangeKind;
  actor: string;
  fields: ShownField[];
}

/** What a message says of one item: the net change first, the steps behind it, why its reader heard. */
export interface Entry {
  item: { id: string; title: string; source: string; sourceName: string; folder: string[] };
  urgency: Urgency;
  /** One of its rules wants somebody to take it on. Left out by messages older than the word. */
  asks?: boolean;
  rules: { id: string; name: string }[];
  headline: string;
  /** What happened in all; `null` where only a date or a standstill brought it about. */
  kind: ChangeKind | null;
  /** What a date, a standstill or a remark says of it, in a line each. */
  notes: string[];
  fields: ShownField[];
  steps: ShownStep[];
  /** How it stands when it is told, where that is no longer what it was told to have become; what it is now, where it is gone. Left out where nothing came between. */
  now?: { label: string; value: string }[];
  /** The item came back to where it was, by way of the steps. */
  isBack: boolean;
  show: { label: string; value: string }[];
  doNow: string[];
  why: Words[];
  /** The items that this one leads to and that are named in it, by id; left out where there are none. */
  linked?: string[];
}

/** What a message is: of one alert, gathered for a digest or while it was quiet, what follows an alert that waits, a report, or what comes once more because its reader asked. */
export const FORMS = ['single', 'digest', 'summary', 'reminder', 'escalation', 'allClear', 'report', 'again'] as const;
/** What sort of message it is. */
export type Form = (typeof FORMS)[number];

/** Beside what alerts bring about: a notice tells of the rules themselves, a trial shows how a channel reaches its reader, an address is confirmed, and people pass things on. */
export type AnyForm = Form | 'notice' | 'trial' | 'confirm' | 'passed';

/** One item of a report: what its columns hold, and whether it is new or changed since the last. */
export interface ReportRow {
  item: { id: string; title: string; source: string };
  values: string[];
  mark?: 'new' | 'changed';
  /** The items that this one leads to, by id; left out where there are none. */
  linked?: string[];
}

/** A report as a table: the names of its columns beside the items' own, the first of its rows, how many there are, and what is gone. */
export interface ReportTable {
  rule: { id: string; name: string };
  columns: string[];
  rows: ReportRow[];
  total: number;
  gone: { id: string; title: string }[];
  /** What its reader is to do now, in the rule's own line. */
  doNow?: string;
  /** Where files go with it: how items stand to the last report that the message itself has no room for, by their ids. For whoever makes the files alone. */
  beyond?: { new: string[]; changed: string[]; gone: string[] };
}

/** A message before it takes the shape of a channel: in-app pages, HTML, plain text and text messages all show this. */
export interface Content {
  form: AnyForm;
  /** The language it is worded in, a BCP 47 subtag; left out by messages older than the word, which are in English. */
  language?: string;
  headline: string;
  /** Worded when, for its reader. */
  when: string;
  /** Where an earlier digest ended or what stands out, in a sentence; empty for a single message. */
  lead: string;
  entries: Entry[];
  /** What a report lists, in place of entries. */
  report?: ReportTable;
  /** The rule's own words asked for more work than a message is worth, or could not be put together: the default stands for them. */
  ownFailed?: true;
  /** The rule's own text in place of the default; addresses of links begin with {@link BASE_MARK}. */
  own?: { subject: string | null; body: string | null };
  /** Whose name stands as the sender's, with their address where the house has given one, and where replies go; left out where that is Ojo. */
  sender?: { name: string | null; address?: string; replyTo: string | null };
  /** The address that waits for a yes, by the id under which it was asked. */
  ask?: string;
  /** The thread that something passed on belongs to. */
  thread?: string;
  /** The rule that a notice is about. */
  rule?: { id: string; name: string };
  /** The reader wants email as plain text alone. */
  isPlain?: boolean;
}

/** Stands for the site's address in a text that is made before the site is known; of Unicode's private use area. */
export const BASE_MARK = '\ue000';
/** Stand likewise for the links by which a reader acknowledges and hears less, which are each message's own. */
export const ACKNOWLEDGE_MARK = '\ue001';
/** Stands in a rule's own words where the way to hear no more will be put once the message has a reader. */
export const LEAVE_MARK = '\ue002';

/** One alert's word on one item, as told to one reader: the changes in their order, none of due and idle, and why the reader hears. */
export interface Telling {
  alert: string;
  rule: Rule;
  source: string;
  item: string;
  occasion: Occasion;
  /** When the alert arose. */
  at: Instant;
  changes: readonly Change[];
  reasons: readonly Reason[];
  /** Of a tally: the part that passed its mark, and what it came to. */
  tally?: TallyMove;
}

/** What a part of a tally came to, from what: decimals, written out; the value by which it is parted, empty where it has none. */
export interface TallyMove {
  part: string;
  before: string;
  after: string;
}

/** Somebody for whom a message is made. */
export interface AddressedReader extends Reader {
  id: string;
  /** Of an outsider: the rule's owner, whose reading theirs is. */
  readsAs?: string;
  name: string;
  emailFormat?: 'html' | 'text';
}
