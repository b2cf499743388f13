import { isRandom, livesByNumber } from './layout.ts';
import { indexSteps } from './neighbours.ts';
import { DIRECTIONS, MINUTES, prepare } from './plan-layout.ts';
import type { Layout, PlanQuestion, Prepared } from './plan-layout.ts';

/** The layout as an exact solver takes it: a mixed-integer programme in the LP text format. */
export interface LayoutModel {
  text: string;
  /** Minutes that every layout costs and that the text does not hold. */
  constant: number;
  /** The layout that a solution's values say. */
  read: (value: (name: string) => number) => Layout;
  /** The names that are one in a layout, to begin from it. */
  write: (layout: Layout) => string[];
}

/** A sum as LP text, a few terms a line: the format limits the length of a line. */
function sum(terms: readonly (readonly [factor: number, name: string])[]): string {
  const kept = terms.filter(([factor]) => Math.abs(factor) > 1e-12);
  return kept
    .map(
      ([factor, name], i) =>
        `${factor < 0 ? '-' : '+'} ${Math.abs(factor)} ${name}${i % 8 === 7 ? '\n ' : ''}`,
    )
    .join(' ');
}

/**
 * The same rules and costs as `measureLayout`, exactly, where T n lives in pocket n. Where the map of a swing arm turns over
 * with every change its waiting is no sum over pairs: there the changes count for the least they can be, and the answer is a
 * bound.
 */
export function layoutModel(question: PlanQuestion): LayoutModel {
  const prepared = prepare(question);
  const { tools, weights, shape, times } = question;
  const x = (tool: number, pocket: number) => `x_${tool}_${pocket}`;
  const choices = tools.map((tool) => pocketsFor(question, tool));
  const objective: [number, string][] = [];
  const rules: string[] = [];
  let constant = weights.time * (prepared.leastSeconds / 60);

  tools.forEach((tool, i) => {
    const hand = weights.hands * MINUTES.hand;
    if (tool.now === null && tool.called) constant += hand;
    if (!tool.called && tool.now !== null) objective.push([hand, `o_${i}`]);
    // one term a name: the format does not add up two of the same
    for (const pocket of choices[i]!) {
      const edited = livesByNumber(shape) && tool.called && pocket !== tool.tool;
      const carried = tool.now !== null && tool.now !== 0 && tool.now !== pocket;
      const byHand = isRandom(shape) ? weights.hands * MINUTES.call : 2 * hand;
      objective.push([(edited ? weights.hands * MINUTES.edit : 0) + (carried ? byHand : 0), x(i, pocket)]);
    }
    rules.push(
      `${sum([...choices[i]!.map((pocket) => [1, x(i, pocket)] as const), ...(tool.called ? [] : [[1, `o_${i}`] as const])])} = 1`,
    );
  });
  for (const pocket of new Set(choices.flat())) {
    const there = tools.flatMap((_, i) => (choices[i]!.includes(pocket) ? [[1, x(i, pocket)] as const] : []));
    if (there.length > 1) rules.push(`${sum(there)} <= 1`);
  }
  rules.push(...clearance(prepared, choices, x));
  const gaps = gapRules(prepared, choices, x);
  rules.push(...gaps.rules);
  for (const name of gaps.names) objective.push([weights.gaps * MINUTES.gap, name]);
  if (weights.balance > 0) {
    objective.push([weights.balance * MINUTES.unbalance, 'u']);
    for (let direction = 0; direction < DIRECTIONS; direction += 1)
      rules.push(
        `u ${sum(tools.flatMap((_, i) => choices[i]!.map((pocket) => [-prepared.pull(i, pocket, direction), x(i, pocket)] as const)))} >= 0`,
      );
  }
  if (weights.time > 0 && !isRandom(shape))
    for (const { from, to, times: often } of prepared.pairs) {
      const y = (p: number, q: number) => `y_${from}_${to}_${p}_${q}`;
      const minutes = (weights.time * often * times.perPocket) / 60;
      const both = (p: number, q: number) => p !== q;
      for (const p of choices[from]!) {
        const ways = choices[to]!.filter((q) => both(p, q));
        rules.push(`${sum([...ways.map((q) => [1, y(p, q)] as const), [-1, x(from, p)]])} = 0`);
        for (const q of ways) objective.push([minutes * indexSteps(shape, p, q), y(p, q)]);
      }
      for (const q of choices[to]!)
        rules.push(
          `${sum([...choices[from]!.filter((p) => both(p, q)).map((p) => [1, y(p, q)] as const), [-1, x(to, q)]])} = 0`,
        );
    }
  const binaries = tools.flatMap((tool, i) => [
    ...choices[i]!.map((pocket) => x(i, pocket)),
    ...(tool.called ? [] : [`o_${i}`]),
  ]);
  return {
    text: `Minimize\n obj: ${sum(objective) || '0 x_none'}\nSubject To\n${rules.map((rule, i) => ` r${i}: ${rule}`).join('\n')}\nBounds\n u >= 0\nBinary\n ${binaries.map((name, i) => `${name}${i % 12 === 11 ? '\n' : ''}`).join(' ')}\nEnd\n`,
    constant,
    read: (value) => tools.map((_, i) => choices[i]!.find((pocket) => value(x(i, pocket)) > 0.5) ?? 0),
    write: (layout) =>
      layout.flatMap((pocket, i) => (pocket > 0 ? [x(i, pocket)] : tools[i]!.called ? [] : [`o_${i}`])),
  };
}

function pocketsFor({ shape, usable }: PlanQuestion, tool: PlanQuestion['tools'][number]): number[] {
  if (tool.locked !== null) return [tool.locked];
  if (tool.called || isRandom(shape)) return usable.filter((pocket) => !tool.barred.includes(pocket));
  return tool.now !== null && usable.includes(tool.now) ? [tool.now] : [];
}

/** Wide tools have no neighbours, and no two tools stand where they would strike. */
function clearance(
  { question: { tools }, beside, reach }: Prepared,
  choices: readonly (readonly number[])[],
  x: (tool: number, pocket: number) => string,
): string[] {
  return tools.flatMap((tool, i) =>
    choices[i]!.flatMap((pocket) => {
      const struck = new Map<number, number[]>();
      const add = (number: number, other: number) =>
        struck.set(number, [...(struck.get(number) ?? []), other]);
      tools.forEach((there, j) => {
        if (j === i) return;
        for (const { number, apart } of reach.get(pocket) ?? [])
          if (
            choices[j]!.includes(number) &&
            (apart < tool.radius + there.radius || (tool.wide && beside.get(pocket)!.includes(number)))
          )
            add(number, j);
        if (tool.wide)
          for (const number of beside.get(pocket)!)
            if (choices[j]!.includes(number) && !struck.get(number)?.includes(j)) add(number, j);
      });
      return [...struck].map(
        ([number, others]) =>
          `${sum([[1, x(i, pocket)], ...others.map((j) => [1, x(j, number)] as const)])} <= 1`,
      );
    }),
  );
}

/** A pocket beside a wide tool counts once, however many share it. */
function gapRules(
  { question: { tools, weights }, beside }: Prepared,
  choices: readonly (readonly number[])[],
  x: (tool: number, pocket: number) => string,
): { rules: string[]; names: string[] } {
  if (weights.gaps <= 0) return { rules: [], names: [] };
  const names = new Set<string>();
  const rules = tools.flatMap((tool, i) =>
    tool.wide
      ? choices[i]!.flatMap((pocket) =>
          beside.get(pocket)!.map((other) => {
            names.add(`b_${other}`);
            return `b_${other} - ${x(i, pocket)} >= 0`;
          }),
        )
      : [],
  );
  return { rules, names: [...names] };
}
