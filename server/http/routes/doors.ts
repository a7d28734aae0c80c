import { Refusal } from '../../../contract/problems.ts';
import type { Source } from '../../../core/values/index.ts';
import { type Caller, visibleSource } from '../../access/index.ts';
import { addDoor, doorRows, dropDoor, rekeyDoor, saveDoor, tryDoor } from '../../acts/index.ts';
import { type Door, one, store } from '../../store/index.ts';
import type { Context } from '../context.ts';
import type { Handlers } from '../register.ts';

/** Doors by which other programs hand changes in, as stewards set them up. */
export const doorHandlers: Handlers<
  'doors.list' | 'doors.add' | 'doors.save' | 'doors.rekey' | 'doors.drop' | 'doors.try'
> = {
  async 'doors.list'(context, { params, asking }) {
    return doorRows(context, ownSource(params.source, asking).id);
  },

  async 'doors.add'(context, { params, body, asking }) {
    return addDoor(context, ownSource(params.source, asking), body, asking);
  },

  async 'doors.try'(context, { params, body, asking }) {
    return tryDoor(context, ownSource(params.source, asking), body, asking);
  },

  async 'doors.save'(context, { params, body, asking }) {
    const door = await ownDoor(context, params.id, asking);
    await saveDoor(context, door, ownSource(door.source, asking), body, asking);
  },

  async 'doors.rekey'(context, { params, asking }) {
    const door = await ownDoor(context, params.id, asking);
    return { id: door.id, key: await rekeyDoor(context, door, asking) };
  },

  async 'doors.drop'(context, { params, asking }) {
    await dropDoor(context, await ownDoor(context, params.id, asking), asking);
  },
};

function ownSource(id: string, asking: Caller): Source {
  if (asking.me.role !== 'steward') throw new Refusal('notAllowed', { because: 'doorsAreForStewards' });
  return visibleSource(id, asking);
}

async function ownDoor({ pool }: Context, id: string, asking: Caller): Promise<Door> {
  if (asking.me.role !== 'steward') throw new Refusal('notAllowed', { because: 'doorsAreForStewards' });
  const door = await one(pool, store.doors.byId(id));
  if (!door) throw new Refusal('notFound');
  ownSource(door.source, asking);
  return door;
}
