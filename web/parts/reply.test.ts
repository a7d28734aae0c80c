import { expect, it } from 'vitest';
import { replyWords } from './reply.ts';

it.each([
  ['202 {"kept":true}', true, 'The other side took it (202).'],
  ['250 2.0.0 Ok: queued as 7F3A', true, 'The other side took it (250).'],
  ['550 5.1.1 No such mailbox here', false, 'The other side, 550: “No such mailbox here”'],
  ['422 {"title":"Unknown room","status":422}', false, 'The other side, 422: “Unknown room”'],
  ['503', false, 'The other side answered 503 and no word.'],
  ['connect ECONNREFUSED', false, 'The other side: “connect ECONNREFUSED”'],
])('%s', (reply, isTaken, words) => expect(replyWords(reply, isTaken)).toBe(words));
