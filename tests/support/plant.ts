import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import pg from 'pg';
import { hear, type Hearing } from './hearing.ts';
import { ownCluster } from './own-cluster.ts';
import { answerOf, freePort, PINS, startServer, until, Visitor, type RunningServer } from './server.ts';

/** Several processes on one PostgreSQL of their own, with fsync on as in the shop, because all of them are killed here. */
export async function plant() {
  const cluster = await ownCluster();
  const ports: number[] = [];
  const servers: (RunningServer | null)[] = [];

  async function asked<R>(sql: string, values: unknown[] = []): Promise<R[]> {
    const client = new pg.Client({
      connectionString: cluster.superUrl.replace(/\/postgres$/, '/tin'),
      connectionTimeoutMillis: 5000,
      query_timeout: 20_000,
    });
    // a line that dies while nothing is asked on it tells nobody but this; what is asked on it next fails
    client.on('error', () => undefined);
    await client.connect();
    try {
      return (await client.query(sql, values)).rows as R[];
    } finally {
      await client.end();
    }
  }
  /** Until it answers, whether it has to be started for that or not. */
  const startPostgres = () =>
    until(async () => {
      if (await answers()) return true;
      try {
        cluster.start();
      } catch {
        // it is on its way up by itself, or cannot yet
      }
      return answers();
    }, 60_000);
  const answers = () =>
    asked('SELECT 1').then(
      () => true,
      () => false,
    );
  return {
    servers,
    asked,
    /** What got no answer at all in the time that somebody waits. */
    silent: [] as string[],
    /** The addresses of those that run just now, in an order that is another each time. */
    alive: () => servers.flatMap((server) => (server ? [server.url] : [])).sort(() => Math.random() - 0.5),
    async growTo(processes: number) {
      while (servers.length < processes) {
        ports.push(await freePort());
        servers.push(await startServer(cluster.appUrl, {}, ports.at(-1)));
      }
    },
    async killProcess(i: number) {
      const server = servers[i];
      if (!server) return;
      servers[i] = null;
      await server.stop('SIGKILL');
    },
    async startProcess(i: number) {
      servers[i] ??= await startServer(cluster.appUrl, {}, ports[i]);
    },
    async killPostgres() {
      process.kill(
        Number(readFileSync(join(cluster.data, 'postmaster.pid'), 'utf8').split('\n')[0]),
        'SIGKILL',
      );
      await startPostgres();
    },
    startPostgres,
    cutAll: () =>
      asked(
        `SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = 'tin' AND pid <> pg_backend_pid()`,
      ),
    async close() {
      for (const server of servers) await server?.stop('SIGKILL');
      cluster.remove();
    },
  };
}
export type Plant = Awaited<ReturnType<typeof plant>>;

/** How long somebody waits for an answer, milliseconds. */
const SILENT = 25_000;

interface Sent {
  path: string;
  fields: Record<string, string>;
}

/** Somebody who signed in once and is served by whichever process answers; what gets no answer is sent again as the same act. */
export async function somebody(of: Plant, role: keyof typeof PINS) {
  const first = new Visitor(of.alive()[0]!);
  await first.enter(...PINS[role]!);
  const at = (url: string) => {
    const visitor = new Visitor(url);
    visitor.cookie = first.cookie;
    return visitor;
  };
  return {
    at,
    /** Sends until it is answered by yes or no; now and then through two processes at once. */
    async does({ path, fields }: Sent, goOn: () => boolean): Promise<'done' | 'refused' | 'unknown'> {
      const key = randomUUID();
      const once = async (url: string) => {
        try {
          // whoever waits for a balancer is told that nobody answers, and sends the same act again
          const answer = await Promise.race([
            at(url).send(path, { ...fields, key }, { 'x-request-id': key }),
            pause(SILENT, null, { ref: false }),
          ]);
          if (answer === null) {
            of.silent.push(`${url}${path} ${key}`);
            return null;
          }
          if (answer.status >= 500) return null;
          return (await answerOf(answer)).type;
        } catch {
          return null;
        }
      };
      while (goOn()) {
        const urls = of.alive().slice(0, Math.random() < 0.3 ? 2 : 1);
        const answers = await Promise.all(urls.map(once));
        if (answers.includes('success')) return 'done';
        if (answers.includes('failure')) return 'refused';
        await pause(30);
      }
      return 'unknown';
    },
    /** An open page, which comes again at another process when its own dies. */
    listens(goOn: () => boolean) {
      const told: string[] = [];
      let now: Hearing | null = null;
      let id: string | undefined;
      const done = (async () => {
        while (goOn()) {
          const [url] = of.alive();
          now = url
            ? await Promise.race([
                hear(at(url), url, '/live', id).catch(() => null),
                pause(SILENT, null, { ref: false }),
              ])
            : null;
          if (!now) {
            await pause(100);
            continue;
          }
          const stream = now;
          stream.onTold = (line) => told.push(line);
          told.push(...stream.told);
          while (goOn() && !stream.over()) await pause(50);
          id = stream.id() || id;
          stream.stop();
        }
      })();
      return { told, done };
    },
  };
}
