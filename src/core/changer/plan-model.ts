import { strikes } from './clearance.ts';
import { indexSteps } from './neighbours.ts';
import { choicesFor, MINUTES, moveMinutes, prepare } from './plan-layout.ts';
import type { Layout, PlanQuestion, Prepared } from './plan-layout.ts';

/** The layout as an exact solver takes it: a mixed-integer programme in the LP text format. */
export interface LayoutModel {
  text: string;
  /** Minutes that every layout costs and that the text does not hold. */
  constant: number;
  /** The text holds every cost: its optimum is the best layout, not a bound alone. */
  whole: boolean;
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

/** Ways between pockets that a model may hold; with more, solvers prove nothing in time. */
const MOST_WAYS = 40_000;

/**
 * The same rules and costs as `measureLayout`. The answer is exact unless `whole` is false: where tied tools of a swing arm come
 * and go in a run its changes count for the least they can be, and where the ways between pairs would be too many to be proved
 * anything about they count for nothing. Then it is a bound.
 */
export function layoutModel(question: PlanQuestion): LayoutModel {
  const prepared = prepare(question);
  const { tools, weights, shape } = question;
  const x = (tool: number, pocket: number) => `x_${tool}_${pocket}`;
  const choices = tools.map((tool) => choicesFor(question, tool).filter((pocket) => pocket > 0));
  const mayGo = tools.map((tool) => !tool.called && tool.locked === null);
  const objective: [number, string][] = [];
  const rules: string[] = [];
  const { ways, leastFollowed, followed } = prepared.times;
  let constant = (weights.time * (prepared.times.constant + leastFollowed)) / 60;

  tools.forEach((tool, i) => {
    if (mayGo[i]) objective.push([moveMinutes(question, tool, 0), `o_${i}`]);
    // what every choice costs is a constant; one term a name: the format does not add up two of the same
    const least = mayGo[i]
      ? 0
      : Math.min(...choices[i]!.map((pocket) => moveMinutes(question, tool, pocket)));
    constant += Number.isFinite(least) ? least : 0;
    for (const pocket of choices[i]!)
      objective.push([moveMinutes(question, tool, pocket) - least, x(i, pocket)]);
    rules.push(
      `${sum([...choices[i]!.map((pocket) => [1, x(i, pocket)] as const), ...(mayGo[i] ? [[1, `o_${i}`] as const] : [])]) || '0 none'} = 1`,
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
    for (const arm of prepared.arms)
      rules.push(
        `u ${sum(tools.flatMap((_, i) => choices[i]!.map((pocket) => [-prepared.masses[i]! * arm[pocket]!, x(i, pocket)] as const)))} >= 0`,
      );
  }
  const size = ways.reduce((all, { from, to }) => all + choices[from]!.length * choices[to]!.length, 0);
  const timed = weights.time > 0 && size <= MOST_WAYS;
  if (timed)
    for (const { from, to, bySteps } of ways) {
      const y = (p: number, q: number) => `y_${from}_${to}_${p}_${q}`;
      const both = (p: number, q: number) => p !== q;
      for (const p of choices[from]!) {
        const others = choices[to]!.filter((q) => both(p, q));
        rules.push(`${sum([...others.map((q) => [1, y(p, q)] as const), [-1, x(from, p)]])} = 0`);
        for (const q of others)
          objective.push([(weights.time * bySteps[indexSteps(shape, p, q)]!) / 60, y(p, q)]);
      }
      for (const q of choices[to]!)
        rules.push(
          `${sum([...choices[from]!.filter((p) => both(p, q)).map((p) => [1, y(p, q)] as const), [-1, x(to, q)]])} = 0`,
        );
    }
  const binaries = tools.flatMap((_, i) => [
    ...choices[i]!.map((pocket) => x(i, pocket)),
    ...(mayGo[i] ? [`o_${i}`] : []),
  ]);
  return {
    text: `Minimize\n obj: ${sum(objective) || '0 x_none'}\nSubject To\n${rules.map((rule, i) => ` r${i}: ${rule}`).join('\n')}\nBounds\n u >= 0\nBinary\n ${binaries.map((name, i) => `${name}${i % 12 === 11 ? '\n' : ''}`).join(' ')}\nEnd\n`,
    constant,
    whole: followed.length === 0 && (timed || ways.length === 0 || weights.time === 0),
    read: (value) => tools.map((_, i) => choices[i]!.find((pocket) => value(x(i, pocket)) > 0.5) ?? 0),
    write: (layout) =>
      layout.flatMap((pocket, i) => (pocket > 0 ? [x(i, pocket)] : mayGo[i] ? [`o_${i}`] : [])),
  };
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
            (strikes(apart, tool.radius, there.radius) || (tool.wide && beside.get(pocket)!.includes(number)))
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
