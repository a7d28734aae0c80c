import * as oidc from 'openid-client';
import type { Pool } from 'mysql2/promise';
import { sameAddress } from '../../core/people/index.ts';
import { type Directory, NotOpened, type Profile, sealOf } from '../store/index.ts';

/** The house's own identity provider (OpenID Connect), as the settings name it. */
export interface LoginSettings {
  issuer: string;
  client: string;
  secret: string | null;
  /** What signing in there is called on the page. */
  name: string;
}

/** How long the provider's answer is waited for, in seconds. */
const PATIENCE_S = 8;
/** As what a browser keeps what it began, sealed, until it comes back. */
const BEGUN = 'house-login';

/** Why somebody who came back is not signed in: the provider's own refusal, no address it vouches for, or nobody's here. */
export type NotIn =
  | { why: 'refused'; said: string }
  | { why: 'noAddress' }
  | { why: 'nobody'; email: string }
  | { why: 'begunElsewhere' }
  | { why: 'away'; said: string };

/** What a browser that goes to the provider has to know again when it comes back. */
interface Begun {
  state: string;
  nonce: string;
  verifier: string;
}

/** Signs people in by the house's own identity provider: authorization code with PKCE (RFC 7636), state and nonce. */
export class HouseLogin {
  private found: Promise<oidc.Configuration> | null = null;

  /** @param back the address to which the provider sends a browser back */
  constructor(
    private readonly pool: Pool,
    private readonly settings: LoginSettings,
    private readonly back: string,
  ) {}

  get name(): string {
    return this.settings.name;
  }

  /** Where a browser goes, and what it keeps meanwhile; or why it cannot, while the provider cannot be reached. */
  async begin(): Promise<{ to: string; kept: string } | NotIn> {
    const config = await this.config().catch(notIn);
    if ('why' in config) return config;
    const begun: Begun = {
      state: oidc.randomState(),
      nonce: oidc.randomNonce(),
      verifier: oidc.randomPKCECodeVerifier(),
    };
    const to = oidc.buildAuthorizationUrl(config, {
      redirect_uri: this.back,
      scope: 'openid email',
      state: begun.state,
      nonce: begun.nonce,
      code_challenge: await oidc.calculatePKCECodeChallenge(begun.verifier),
      code_challenge_method: 'S256',
    });
    return { to: to.href, kept: sealOf(this.pool).close(JSON.stringify(begun), BEGUN) };
  }

  /** Who has come back: whoever of those here has the address that the provider vouches for. */
  async end(query: string, kept: string, { people }: Directory): Promise<Profile | NotIn> {
    const begun = this.begun(kept);
    if (!begun) return { why: 'begunElsewhere' };
    let claims: oidc.IDToken | undefined;
    try {
      const tokens = await oidc.authorizationCodeGrant(await this.config(), new URL(`${this.back}${query}`), {
        expectedState: begun.state,
        expectedNonce: begun.nonce,
        pkceCodeVerifier: begun.verifier,
        idTokenExpected: true,
      });
      claims = tokens.claims();
    } catch (error) {
      return notIn(error);
    }
    const email = claims?.email;
    if (typeof email !== 'string' || claims?.email_verified !== true) return { why: 'noAddress' };
    const person = [...people.values()].find(
      (one) => one.active && one.email !== null && sameAddress(one.email) === sameAddress(email),
    );
    return person ?? { why: 'nobody', email };
  }

  private begun(kept: string): Begun | null {
    if (!kept.startsWith('sealed:')) return null;
    try {
      return JSON.parse(sealOf(this.pool).open(kept, BEGUN)) as Begun;
    } catch (error) {
      if (error instanceof NotOpened) return null;
      throw error;
    }
  }

  /** What the provider says of itself; asked again where it could not be. */
  private config(): Promise<oidc.Configuration> {
    const { issuer, client, secret } = this.settings;
    const url = new URL(issuer);
    // On one's own machine there is nobody in between.
    const isInside = url.protocol === 'http:' && ['localhost', '127.0.0.1', '[::1]'].includes(url.hostname);
    this.found ??= oidc
      .discovery(url, client, secret ?? undefined, secret === null ? oidc.None() : undefined, {
        timeout: PATIENCE_S,
        ...(isInside ? { execute: [oidc.allowInsecureRequests] } : {}),
      })
      .catch((error: unknown) => {
        this.found = null;
        throw error;
      });
    return this.found;
  }
}

/** What the provider, or the way there, had against it. */
function notIn(error: unknown): NotIn {
  if (error instanceof oidc.AuthorizationResponseError)
    return { why: 'refused', said: error.error_description ?? error.error };
  if (error instanceof oidc.ResponseBodyError) return { why: 'refused', said: error.error_description ?? error.error };
  const { code, message } = error as { code?: string; message?: string };
  // What does not fit what this browser began, or is not signed by the provider, is nobody's sign-in.
  if (code && /^OAUTH_(?:INVALID|JWT|RESPONSE|KEY|UNSUPPORTED|PARSE)/.test(code)) return { why: 'begunElsewhere' };
  return { why: 'away', said: message ?? '' };
}
