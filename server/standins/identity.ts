import { createHash, randomBytes } from 'node:crypto';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import express, { type Request, type Response } from 'express';
import { type CryptoKey, exportJWK, generateKeyPair, SignJWT } from 'jose';
import type { StandIn } from './mail.ts';

/** Somebody whom the provider knows. */
export interface Known {
  id: string;
  name: string;
  email: string | null;
  /** Whether it vouches for the address. */
  isVerified?: boolean;
}

export interface IdentityParts {
  port: number;
  client: string;
  secret: string;
  /** Where browsers may be sent back to. */
  back: string;
  people: () => Promise<readonly Known[]>;
}

/** What was asked for in exchange for a code. */
interface Given {
  person: Known;
  nonce: string;
  challenge: string;
}

const escaped = (text: string) => text.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);

/**
 * A house's identity provider: OpenID Connect Core 1.0, authorization code with PKCE alone. Whoever comes chooses who they
 * are; there is no password, so that it is for one's own machine. A code is good once.
 */
export async function startIdentityStandIn(parts: IdentityParts): Promise<StandIn & { issuer: string }> {
  const keys = await generateKeyPair('RS256');
  const codes = new Map<string, Given>();
  const app = express();
  const server = createServer(app);
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(parts.port, '127.0.0.1', resolve);
  });
  const issuer = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const jwk = { ...(await exportJWK(keys.publicKey)), kid: KEY_ID, alg: 'RS256', use: 'sig' };
  app.get('/.well-known/openid-configuration', (_request, response) => {
    response.json(saidOf(issuer));
  });
  app.get('/jwks', (_request, response) => {
    response.json({ keys: [jwk] });
  });
  app.get('/authorize', (request, response) => authorize(parts, codes, request, response));
  app.post('/token', express.urlencoded({ extended: false }), async (request, response) => {
    const { status, body } = await exchange(parts, codes, { issuer, key: keys.privateKey }, request);
    response.status(status).json(body);
  });
  return {
    issuer,
    close: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}

const KEY_ID = 'stand-in';

/** What the provider says of itself (OpenID Connect Discovery 1.0). */
const saidOf = (issuer: string) => ({
  issuer,
  authorization_endpoint: `${issuer}/authorize`,
  token_endpoint: `${issuer}/token`,
  jwks_uri: `${issuer}/jwks`,
  response_types_supported: ['code'],
  subject_types_supported: ['public'],
  id_token_signing_alg_values_supported: ['RS256'],
  code_challenge_methods_supported: ['S256'],
  token_endpoint_auth_methods_supported: ['client_secret_post', 'client_secret_basic'],
});

/** Lets somebody choose who they are, and sends them back with a code. */
async function authorize(
  parts: IdentityParts,
  codes: Map<string, Given>,
  request: Request,
  response: Response,
): Promise<void> {
  const asked = request.query as Record<string, string>;
  if (asked.client_id !== parts.client || asked.redirect_uri !== parts.back) {
    response.status(400).send('Nobody known asks for that.');
    return;
  }
  const people = await parts.people();
  const person = people.find(({ id }) => id === asked.as);
  if (!person && asked.as !== NOBODY) {
    response.type('html').send(choice(request, people));
    return;
  }
  const to = new URL(parts.back);
  to.searchParams.set('state', asked.state ?? '');
  if (person) {
    const code = randomBytes(16).toString('hex');
    codes.set(code, { person, nonce: asked.nonce ?? '', challenge: asked.code_challenge ?? '' });
    to.searchParams.set('code', code);
  } else to.searchParams.set('error', 'access_denied');
  response.redirect(302, to.href);
}

/** Gives, for a code, a signed word of who somebody is. */
async function exchange(
  parts: IdentityParts,
  codes: Map<string, Given>,
  { issuer, key }: { issuer: string; key: CryptoKey },
  request: Request,
): Promise<{ status: number; body: object }> {
  const { code = '', code_verifier: verifier = '', redirect_uri: back } = request.body as Record<string, string>;
  if (!isClient(request, parts)) return { status: 401, body: { error: 'invalid_client' } };
  const given = codes.get(code);
  codes.delete(code);
  const challenge = createHash('sha256').update(verifier).digest('base64url');
  if (!given || given.challenge !== challenge || back !== parts.back)
    return { status: 400, body: { error: 'invalid_grant' } };
  const { person, nonce } = given;
  const idToken = await new SignJWT({ nonce, email: person.email, email_verified: person.isVerified ?? true })
    .setProtectedHeader({ alg: 'RS256', kid: KEY_ID })
    .setIssuer(issuer)
    .setAudience(parts.client)
    .setSubject(person.id)
    .setIssuedAt()
    .setExpirationTime('5 minutes')
    .sign(key);
  const access = randomBytes(16).toString('hex');
  return { status: 200, body: { access_token: access, token_type: 'Bearer', expires_in: 300, id_token: idToken } };
}

const NOBODY = 'nobody';

/** Whether it is the client, by its secret in the body or as RFC 7617 has it. */
function isClient(request: Request, { client, secret }: IdentityParts): boolean {
  const { client_id: id, client_secret: given } = request.body as Record<string, string>;
  const basic = /^Basic (.+)$/.exec(request.get('authorization') ?? '')?.[1];
  const [basicId, basicSecret] = Buffer.from(basic ?? '', 'base64')
    .toString()
    .split(':')
    .map(decodeURIComponent);
  return (id === client && given === secret) || (basicId === client && basicSecret === secret);
}

const choice = ({ originalUrl }: Request, people: readonly Known[]): string =>
  `<!doctype html><html lang="en"><meta charset="utf-8"><title>Who are you?</title><h1>Who are you?</h1><ul>${[
    ...people,
    { id: NOBODY, name: 'Nobody: refuse' },
  ]
    .map(
      ({ id, name }) => `<li><a href="${escaped(`${originalUrl}&as=${encodeURIComponent(id)}`)}">${escaped(name)}</a>`,
    )
    .join('')}</ul>`;
