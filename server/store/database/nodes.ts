import { connect, type Socket } from 'node:net';
import type { PoolConnection as CoreConnection } from 'mysql2';
import type { Pool, PoolConnection } from 'mysql2/promise';

/** Where a node of a database listens. */
export interface Node {
  host: string;
  port: number;
}

/** How the node is left to which a connection leads, of connections to a cluster. */
const leaving = new WeakMap<Socket, () => void>();

/** The node of a connection cannot be used: its pool goes to the next one. */
export const nodeFailed = (connection: PoolConnection): void => leaving.get(socketOf(connection))?.();

/**
 * The nodes of one database, such as a Galera cluster's. One is used, by all connections of a pool, until it cannot be
 * reached or says that it is no part of the cluster; then the next.
 */
export class Nodes {
  private at = 0;
  private readonly nodeOf = new WeakMap<Socket, number>();
  private readonly letIn = new WeakSet<Socket>();

  constructor(private readonly list: readonly [Node, ...Node[]]) {}

  /** The node in use. */
  get current(): Node {
    return this.list[this.at] ?? this.list[0];
  }

  /** How many there are. */
  get count(): number {
    return this.list.length;
  }

  /** A connection to the node in use, for the driver to speak on. */
  open = (): Socket => {
    const node = this.at;
    const socket = connect(this.current.port, this.current.host);
    this.nodeOf.set(socket, node);
    leaving.set(socket, () => this.leave(node));
    socket.setNoDelay(true);
    socket.setKeepAlive(true);
    // What ends before the node has let us in has failed: by a refusal, or because it said nothing for too long.
    const fails = () => {
      if (!this.letIn.has(socket)) this.leave(node);
    };
    socket.prependOnceListener('error', fails);
    socket.prependOnceListener('close', fails);
    return socket;
  };

  /** The node has let a connection in. */
  isIn(connection: CoreConnection): void {
    this.letIn.add((connection as unknown as { stream: Socket }).stream);
  }

  /** Whether a connection leads to another node than the one in use. */
  isElsewhere(connection: PoolConnection): boolean {
    const node = this.nodeOf.get(socketOf(connection));
    return node !== undefined && node !== this.at;
  }

  private leave(node: number): void {
    if (node === this.at) this.at = (node + 1) % this.list.length;
  }
}

const socketOf = ({ connection }: PoolConnection): Socket => (connection as unknown as { stream: Socket }).stream;

/** The nodes that a pool's connections lead to, of pools that have several. */
export const nodesOf = new WeakMap<Pool, Nodes>();
