import { layoutBound } from '../../core/changer/plan-bound.ts';
import {
  layoutFault,
  measureLayout,
  prepare,
  type Layout,
  type PlanQuestion,
} from '../../core/changer/plan-layout.ts';
import type { FoundLayout } from '../../core/changer/plan-search.ts';
import { layoutModel } from '../../core/changer/plan-model.ts';
import type { Highs } from 'highs';

export interface Verdict {
  found: FoundLayout;
  /** No layout costs less, minutes. */
  bound: number;
  /** The found layout is as good as the bound. */
  proven: boolean;
}

/** Costs nearer than this are the same, minutes. */
const SAME = 1e-6;

/**
 * Holds a found layout against the exact solver: a better one when the solver has one in time, and the bound it has proved.
 * `told` hears the bound as it rises.
 */
export function againstExact(
  highs: Highs,
  question: PlanQuestion,
  found: FoundLayout,
  seconds: number,
  told: (bound: number) => void = () => {},
): Verdict {
  const model = layoutModel(question);
  let bound = 0;
  let best = found;
  highs.withModel({ format: 'lp', data: model.text }, (solver) => {
    solver.options.set({ output_flag: false, time_limit: seconds, mip_rel_gap: 1e-7, mip_abs_gap: SAME });
    const columns = new Map<string, number>();
    const column = (name: string) => {
      const known = columns.get(name) ?? solver.getColByName(name);
      columns.set(name, known);
      return known;
    };
    const start = model.write(found.layout);
    solver.setSolution({ indices: start.map(column), values: start.map(() => 1) });
    solver.run({
      [highs.constants.callbackType.mipLogging](event: { data: { mip_dual_bound?: number } }) {
        const reached = (event.data.mip_dual_bound ?? -Infinity) + model.constant;
        if (reached > bound + SAME) told((bound = reached));
        return undefined;
      },
    });
    bound = Math.max(0, Number(solver.info.get('mip_dual_bound')) + model.constant);
    if (!Number.isFinite(bound)) bound = 0;
    const values = solver.getSolution().colValue;
    const prepared = prepare(question);
    const layout = model.read((name) => values[column(name)] ?? 0);
    if (layoutFault(prepared, layout) === null) {
      const measure = measureLayout(prepared, layout);
      if (measure.cost < best.measure.cost - SAME) best = { layout, measure };
    }
  });
  bound = Math.max(bound, layoutBound(question));
  return { found: best, bound, proven: best.measure.cost <= bound + Math.max(SAME, bound * 1e-6) };
}

/** A layout by the rules alone, whatever it costs; or whether there is none: that is proven, or cannot be told in time. */
export function anyLayout(
  highs: Highs,
  question: PlanQuestion,
  seconds: number,
): { ok: true; layout: Layout } | { ok: false; proven: boolean } {
  const model = layoutModel({
    ...question,
    runs: [],
    weights: { hands: 0, time: 0, balance: 0, gaps: 0 },
  });
  const result = highs.solve(model.text, { output_flag: false, time_limit: seconds });
  if (result.Status === 'Infeasible') return { ok: false, proven: true };
  const columns = result.Columns as Record<string, { Primal?: number }>;
  const layout = model.read((name) => columns[name]?.Primal ?? 0);
  return layoutFault(prepare(question), layout) === null
    ? { ok: true, layout }
    : { ok: false, proven: false };
}
