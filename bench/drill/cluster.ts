import { execFileSync, spawn } from 'node:child_process';
import { closeSync, mkdirSync, openSync, readFileSync } from 'node:fs';
import { userInfo } from 'node:os';
import { join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { AUDIT } from '../../server/boot/index.ts';
import type { Connecting, Node } from '../../server/store/index.ts';

const PATH = `${process.env.PATH ?? ''}:/usr/sbin:/usr/local/sbin`;
const PROVIDER = '/usr/lib/galera/libgalera_smm.so';
/** A node that is lost is taken to be so after a second and a half, not five. */
const SOON =
  'evs.keepalive_period=PT0.3S;evs.inactive_check_period=PT0.3S;evs.suspect_timeout=PT1.5S;evs.inactive_timeout=PT4S;evs.install_timeout=PT4S';
/** Whoever looks after the cluster waits so long for a node, in ms. */
const PATIENCE_MS = 90_000;
const PASSWORD = 'only-for-the-drill';

/** One node of a cluster on loopback. */
export class ClusterNode {
  private readonly folder: string;
  private readonly user = process.getuid?.() === 0 ? 'mysql' : userInfo().username;

  constructor(
    cluster: string,
    private readonly number: number,
    private readonly firstPort: number,
  ) {
    this.folder = join(cluster, `node${number}`);
    mkdirSync(join(this.folder, 'tmp'), { recursive: true });
    for (const path of [cluster, this.folder, join(this.folder, 'tmp')]) this.own(path);
    execFileSync(
      'mariadb-install-db',
      [
        '--no-defaults',
        `--user=${this.user}`,
        `--datadir=${this.folder}/data`,
        '--skip-test-db',
        '--skip-name-resolve',
        '--auth-root-authentication-method=socket',
        `--auth-root-socket-user=${userInfo().username}`,
      ],
      { env: { ...process.env, PATH }, stdio: 'pipe' },
    );
  }

  private own(path: string): void {
    if (process.getuid?.() === 0) execFileSync('chown', [this.user, path]);
  }

  get at(): Node {
    return { host: '127.0.0.1', port: this.firstPort + this.number };
  }

  /** Begins: as the first of a new cluster, or as one that joins. */
  async begin(isFirst = false): Promise<void> {
    const base = this.firstPort + 10 * this.number;
    const log = join(this.folder, 'log');
    closeSync(openSync(log, 'a'));
    this.own(log);
    const members = [1, 2, 3].map((number) => `127.0.0.1:${this.firstPort + 10 * number + 1}`).join(',');
    const child = spawn(
      'mariadbd',
      [
        '--no-defaults',
        `--user=${this.user}`,
        `--datadir=${this.folder}/data`,
        `--tmpdir=${this.folder}/tmp`,
        `--socket=${this.folder}/sock`,
        `--pid-file=${this.folder}/pid`,
        `--port=${this.at.port}`,
        '--bind-address=127.0.0.1',
        '--skip-name-resolve',
        `--log-error=${log}`,
        '--character-set-server=utf8mb4',
        '--collation-server=utf8mb4_unicode_ci',
        '--innodb-ft-min-token-size=2',
        '--innodb-ft-enable-stopword=OFF',
        '--max-allowed-packet=64M',
        '--binlog-format=ROW',
        '--innodb-autoinc-lock-mode=2',
        '--wsrep-on=ON',
        `--wsrep-provider=${PROVIDER}`,
        '--wsrep-cluster-name=ojo-drill',
        `--wsrep-cluster-address=gcomm://${members}`,
        `--wsrep-node-address=127.0.0.1:${base + 1}`,
        `--wsrep-node-incoming-address=127.0.0.1:${this.at.port}`,
        '--wsrep-sst-method=rsync',
        `--wsrep-sst-receive-address=127.0.0.1:${base + 3}`,
        `--wsrep-provider-options=gmcast.listen_addr=tcp://127.0.0.1:${base + 1};ist.recv_addr=127.0.0.1:${base + 2};ist.recv_bind=127.0.0.1:${base + 2};gcache.size=64M;${SOON}`,
        ...(isFirst ? ['--wsrep-new-cluster'] : []),
      ],
      { env: { ...process.env, PATH }, stdio: 'ignore', detached: true },
    );
    child.unref();
    for (const limit = performance.now() + PATIENCE_MS; !this.isReady(); ) {
      if (performance.now() > limit) throw new Error(`node ${this.number} did not join; its log is ${log}`);
      await delay(200);
    }
  }

  /** Asks as whoever looks after the node; throws where it does not answer. */
  ask(statement: string): string {
    return execFileSync(
      'mariadb',
      ['--no-defaults', `--socket=${this.folder}/sock`, '--batch', '--skip-column-names', '-e', statement],
      { env: { ...process.env, PATH }, stdio: 'pipe', timeout: 15_000 },
    )
      .toString()
      .trim();
  }

  /** Whether it is part of a cluster that has a majority, and has caught up. */
  isReady(): boolean {
    try {
      return this.ask("SHOW STATUS LIKE 'wsrep_ready'").endsWith('ON');
    } catch {
      return false;
    }
  }

  kill(): void {
    process.kill(Number(readFileSync(join(this.folder, 'pid'), 'utf8')), 'SIGKILL');
  }

  /** Cuts it off from the other nodes, or lets it back; whoever is connected to it stays so. */
  cutOff(isCut: boolean): void {
    this.ask(`SET GLOBAL wsrep_provider_options = 'gmcast.isolate=${isCut ? 1 : 0}'`);
  }

  stop(): void {
    try {
      this.ask('SHUTDOWN');
    } catch {
      // It is gone already.
    }
  }
}

/** Begins three nodes, and lets Ojo's own user in; how a server whose nearest is that node connects. */
export async function beginCluster(
  folder: string,
  firstPort: number,
): Promise<{ nodes: ClusterNode[]; connectingFrom: (node: number) => Connecting }> {
  const nodes = [1, 2, 3].map((number) => new ClusterNode(folder, number, firstPort));
  for (const [place, node] of nodes.entries()) await node.begin(place === 0);
  nodes[0]?.ask(
    [
      ...AUDIT,
      `CREATE USER 'ojo_app'@'127.0.0.1' IDENTIFIED BY '${PASSWORD}'`,
      "GRANT ALL ON `ojo%`.* TO 'ojo_app'@'127.0.0.1'",
      "GRANT INSERT, SELECT ON audit_ojo.entries TO 'ojo_app'@'127.0.0.1'",
    ].join(';'),
  );
  const inTurn = (from: number) => nodes.map((_, place) => nodes[(from + place) % nodes.length]?.at);
  return {
    nodes,
    connectingFrom(from) {
      const [first, ...others] = inTurn(from).filter((node) => node !== undefined);
      if (!first) throw new Error('a cluster has nodes');
      return { ...first, others, user: 'ojo_app', password: PASSWORD };
    },
  };
}

/** The setting by which a server is told of these nodes. */
export const urlOf = ({ host, port, others = [], user, password }: Connecting, database: string): string =>
  `mysql://${user}:${password}@${[{ host, port }, ...others].map((node) => `${node.host}:${node.port}`).join(',')}/${database}`;
