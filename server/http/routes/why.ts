import { Refusal } from '../../../contract/problems.ts';
import { readableChange, samplesOf } from '../../access/index.ts';
import { whyHeard } from '../../replay/index.ts';
import type { Handlers } from '../register.ts';

/** Why somebody heard of a change, or did not. */
export const whyHandlers: Handlers<'changes.why'> = {
  /** Of oneself anybody may ask, of others those who make rules for them. */
  async 'changes.why'(context, { params, query, asking }) {
    const { me } = asking;
    const person = query.person ?? me.id;
    if (person !== me.id && me.role === 'member') throw new Refusal('notAllowed', { because: 'askOfYourself' });
    const change = await readableChange(context.pool, [params.source], params.id, asking);
    const [sample] = await samplesOf(context.pool, [change], asking);
    if (!sample) throw new Refusal('notFound');
    return { sample, person, ...(await whyHeard(context, change, person, asking)) };
  },
};
