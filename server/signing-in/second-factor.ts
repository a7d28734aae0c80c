import { createHash, randomInt } from 'node:crypto';
import type { Pool } from 'mysql2/promise';
import { generateSecret, generateURI, verify } from 'otplib';
import { toString as drawn } from 'qrcode';
import { Refusal } from '../../contract/problems.ts';
import type { Clock } from '../kit/index.ts';
import { one, run, sealOf, type SecondFactor, secondSecretOf, store } from '../store/index.ts';

interface House {
  pool: Pool;
  clock: Clock;
}

/** A code holds for so many seconds (RFC 6238), and the one before and after it are taken too: clocks differ. */
const STEP_S = 30;
/** So many codes somebody gets for when their telephone is lost. */
const SPARE = 10;
/** Signs that nobody takes for one another; so many make a spare code, about 50 bits. */
const SIGNS = 'abcdefghjkmnpqrstuvwxyz23456789';
const SPARE_LENGTH = 10;

const digestOf = (code: string): string => createHash('sha256').update(code).digest('hex');
/** A code as it is compared: without what people put between its signs. */
const bare = (code: string): string => code.toLowerCase().replace(/[\s-]/g, '');

/** The second factor that somebody signs in by; `null` where they have put none on. */
export async function secondOf({ pool }: Pick<House, 'pool'>, person: string): Promise<SecondFactor | null> {
  const found = await one(pool, store.secondFactors.ofPerson(person));
  return found?.isOn ? found : null;
}

/** Begins one: what an authenticator application keeps, as text, as an address, and as a picture of that in SVG. */
export async function beginSecond(
  { pool, clock }: House,
  { id, label, site }: { id: string; label: string; site: string },
): Promise<{ secret: string; address: string; picture: string }> {
  const secret = generateSecret();
  await run(pool, store.secondFactors.begin(id, sealOf(pool).close(secret, secondSecretOf(id)), clock.now()));
  if (await secondOf({ pool }, id)) throw new Refusal('badRequest', { because: 'secondIsOn' });
  const address = generateURI({ issuer: site, label, secret });
  return { secret, address, picture: await drawn(address, { type: 'svg', margin: 2 }) };
}

/** Puts on what was begun, where a first code shows that it is known: answers the spare codes, told this once; `null` for a wrong code. */
export async function putOnSecond({ pool, clock }: House, person: string, code: string): Promise<string[] | null> {
  const begun = await one(pool, store.secondFactors.ofPerson(person));
  if (!begun) throw new Refusal('badRequest', { because: 'secondNotBegun' });
  if (begun.isOn) throw new Refusal('badRequest', { because: 'secondIsOn' });
  const step = await stepOf({ pool, clock }, person, begun, code);
  if (step === null) return null;
  const codes = Array.from({ length: SPARE }, () =>
    Array.from({ length: SPARE_LENGTH }, () => SIGNS[randomInt(SIGNS.length)]).join(''),
  );
  const put = await run(pool, store.secondFactors.putOn(person, step, codes.map(digestOf), clock.now()));
  if (put.affectedRows === 0) throw new Refusal('badRequest', { because: 'secondIsOn' });
  return codes.map((one) => `${one.slice(0, 5)}-${one.slice(5)}`);
}

/** Whether a code is right, of the telephone's or a spare one. A right one is used up by it. */
export async function takesSecond(house: House, person: string, second: SecondFactor, code: string): Promise<boolean> {
  const { pool } = house;
  const spare = digestOf(bare(code));
  if (second.spareCodes.includes(spare)) {
    const left = second.spareCodes.filter((one) => one !== spare);
    return (await run(pool, store.secondFactors.spendSpare(person, second.spareCodes, left))).affectedRows > 0;
  }
  const step = await stepOf(house, person, second, code);
  return step !== null && (await run(pool, store.secondFactors.spendStep(person, step))).affectedRows > 0;
}

/** The step whose code it is; `null` where it is of none of now. */
async function stepOf(
  { pool, clock }: House,
  person: string,
  { secret }: SecondFactor,
  code: string,
): Promise<number | null> {
  const token = bare(code);
  if (!/^\d{6}$/.test(token)) return null;
  const epoch = Math.floor(clock.now() / 1000);
  const found = await verify({
    secret: sealOf(pool).open(secret, secondSecretOf(person)),
    token,
    epoch,
    epochTolerance: STEP_S,
  });
  return found.valid ? Math.floor(epoch / STEP_S) + found.delta : null;
}
