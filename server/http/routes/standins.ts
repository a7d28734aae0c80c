import { simpleParser } from 'mailparser';
import { Refusal } from '../../../contract/problems.ts';
import type { Moods } from '../../../contract/wire/index.ts';
import { when } from '../../access/index.ts';
import { newId, one, rows, run, runAll, store } from '../../store/index.ts';
import type { Handlers } from '../register.ts';

/** What the stand-ins received, to be looked at. Only a demo has them. */
export const standInHandlers: Handlers<
  | 'standins.mailboxes'
  | 'standins.mailbox'
  | 'standins.mail'
  | 'standins.phones'
  | 'standins.phone'
  | 'standins.answer'
  | 'standins.hooks'
  | 'standins.moods'
  | 'standins.setMoods'
> = {
  async 'standins.mailboxes'({ pool }) {
    const found = await rows(pool, store.standins.mailboxes());
    return found.map((box) => ({ ...box, lastAt: when(box.lastAt) }));
  },

  async 'standins.mailbox'({ pool }, { params }) {
    const found = await rows(pool, store.standins.mailbox(params.address));
    return found.map((mail) => ({ ...mail, receivedAt: when(mail.receivedAt) }));
  },

  async 'standins.mail'({ pool }, { params }) {
    const mail = await one(pool, store.standins.mail(Number(params.id) || 0));
    if (!mail || mail.address !== params.address) throw new Refusal('notFound');
    const parsed = await simpleParser(mail.source);
    return { ...mail, receivedAt: when(mail.receivedAt), html: parsed.html || null, text: parsed.text ?? '' };
  },

  async 'standins.phones'({ pool }) {
    const found = await rows(pool, store.standins.phones());
    return found.map((phone) => ({ ...phone, lastAt: when(phone.lastAt) }));
  },

  async 'standins.phone'({ pool }, { params }) {
    const found = await rows(pool, store.standins.phone(params.number));
    return found.map((text) => ({ ...text, receivedAt: when(text.receivedAt) }));
  },

  async 'standins.hooks'({ pool }) {
    const found = await rows(pool, store.standins.hooks());
    return found.map((hook) => ({ ...hook, receivedAt: when(hook.receivedAt) }));
  },

  async 'standins.moods'({ pool }) {
    const kept = Object.fromEntries((await rows(pool, store.standins.moods())).map(({ name, mood }) => [name, mood]));
    const well = { does: 'takes', seconds: 5, only: '' };
    return { mail: well, text: well, hook: well, ...kept } as Moods;
  },

  async 'standins.setMoods'({ pool }, { body }) {
    await runAll(
      pool,
      Object.entries(body).map(([name, mood]) => store.standins.setMood(name, mood)),
    );
  },

  /** Answers from a telephone: the gateway hands it to Ojo as a real one would, and sends back what Ojo replies. */
  async 'standins.answer'({ pool, clock, textToken }, { params: { number }, body: { words }, request }) {
    const reference = newId(clock.now());
    await run(pool, store.standins.keepText({ number, body: words, reference, isAnswer: true }, clock.now()));
    const handed = await fetch(`http://127.0.0.1:${request.socket.localPort}/gateway/texts`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', authorization: `Bearer ${textToken}` },
      body: JSON.stringify({ from: number, text: words, reference }),
    });
    const { reply } = (await handed.json()) as { reply?: string | null };
    if (reply)
      await run(
        pool,
        store.standins.keepText({ number, body: reply, reference: `${reference}-reply` }, clock.now() + 1),
      );
  },
};
