import type { z } from 'zod';
import { addressOf, type ParamsOf, type RouteName } from '../../contract/paths.ts';
import { type Problem, problemSchema } from '../../contract/problems.ts';
import { type AnswerOf, type BodyOf, ROUTES } from '../../contract/routes.ts';
import { problemWords } from '../../contract/words/refusals.ts';

/** How long an answer may take, in ms: counting what a rule comes to reads months of changes. */
const PATIENCE_MS = 120_000;

/** What the server, or the way to it, refused; said in words. */
export class Refused extends Error {
  constructor(readonly problem: Pick<Problem, 'code' | 'faults'> & { words: string }) {
    super(problem.words);
  }
}

type Asked<N extends RouteName> = (keyof ParamsOf<N> extends never ? unknown : { params: ParamsOf<N> }) &
  (BodyOf<N> extends undefined ? unknown : { body: BodyOf<N> });

/** A running Ojo, asked by its API in the name of whoever made the token. */
export class House {
  private readonly base: URL;

  /** Throws a {@link Refused} where the address is none, or the token is missing. */
  constructor(
    base: string,
    private readonly token: string,
  ) {
    const url = URL.canParse(base) ? new URL(base) : null;
    if (!url || !/^https?:$/.test(url.protocol))
      throw said(`“${base}” is no address of a server, as http://localhost:4300 is.`);
    if (token.trim() === '')
      throw said('OJO_TOKEN holds no token. One that may write is made on one’s own page, under Programs.');
    this.base = url;
  }

  /** Asks one route; throws a {@link Refused} that says what was wrong. */
  async ask<N extends RouteName>(name: N, asked: Asked<N>): Promise<AnswerOf<N>> {
    const { params = {}, body } = asked as { params?: object; body?: unknown };
    const { method, path } = addressOf(name, params as ParamsOf<N>);
    const response = await this.fetch(method, `/api${path}`, body);
    const text = await response.text();
    const json: unknown = text === '' ? undefined : parsed(text);
    if (!response.ok) throw new Refused(refusalIn(json, response.status));
    const { answer } = ROUTES[name] as { answer?: z.ZodType };
    const read = answer?.safeParse(json);
    if (read && !read.success) throw said(`${this.base.origin} answers ${name} as another version of Ojo does.`);
    return json as AnswerOf<N>;
  }

  private async fetch(method: string, path: string, body: unknown): Promise<Response> {
    try {
      return await fetch(new URL(path, this.base), {
        method,
        headers: {
          authorization: `Bearer ${this.token}`,
          'content-type': 'application/json',
          accept: 'application/json',
        },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
        signal: AbortSignal.timeout(PATIENCE_MS),
        redirect: 'error',
      });
    } catch (error) {
      const cause =
        error instanceof Error ? ((error.cause as Error | undefined)?.message ?? error.message) : String(error);
      throw said(`${this.base.origin} does not answer: ${cause}`);
    }
  }
}

const said = (words: string): Refused => new Refused({ code: 'unreachable', words });

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

function refusalIn(json: unknown, status: number): Refused['problem'] {
  const read = problemSchema.safeParse(json);
  if (!read.success) return { code: 'failed', words: `The server answers ${status}, and does not say why.` };
  const { title, detail } = problemWords(read.data, 'en');
  const { code, faults } = read.data;
  if (code === 'notSignedIn')
    return { code, words: 'OJO_TOKEN opens nothing here: it is mistyped, ended, or its days are over.' };
  return { code, words: detail ?? `${title}.`, ...(faults ? { faults } : {}) };
}
