import { bestOrder, keepNeededSoonest, type SwitchJob } from '../src/core/changer/switching.ts';
import { seeded, type Row } from './row.ts';

const jobsOf = (count: number, each: number, of: number, random: () => number): SwitchJob[] =>
  Array.from({ length: count }, (_, i) => ({
    name: `J${i}`,
    tools: [...new Set(Array.from({ length: each }, () => 1 + Math.floor(random() * of)))],
  }));

/** On few jobs, moving one at a time against every order there is. */
function againstExact(): Row[] {
  return [5, 6, 7].map((count) => {
    const random = seeded(count);
    const room = { places: 10, loaded: [], locked: [], wide: [] };
    let [same, ours, exact, fast, slow] = [0, 0, 0, 0, 0];
    const cases = 20;
    for (let i = 0; i < cases; i += 1) {
      const jobs = jobsOf(count, 7, 24, random);
      let began = performance.now();
      const own = bestOrder(jobs, room, undefined, 0);
      fast += performance.now() - began;
      began = performance.now();
      const every = bestOrder(jobs, room);
      slow += performance.now() - began;
      if (!own.ok || !every.ok) throw new Error('every job fits');
      ours += own.answer.plan.switches;
      exact += every.answer.plan.switches;
      if (own.answer.plan.switches === every.answer.plan.switches) same += 1;
    }
    return {
      what: `order of ${count} jobs of about seven tools in 10 places, ${cases} cases`,
      ours: `${ours} tools by hand over all, ${(fast / cases).toFixed(1)} ms a case; the fewest in ${same} of ${cases}`,
      reference: `every order: ${exact}, ${(slow / cases).toFixed(1)} ms a case (the page takes these)`,
      ratio: `${(ours / exact).toFixed(3)} × the tools, ${(fast / slow).toFixed(2)} × the time`,
    };
  });
}

/** On many jobs, against the best of as many orders at random as fit into the same time. */
function againstRandom(): Row[] {
  return [8, 20, 40].map((count) => {
    const random = seeded(count + 100);
    const jobs = jobsOf(count, 10, 60, random);
    const room = { places: 24, loaded: [], locked: [], wide: [] };
    const began = performance.now();
    const answer = bestOrder(jobs, room);
    const ours = performance.now() - began;
    if (!answer.ok) throw new Error(answer.reason);
    let [best, tries] = [Infinity, 0];
    const start = performance.now();
    while (performance.now() - start < Math.max(200, ours)) {
      const order = [...jobs];
      for (let i = order.length - 1; i > 0; i -= 1) {
        const j = Math.floor(random() * (i + 1));
        [order[i], order[j]] = [order[j]!, order[i]!];
      }
      const tried = keepNeededSoonest(order, room);
      if (tried.ok) best = Math.min(best, tried.plan.switches);
      tries += 1;
    }
    const { plan, bound, proven } = answer.answer;
    return {
      what: `order of ${count} jobs of about ten tools in 24 places`,
      ours: `${plan.switches} tools by hand in ${ours.toFixed(0)} ms${proven ? ', proven' : `, no order below ${bound}`}`,
      reference: `${best}, the best of ${tries} random orders in as much time or 200 ms`,
      ratio: `${(plan.switches / best).toFixed(2)} ×`,
    };
  });
}

export const switching = (): Row[] => [...againstExact(), ...againstRandom()];
