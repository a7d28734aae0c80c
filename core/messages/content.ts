import type { Urgency } from '../people/index.ts';
import type { ChangeKind } from '../values/index.ts';

/** Words of which some stand out. */
export type Words = (string | { strong: string })[];

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
  rules: { id: string; name: string }[];
  headline: string;
  kind: ChangeKind;
  fields: ShownField[];
  steps: ShownStep[];
  /** The item came back to where it was, by way of the steps. */
  isBack: boolean;
  show: { label: string; value: string }[];
  doNow: string[];
  why: Words[];
}

export type Form = 'single' | 'digest';

/** A message before it takes the shape of a channel: in-app pages, HTML, plain text and text messages all show this. */
export interface Content {
  form: Form;
  headline: string;
  /** Worded when, for its reader. */
  when: string;
  /** Where an earlier digest ended or what stands out, in a sentence; empty for a single message. */
  lead: string;
  entries: Entry[];
}
