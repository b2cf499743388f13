import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { randomUUID } from 'node:crypto';
import { createServer } from 'node:net';
import { ROOMY } from '../../scripts/project.mjs';

/** A server process of the built application, as it runs in the shop, and people who use it over HTTP. */
export interface RunningServer {
  url: string;
  child: ChildProcess;
  stop(signal?: NodeJS.Signals): Promise<void>;
}

/** A stand-in for an outside device, as a process of its own, and the port of loopback that it listens on. */
export async function standIn(
  name: 'control' | 'gauge' | 'play' | 'presetter',
  env: NodeJS.ProcessEnv = {},
): Promise<{ child: ChildProcess; port: number }> {
  const child = spawn(process.execPath, ['--import', 'tsx', `sim/${name}.ts`], {
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const [line] = (await once(child.stdout!, 'data')) as [Buffer];
  return { child, port: (JSON.parse(String(line)) as { port: number }).port };
}

/** A connection for each question: one that was kept would be a dead one after a server was killed and started again. */
export const ONE_LINE = { connection: 'close' };

export async function freePort(): Promise<number> {
  const probe = createServer().listen(0, '127.0.0.1');
  await once(probe, 'listening');
  const { port } = probe.address() as { port: number };
  probe.close();
  return port;
}

export async function startServer(
  databaseUrl: string,
  extra: NodeJS.ProcessEnv = {},
  wantedPort?: number,
): Promise<RunningServer> {
  const port = wantedPort ?? (await freePort());
  const child = spawn(process.execPath, [ROOMY, 'build/index.js'], {
    env: {
      ...process.env,
      DATABASE_URL: databaseUrl,
      PORT: String(port),
      HOST: '127.0.0.1',
      NODE_ENV: 'production',
      LOG_LEVEL: 'fatal',
      SHUTDOWN_TIMEOUT: '1',
      BODY_SIZE_LIMIT: '140M',
      // two suites at once on a small machine: a wait of seconds for a connection is no fault there
      CONNECT_TIMEOUT_MS: '15000',
      ...extra,
    },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  const url = `http://127.0.0.1:${port}`;
  const server: RunningServer = {
    url,
    child,
    async stop(signal = 'SIGTERM') {
      if (child.exitCode !== null || child.signalCode !== null) return;
      child.kill(signal);
      await once(child, 'exit');
    },
  };
  await until(
    // a question that is swallowed on its way is asked again: without a limit it would be waited for for minutes
    async () =>
      (
        await fetch(`${url}/readyz`, { headers: ONE_LINE, signal: AbortSignal.timeout(5000) }).catch(
          () => null,
        )
      )?.ok === true,
    60_000,
  );
  return server;
}

/** Waits for something to become true; the only kind of waiting in these tests. */
export async function until(good: () => Promise<boolean> | boolean, milliseconds = 30_000): Promise<void> {
  const end = Date.now() + milliseconds;
  while (!(await good())) {
    if (Date.now() > end) throw new Error('waited too long');
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

export const PINS: Readonly<Record<string, [badge: string, pin: string]>> = {
  lead: ['1001', '2580'],
  setter: ['1002', '1470'],
  operator: ['1003', '3690'],
  inspector: ['1004', '7410'],
  crib: ['1005', '8520'],
  viewer: ['1006', '9630'],
};

/** How long an answer is waited for: a question that is swallowed on its way fails by its name, not by the limit of the whole test. */
const NO_ANSWER = 90_000;

/** Somebody signed in: their pages and their forms. */
export class Visitor {
  private readonly url: string;
  cookie = '';

  constructor(url: string) {
    this.url = url;
  }

  async signIn(badge: string, pin: string): Promise<Response> {
    const response = await this.send('/sign-in?/enter', { badge, pin, to: '/' });
    this.cookie =
      response.headers
        .getSetCookie()
        .map((line) => line.split(';')[0])
        .filter((pair) => pair!.startsWith('tin-session'))
        .join('; ') || this.cookie;
    return response;
  }

  /** Signs somebody in who is to be let in: what else is answered is told, since everything after it would only be refused. */
  async enter(badge: string, pin: string): Promise<void> {
    const response = await this.signIn(badge, pin);
    const said = await response.text();
    if (!said.includes('"redirect"'))
      throw new Error(`Signing in answered ${response.status}: ${said.slice(0, 300)}`);
  }

  get(path: string, accept = 'text/html'): Promise<Response> {
    return fetch(this.url + path, {
      headers: { cookie: this.cookie, accept, ...ONE_LINE },
      redirect: 'manual',
      signal: AbortSignal.timeout(NO_ANSWER),
    });
  }

  /** Posts a form as a page of ours does. */
  send(
    path: string,
    fields: Record<string, string>,
    headers: Record<string, string> = {},
  ): Promise<Response> {
    return fetch(this.url + path, {
      method: 'POST',
      headers: {
        cookie: this.cookie,
        origin: this.url,
        'sec-fetch-site': 'same-origin',
        accept: 'application/json',
        'x-sveltekit-action': 'true',
        'content-type': 'application/x-www-form-urlencoded',
        ...ONE_LINE,
        ...headers,
      },
      body: new URLSearchParams({ key: randomUUID(), ...fields }),
      redirect: 'manual',
      signal: AbortSignal.timeout(NO_ANSWER),
    });
  }
}

/** What an action answered: its type, and the data as text. */
export async function answerOf(response: Response): Promise<{ type: string; status: number; data: string }> {
  return (await response.json()) as { type: string; status: number; data: string };
}
