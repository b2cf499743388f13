// A stand-in for bench gauges with a data key: lines of text over loopback TCP. Whoever is connected hears each reading as it is
// sent. The line `PRESS micrometer 0-25 AT 22.0` presses the key of a gauge with about that many millimetres under it, and it sends
// what it measures, a few micrometres off; `PRESS micrometer 0-25 = 22.004 MM` sends just that. It ships with the demo.
import { createServer, type Socket } from 'node:net';

const noise = (spread: number) => (Math.random() + Math.random() + Math.random() - 1.5) * spread;
const hearing = new Set<Socket>();

const server = createServer((socket) => {
  let rest = '';
  hearing.add(socket);
  socket.on('error', () => socket.destroy());
  socket.on('close', () => hearing.delete(socket));
  socket.on('data', (part) => {
    rest = (rest + String(part)).slice(-1000);
    const lines = rest.split('\n');
    rest = lines.pop()!;
    for (const line of lines) {
      const shown = /^PRESS\s+(.+?)\s*=\s*(.+?)\s*$/i.exec(line);
      const held = /^PRESS\s+(.+?)\s+AT\s+(-?[\d.]+)\s*$/i.exec(line);
      const sent = shown
        ? `GAUGE ${shown[1]} = ${shown[2]}`
        : held && `GAUGE ${held[1]} = ${(Number(held[2]) + noise(0.004)).toFixed(4)} MM`;
      if (sent) for (const each of hearing) each.write(`${sent}\n`);
      else socket.write('ERROR press a gauge by its name\n');
    }
  });
});
server.listen(Number(process.env.SIM_PORT ?? 0), '127.0.0.1', () =>
  console.log(JSON.stringify({ port: (server.address() as { port: number }).port })),
);
