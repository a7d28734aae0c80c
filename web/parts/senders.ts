import type { Rule } from '../../core/rules/index.ts';
import type { Viewer } from './viewer.tsx';

/** In whose name a rule's messages come. */
export function senderName({ message: { from }, owner }: Rule, { directory, person }: Viewer): string {
  if (from === 'owner') return person(owner);
  return (typeof from === 'object' && directory.house.senders.find(({ id }) => id === from.sender)?.name) || 'Ojo';
}
