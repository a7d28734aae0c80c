import type { Occasion } from '../rules/index.ts';

/** A shared wording as what rules say that have no words of their own; `source` is `null` where it stands for every source. */
export interface Usual {
  source: string | null;
  occasion: Occasion;
  wording: string;
}

/** A name that messages may come in, with its address. */
export interface Sender {
  id: string;
  name: string;
  address: string;
}

/** Where texts that several rules share are looked up. */
export interface Wordings {
  wording?(id: string): OwnText | undefined;
  /** What rules say that have no words of their own, by what they tell of; `undefined` where that is left to Ojo. */
  usual?(source: string, occasion: Occasion): OwnText | undefined;
  /** A name that the house has set up for messages to come in. */
  sender?(id: string): Sender | undefined;
}
/** A text that stands in place of what Ojo says; `null` where a part of it is left to Ojo. */
export interface OwnText {
  subject: string | null;
  body: string | null;
}

/** How a house speaks: what is usual in it, and in whose names. */
export interface HouseVoice {
  usual: readonly Usual[];
  senders: readonly Sender[];
}

/** Looks up how a house speaks, as messages ask for it: a source's own usual wording goes before that of every source. */
export function voiceOf<Text extends OwnText>(
  { usual, senders }: HouseVoice,
  wording: (id: string) => Text | undefined,
) {
  const keyOf = (source: string | null, occasion: Occasion) => `${occasion}/${source ?? ''}`;
  const usualOf = new Map(usual.map((one) => [keyOf(one.source, one.occasion), one.wording]));
  const senderOf = new Map(senders.map((one) => [one.id, one]));
  return {
    wording,
    usual: (source: string, occasion: Occasion): Text | undefined => {
      const id = usualOf.get(keyOf(source, occasion)) ?? usualOf.get(keyOf(null, occasion));
      return id === undefined ? undefined : wording(id);
    },
    sender: (id: string) => senderOf.get(id),
  } satisfies Wordings;
}
