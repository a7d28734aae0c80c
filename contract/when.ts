/** An instant on the wire: ISO 8601 in UTC. */
export type When = string;
