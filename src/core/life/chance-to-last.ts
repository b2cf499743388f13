import { sudden, type EdgeLife } from './edge-lives.ts';
import { ANY_SHAPE, fitWeibull, survives } from './weibull.ts';

/** A tool as it goes into hours without people: what its edge has cut by then and will have cut after them, and how earlier edges ended. */
export interface AgingTool {
  tool: number;
  usedNow: number;
  usedThen: number;
  edges: readonly EdgeLife[];
}

export interface ChanceToLast {
  /** That no tool chips or breaks of those whose edges have told how long they last. */
  chance: number;
  /** The one that it hangs on most, and its own chance; null: none of them may fail. */
  weakest: { tool: number; chance: number } | null;
  /** Tools that enough is known of, and those that too little is. */
  known: number[];
  unknown: number[];
}

/** Fewer edges than this say nothing of how often one breaks. */
const FEWEST_EDGES = 8;

/**
 * The chance that nothing breaks while nobody is there (H12): each edge has come so far already, and breaks with what is left of its
 * survival. Worn edges are no stop: their limits see to them, so that they count as taken out. Where none of many ever broke, one more
 * half of an end is supposed at the longest of them, so that nothing is called certain.
 */
export function chanceToLast(tools: readonly AgingTool[]): ChanceToLast {
  const known: { tool: number; chance: number }[] = [];
  const unknown: number[] = [];
  for (const { tool, usedNow, usedThen, edges } of tools) {
    if (edges.length < FEWEST_EDGES) {
      unknown.push(tool);
      continue;
    }
    const asBroken = edges.map((edge): EdgeLife => (sudden(edge) ? edge : { life: edge.life, end: 'good' }));
    const life = fitWeibull(asBroken, ANY_SHAPE) ?? neverBroke(edges);
    known.push({ tool, chance: survives(life, usedThen) / survives(life, usedNow) });
  }
  const weakest = known.reduce<ChanceToLast['weakest']>(
    (worst, each) => (worst && worst.chance <= each.chance ? worst : each),
    null,
  );
  return {
    chance: known.reduce((product, each) => product * each.chance, 1),
    weakest: weakest && weakest.chance < 1 ? weakest : null,
    known: known.map(({ tool }) => tool),
    unknown,
  };
}

/** None broke: half an end among all that they cut together, wearing as tools in general do. */
function neverBroke(edges: readonly EdgeLife[]) {
  const shape = Math.exp(ANY_SHAPE.middle);
  const longest = Math.max(...edges.map(({ life }) => life), 1);
  const cut = edges.reduce((sum, { life }) => sum + (life / longest) ** shape, 0);
  return { shape, scale: longest * (cut / 0.5) ** (1 / shape) };
}
