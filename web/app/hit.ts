/** Something found: where it is, or how what is typed goes on. */
export interface Hit {
  path: string;
  /** What stands in the box once it is taken, where it leads nowhere. */
  fill?: string;
  name: string;
  kind: string;
}
