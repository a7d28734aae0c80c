import { lookup } from 'node:dns';
import { type RequestOptions, request as plainRequest } from 'node:http';
import { request as secureRequest } from 'node:https';
import { BlockList, isIP, type LookupFunction } from 'node:net';

/** The other side has so long to answer whole, in ms. */
const PATIENCE_MS = 8000;
/** So much of a reply is kept, in signs. */
const REPLY = 300;

/** Addresses of the machine itself, of the net behind it, and of no one host (RFC 6890). */
const PRIVATE = new BlockList();
for (const [net, bits] of [
  ['0.0.0.0', 8],
  ['10.0.0.0', 8],
  ['100.64.0.0', 10],
  ['127.0.0.0', 8],
  ['169.254.0.0', 16],
  ['172.16.0.0', 12],
  ['192.0.0.0', 24],
  ['192.168.0.0', 16],
  ['198.18.0.0', 15],
  ['224.0.0.0', 4],
  ['240.0.0.0', 4],
] as const)
  PRIVATE.addSubnet(net, bits);
for (const [net, bits] of [
  ['::', 128],
  ['::1', 128],
  ['fc00::', 7],
  ['fe80::', 10],
  ['ff00::', 8],
] as const)
  PRIVATE.addSubnet(net, bits, 'ipv6');

/** Whether an address is one that nobody outside could have. */
export function isPrivateAddress(address: string): boolean {
  const mapped = /^::ffff:(\d+\.\d+\.\d+\.\d+)$/i.exec(address)?.[1];
  if (mapped) return PRIVATE.check(mapped);
  // One that is written as another within IPv6 leads there all the same.
  if (/^(64:ff9b::|2002:)/i.test(address)) return true;
  return PRIVATE.check(address, isIP(address) === 6 ? 'ipv6' : 'ipv4');
}

/** The other side is somewhere that Ojo does not post to. */
export class PrivateAddress extends Error {}

/** Looks a name up once, and goes to just that address: what is asked again could be answered otherwise. */
const guardedLookup: LookupFunction = (hostname, options, callback) => {
  lookup(hostname, { ...options, all: true }, (error, addresses) => {
    if (error) return callback(error, '');
    const inside = addresses.find(({ address }) => isPrivateAddress(address));
    if (inside) return callback(new PrivateAddress(`${hostname} is ${inside.address}, which is not outside`), '');
    if (options.all) return callback(null, addresses);
    const [first] = addresses;
    return callback(null, first?.address ?? '', first?.family);
  });
};

/** What the other side answered: its status, and the beginning of what it said. */
export interface Reply {
  status: number;
  reply: string;
}

/**
 * Posts a body to an address that somebody has typed: looked up once, followed nowhere else, and answered within a
 * time. Throws a {@link PrivateAddress} where it leads inside, unless that is allowed.
 */
export function postOutside(
  url: string,
  body: string,
  headers: Record<string, string>,
  isInsideAllowed: boolean,
): Promise<Reply> {
  return new Promise((resolve, reject) => {
    const to = new URL(url);
    const host = to.hostname.replace(/^\[|\]$/g, '');
    if (!isInsideAllowed && isIP(host) !== 0 && isPrivateAddress(host))
      return reject(new PrivateAddress(`${host} is not outside`));
    const options: RequestOptions = {
      method: 'POST',
      headers: { 'content-length': Buffer.byteLength(body), ...headers },
      signal: AbortSignal.timeout(PATIENCE_MS),
      agent: false,
      ...(isInsideAllowed ? {} : { lookup: guardedLookup }),
    };
    const asked = (to.protocol === 'https:' ? secureRequest : plainRequest)(to, options, (response) => {
      let reply = '';
      const done = () => resolve({ status: response.statusCode ?? 0, reply: reply.slice(0, REPLY) });
      response.setEncoding('utf8');
      response.on('data', (part: string) => {
        reply += part;
        // However much the other side says, a few words of it are read.
        if (reply.length >= REPLY) {
          done();
          response.destroy();
        }
      });
      response.on('end', done);
      response.on('error', reject);
    });
    asked.on('error', reject);
    asked.end(body);
  });
}
