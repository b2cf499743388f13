import highsLoader from 'highs';
import type { PlanQuestion, PlanTool } from '../src/core/changer/plan-layout.ts';
import { searchLayout } from '../src/core/changer/plan-search.ts';
import { againstExact } from '../src/lib/planner/exact.ts';
import { seeded, type Row } from './row.ts';

/** A magazine three quarters full, and three programs of twelve calls. */
function magazine(kind: PlanQuestion['shape']['kind'], places: number): PlanQuestion {
  const random = seeded(places * 31);
  const tools = Array.from({ length: Math.round(places * 0.75) }, (_, i): PlanTool => {
    const now = random() < 0.5 ? i + 1 : null;
    return {
      tool: i + 1,
      now,
      radius: 20 + 20 * random(),
      mass: Math.round(500 + 4000 * random()),
      wide: random() < 0.08,
      heavy: random() < 0.2,
      locked: null,
      barred: [],
      called: now === null || random() < 0.85,
    };
  });
  const called = tools.filter((tool) => tool.called).map((tool) => tool.tool);
  const runs = [1, 2, 3].map((each) => ({
    name: `O${each}`,
    cycles: 50,
    calls: Array.from({ length: 12 }, () => ({
      tool: called[Math.floor(random() * called.length)]!,
      cutting: 5 + 60 * random(),
    })),
  }));
  return {
    shape: { kind, places, pitch: 80 },
    times: { arm: 2, perPocket: 0.5, heavyFactor: 1.5, preStaging: kind === 'randomAccess' },
    usable: Array.from({ length: places }, (_, i) => i + 1),
    tools,
    runs,
    weights: { hands: 1, time: 1, balance: 1, gaps: 1 },
  };
}

/** How long the exact solver may take for one case, seconds. */
const LIMIT = 20;

/** Our search for a layout against the exact solver on the same question: time, and what each reached. */
export async function layouts(): Promise<Row[]> {
  const highs = await highsLoader();
  const cases = [
    ['fixedCarousel', 8],
    ['fixedCarousel', 10],
    ['fixedCarousel', 20],
    ['randomAccess', 30],
    ['randomAccess', 60],
    ['randomAccess', 240],
  ] as const;
  return cases.map(([kind, places]) => {
    const question = magazine(kind, places);
    const began = performance.now();
    const search = searchLayout(question, seeded(7));
    let step = search.next();
    while (!step.done) step = search.next();
    const took = performance.now() - began;
    if (!step.value.ok) throw new Error(step.value.reason);
    const { found } = step.value;
    const start = performance.now();
    const { bound, proven, found: best } = againstExact(highs, question, found, LIMIT);
    const exact = performance.now() - start;
    return {
      what: `layout of ${question.tools.length} tools in ${places} pockets, ${kind === 'randomAccess' ? 'random access' : 'T n in pocket n'}`,
      ours: `${found.measure.cost.toFixed(2)} min in ${(took / 1000).toFixed(2)} s`,
      reference: `exact solver, at most ${LIMIT} s: ${best.measure.cost.toFixed(2)} min, none below ${bound.toFixed(2)}${proven ? ' (proven)' : ''}, in ${(exact / 1000).toFixed(1)} s`,
      ratio: `${bound > 0 ? `${(found.measure.cost / bound).toFixed(3)} × the bound, ` : ''}${(found.measure.cost / best.measure.cost).toFixed(3)} × the best, ${(took / exact).toFixed(2)} × the time`,
    };
  });
}
