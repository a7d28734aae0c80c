import { z } from 'zod';

/**
 * A union of objects that is read by the key which tells its members apart: what is wrong is told of the member that is
 * meant, and no other is tried, which of a thousand wrong parts would take a thousand times as long. What has none of
 * the keys, or is no object, is tried with all.
 * @param keys the key of each member, in the members' order; a member whose key another has too comes before it
 */
export function unionByKey<const T extends readonly z.ZodType[]>(keys: readonly string[], members: T): z.ZodUnion<T> {
  const union = z.union(members);
  const tryAll = union._zod.run;
  union._zod.run = (payload, context) => {
    const { value } = payload;
    const at = typeof value === 'object' && value !== null ? keys.findIndex((key) => key in value) : -1;
    const member = members[at];
    return member
      ? (member._zod.run(payload as never, context) as ReturnType<typeof tryAll>)
      : tryAll(payload, context);
  };
  return union;
}
