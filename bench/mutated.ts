// npm run mutated [-- how many]: reads so many mutated programs of the demo; none may throw, or take longer than its work allows.
import { readdirSync, readFileSync } from 'node:fs';
import { usualDialect } from '../src/core/program/dialect.ts';
import { readProgram } from '../src/core/program/read-program.ts';

const count = Number(process.argv[2] ?? 100_000);
/** Milliseconds for a program of the demo's size, with all of its repeats. */
const PATIENCE = 20_000;
const texts = readdirSync('demo/programs').map((name) => readFileSync(`demo/programs/${name}`, 'utf8'));
const PIECES =
  'G0 G1 G2 G65 G66 G67 G71 G70 G76 G81 G91 G96 G10 M98 M97 M99 M30 M6 M1 T1 T#1 T0101 P1 P10 P2207 L9999 Q20 O1 O2207 N10 N1100 X1. X-#5 Z[1/0] Z-5. F0 F#9 S0 H0 D0 #1=#1+1 #100=5 GOTO10 GOTO1100 ( ) [ ] / % ; : " < , WHILE[1EQ1]DO1 END1 IF[#1EQ2]GOTO10 IF[#9GT0]THEN#1=2 X400000000. T99999999999 \0 \r \n'.split(
    ' ',
  );
let state = 20_261_127;
const next = (below: number) => {
  state = (state * 48_271) % 2_147_483_647;
  return state % below;
};
const dialects = [
  usualDialect('mill', 'mm'),
  usualDialect('lathe', 'in'),
  { ...usualDialect('mill', 'in'), toolCallMacro: 1, automaticRow: 99 },
];
const [began, kinds] = [performance.now(), new Map<string, number>()];
let [slowest, read] = [0, 0];
for (let i = 0; i < count; i += 1) {
  let text = texts[next(texts.length)]!;
  const from = next(text.length);
  text = text.slice(from, from + 200 + next(3000));
  for (let k = 1 + next(12); k > 0; k -= 1) {
    const at = next(text.length + 1);
    const piece = PIECES[next(PIECES.length)]!;
    text =
      next(3) === 0
        ? text.slice(0, at) + text.slice(at + next(40))
        : `${text.slice(0, at)}${piece}${text.slice(at)}`;
  }
  const started = performance.now();
  try {
    // an endless loop costs all that it may: of most of them a little of it, of each hundredth the whole
    const most = i % 100 === 0 ? {} : { most: 5000 };
    const result = readProgram(text, dialects[next(dialects.length)]!, most);
    if (result.ok) {
      read += 1;
      JSON.stringify(result.reading);
      for (const { code } of result.reading.remarks) kinds.set(code!, (kinds.get(code!) ?? 0) + 1);
      for (const call of result.reading.calls)
        if (
          ![call.cutMilliseconds, call.feedDistance, call.holes, call.deepest ?? 0].every(
            Number.isSafeInteger,
          )
        )
          throw new Error('a figure that cannot be kept');
    }
  } catch (error) {
    console.error(`Mutant ${i}:\n${text}`);
    throw error;
  }
  if (i > 0 && i % 100_000 === 0) console.log(`${i} read, slowest ${slowest.toFixed(0)} ms`);
  const took = performance.now() - started;
  slowest = Math.max(slowest, took);
  if (took > PATIENCE) throw new Error(`Mutant ${i} took ${took.toFixed(0)} ms:\n${text}`);
}
console.log(
  [...kinds]
    .sort((a, b) => b[1] - a[1])
    .map(([code, n]) => `${code} ${n}`)
    .join(', '),
);
console.log(
  `${count} mutated programs, ${read} of them read, none thrown at; slowest ${slowest.toFixed(0)} ms, ${((performance.now() - began) / count).toFixed(2)} ms each`,
);
