import type { Pool } from 'mysql2/promise';
import { LIMITS } from '../../contract/limits.ts';
import { Refusal } from '../../contract/problems.ts';
import { DAY_MS, type Instant } from '../../core/time/index.ts';
import { type Content, newId, one, run, store } from '../store/index.ts';
import { HEAD_BYTES, kindOfContents, TextSense } from './kind.ts';

/** So much may wait of one person that no document shows yet, in bytes; it is swept away after a day. */
const MOST_WAITING = 10 * LIMITS.fileBytes;

/**
 * Takes contents in as they come, piece by piece, never more than one in memory. They are nobody's document until one
 * shows them. What is too large, or is broken off, leaves nothing.
 */
export async function receiveContents(
  pool: Pool,
  stream: AsyncIterable<Buffer>,
  { name, by, at }: { name: string; by: string; at: Instant },
): Promise<Content> {
  if (((await one(pool, store.contents.waitingSize(by))) ?? 0) > MOST_WAITING) throw new Refusal('tooMany');
  const begun: Content = { id: newId(at), size: 0, mediaType: 'application/octet-stream', madeBy: by, madeAt: at };
  await run(pool, store.contents.begin(begun));
  try {
    const { size, head, isText } = await keepPieces(pool, begun.id, stream);
    const mediaType = await kindOfContents(head, name, isText);
    await run(pool, store.contents.complete(begun.id, size, mediaType));
    return { ...begun, size, mediaType };
  } catch (error) {
    // What cannot be taken away now is swept away later.
    await run(pool, store.contents.drop(begun.id)).catch(() => undefined);
    throw error;
  }
}

async function keepPieces(pool: Pool, content: string, stream: AsyncIterable<Buffer>) {
  const sense = new TextSense();
  const pieces = new Pieces();
  let [size, seq] = [0, 0];
  let head = Buffer.alloc(0);
  const keep = async (bytes: Buffer) => {
    await run(pool, store.contents.addChunk(content, seq, bytes));
    seq += 1;
  };
  for await (const given of stream) {
    size += given.length;
    if (size > LIMITS.fileBytes)
      throw new Refusal('badRequest', {
        because: { code: 'fileTooLarge', params: { most: LIMITS.fileBytes / 1024 / 1024 } },
      });
    sense.take(given);
    if (head.length < HEAD_BYTES) head = Buffer.concat([head, given.subarray(0, HEAD_BYTES - head.length)]);
    for (const whole of pieces.add(given)) await keep(whole);
  }
  const rest = pieces.rest();
  if (rest.length > 0) await keep(rest);
  return { size, head, isText: sense.end() };
}

/** Makes of what comes, in whatever sizes, pieces of one size. */
class Pieces {
  private held: Buffer[] = [];
  private size = 0;

  add(given: Buffer): Buffer[] {
    this.held.push(given);
    this.size += given.length;
    if (this.size < store.contents.CHUNK_BYTES) return [];
    const all = this.rest();
    const whole: Buffer[] = [];
    let from = 0;
    for (; from + store.contents.CHUNK_BYTES <= all.length; from += store.contents.CHUNK_BYTES)
      whole.push(all.subarray(from, from + store.contents.CHUNK_BYTES));
    this.held = [all.subarray(from)];
    this.size = all.length - from;
    return whole;
  }

  /** What is held, all of it. */
  rest(): Buffer {
    const all = Buffer.concat(this.held);
    this.held = [];
    this.size = 0;
    return all;
  }
}

/** So many are taken away at once. */
const SWEPT = 50;

/** Takes away what was handed in a day ago or longer and became no document; whether there may be more. */
export async function sweepContents(pool: Pool, now: Instant): Promise<boolean> {
  const { affectedRows } = await run(pool, store.contents.sweep(now - DAY_MS, SWEPT));
  return affectedRows === SWEPT;
}

/** Contents, piece by piece in their order. */
export async function* piecesOf(pool: Pool, content: string): AsyncGenerator<Buffer> {
  for (let seq = 0; ; seq += 1) {
    const bytes = await one(pool, store.contents.chunk(content, seq));
    if (!bytes) return;
    yield bytes;
  }
}
