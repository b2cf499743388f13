// A stand-in for a presetter: lines of text over loopback TCP. Asked `MEASURE A-103`, it measures that tool of the
// made-up cell as a camera would, a few micrometres off each time. It ships with the demo.
import { createServer } from 'node:net';

interface Tool {
  number: string;
  /** Millimetres. */
  length: number;
  diameter: number;
  radius: number;
}

const tools = new Map(
  (JSON.parse(process.env.SIM_TOOLS ?? '[]') as Tool[]).map((tool) => [tool.number.toLowerCase(), tool]),
);
const noise = (spread: number) => (Math.random() + Math.random() + Math.random() - 1.5) * spread;
const mm = (value: number) => value.toFixed(4);

function measured(number: string): string {
  const tool = tools.get(number.toLowerCase());
  if (!tool) return `ERROR no tool ${number} in the fixture`;
  const radius = tool.radius > 0 ? ` R ${mm(Math.max(0, tool.radius + noise(0.003)))}` : '';
  return `TOOL ${tool.number} L ${mm(tool.length + noise(0.004))} D ${mm(tool.diameter + noise(0.003))}${radius} U ${mm(0.003 + Math.abs(noise(0.004)))} MM`;
}

const server = createServer((socket) => {
  let rest = '';
  socket.setTimeout(60_000, () => socket.destroy());
  socket.on('error', () => socket.destroy());
  socket.on('data', (part) => {
    rest = (rest + String(part)).slice(-1000);
    const lines = rest.split('\n');
    rest = lines.pop()!;
    for (const line of lines) {
      const asked = /^MEASURE\s+(\S+)\s*$/i.exec(line);
      socket.write(`${asked ? measured(asked[1]!) : 'ERROR ask with MEASURE and a number'}\n`);
    }
  });
});
server.listen(Number(process.env.SIM_PORT ?? 0), '127.0.0.1', () =>
  console.log(JSON.stringify({ port: (server.address() as { port: number }).port })),
);
