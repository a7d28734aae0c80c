import { sampleMessage } from '../../../core/messages/index.ts';
import { Refusal } from '../../../contract/problems.ts';
import { printInstant } from '../../../core/time/index.ts';
import { type Caller, itemsOf, readableAmong } from '../../access/index.ts';
import {
  addMachine,
  dropMachine,
  expectMachine,
  expectTemplate,
  machineRows,
  rotateSecret,
  saveMachine,
} from '../../acts/index.ts';
import { DeliveryError, postedTo, webhookCarrier } from '../../delivery/index.ts';
import { newId, rows, sealOf, secretOf, store } from '../../store/index.ts';
import type { Handlers } from '../register.ts';

/** Machines that rules may tell by HTTP, as stewards set them up. */
export const machineHandlers: Handlers<
  | 'machines.list'
  | 'machines.preview'
  | 'machines.add'
  | 'machines.save'
  | 'machines.rotate'
  | 'machines.try'
  | 'machines.drop'
> = {
  async 'machines.list'({ clock }, { asking }) {
    expectSteward(asking);
    return machineRows(asking.directory, clock.now());
  },

  async 'machines.add'(context, { body, asking }) {
    expectSteward(asking);
    return addMachine(context, body, asking);
  },

  async 'machines.save'(context, { params, body, asking }) {
    expectSteward(asking);
    await saveMachine(context, params.id, body, asking);
  },

  async 'machines.rotate'(context, { params, asking }) {
    expectSteward(asking);
    return { id: params.id, secret: await rotateSecret(context, params.id, asking) };
  },

  async 'machines.try'({ pool, clock, site, webhooks }, { params, asking }) {
    expectSteward(asking);
    const machine = expectMachine(params.id, asking);
    const { url } = machine;
    const secret = sealOf(pool).open(machine.secret, secretOf(machine.id));
    const now = clock.now();
    const id = newId(now);
    const trial = { specversion: '1.0', id, source: site.base, type: 'ojo.trial', time: printInstant(now), data: {} };
    const parcel = { id, channel: 'webhook' as const, address: url, subject: '', text: '', html: null, at: now };
    try {
      const posted =
        machine.kind === 'event'
          ? { contentType: 'application/cloudevents+json', body: JSON.stringify(trial) }
          : postedTo(machine, { ...sampleMessage(id, now), form: 'single', subject: '' }, site);
      const reply = await webhookCarrier(webhooks).carry({ ...parcel, posted, secrets: [secret] });
      return { isTaken: true, reply };
    } catch (error) {
      if (error instanceof DeliveryError) return { isTaken: false, reply: error.message };
      throw error;
    }
  },

  async 'machines.preview'(context, { body, asking }) {
    expectSteward(asking);
    expectTemplate(context, body);
    const { site, clock, pool } = context;
    const now = clock.now();
    const page = { before: null, limit: 20 };
    const told = await rows(pool, store.messages.inbox(asking.me.id, {}, page));
    const { me, directory } = asking;
    const readable = await readableAmong(pool, itemsOf(told), me.id, directory);
    // What its reader may no longer read is no example.
    const message = told.find(
      ({ content: { entries } }) => entries.length > 0 && entries.every(({ item }) => readable.has(item.id)),
    );
    const sample = { ...sampleMessage(newId(now), now), form: 'single' as const, subject: '' };
    return postedTo(body, message ?? sample, site);
  },

  async 'machines.drop'(context, { params, asking }) {
    expectSteward(asking);
    await dropMachine(context, params.id, asking);
  },
};

function expectSteward({ me }: Caller): void {
  if (me.role !== 'steward') throw new Refusal('notAllowed', { because: 'machinesAreForStewards' });
}
