import type { Complaints } from './complaints.ts';

/** Lets work go on by itself, on which nothing waits; its failure is told, never thrown at the process. */
export function inBackground(work: Promise<unknown>, what: string, complaints: Complaints): void {
  work.catch((error: unknown) => complaints.tell(what, error));
}
