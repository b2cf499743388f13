import { once } from 'node:events';
import { connect, createServer, type Server, type Socket } from 'node:net';

/** The way to a database, which can be cut and mended, or swallow what is sent. */
export interface Line {
  port: number;
  cut(): Promise<void>;
  mend(): Promise<void>;
  /** Whatever comes from now on goes to another database. */
  turnTo(port: number): void;
  /** Lines stay open, and nothing goes through them any more; those that come later are as they should be. */
  hush(): void;
}

export async function lineTo(host: string, port: number): Promise<Line> {
  let goal = port;
  const open = new Set<Socket>();
  let server: Server;
  const listen = async (at: number) => {
    server = createServer((near) => {
      const far = connect(goal, host);
      for (const [from, to] of [
        [near, far],
        [far, near],
      ] as const) {
        open.add(from);
        from.pipe(to);
        from.on('error', () => to.destroy()).on('close', () => (to.destroy(), open.delete(from)));
      }
    }).listen(at, '127.0.0.1');
    await once(server, 'listening');
    return (server.address() as { port: number }).port;
  };
  const own = await listen(0);
  return {
    port: own,
    cut: async () => {
      server.close();
      for (const socket of open) socket.destroy();
    },
    mend: async () => void (await listen(own)),
    turnTo: (to) => void (goal = to),
    hush: () => {
      for (const socket of open) {
        socket.unpipe();
        // what comes in is read and lost
        socket.resume();
      }
    },
  };
}
