import { traitsOf } from './traits.ts';
import { fitTogether } from './fit-together.ts';
import { choicesFor, layoutFaults } from './plan-layout.ts';
import type { Layout, PlanQuestion, Prepared } from './plan-layout.ts';

/** A layout to begin from, or why there is none: `proven` when it was shown that no layout can be. */
export type FirstLayout = { ok: true; layout: Layout } | { ok: false; proven: boolean; reason: string };

/**
 * A layout that can be, whatever it costs: everything that is called stays where it stands if it can, or else any layout in which
 * all that is called, and all that has a pocket of its own, fits together. What no job calls stays where it is in nobody's way.
 */
export function firstLayout(prepared: Prepared): FirstLayout {
  const { question } = prepared;
  const { tools } = question;
  const staying = tools.map((tool) => tool.locked ?? 0);
  const locked = tools.filter((tool) => tool.locked !== null);
  const clash = layoutFaults({ ...prepared, question: asIfOnly(question, staying) }, staying)[0];
  if (clash !== undefined)
    return {
      ok: false,
      proven: true,
      reason: `What has a pocket of its own, or was told to stay, cannot stand together: ${clash}.`,
    };
  const called = tools.flatMap((tool, i) => (tool.called && tool.locked === null ? [i] : []));
  const given = fitTogether(
    {
      shape: question.shape,
      usable: question.usable,
      fixed: locked.map(({ locked: pocket, radius, wide }) => ({ pocket: pocket!, radius, wide })),
    },
    called.map((i) => tools[i]!),
  );
  if (!given.fits)
    return {
      ok: false,
      proven: given.proven,
      reason: given.proven
        ? noLayout(question, called.length)
        : 'Cannot tell whether these tools fit together: no layout was found, and none was ruled out.',
    };
  const kept = stayed(prepared, staying, called);
  if (kept) return { ok: true, layout: stayed(prepared, kept, uncalled(question))! };
  const layout = [...staying];
  called.forEach((i, nth) => (layout[i] = given.pockets[nth]!));
  return { ok: true, layout: stayed(prepared, layout, uncalled(question))! };
}

const uncalled = ({ tools }: PlanQuestion) =>
  tools.flatMap((tool, i) => (!tool.called && tool.locked === null ? [i] : []));

/** Tools without a pocket yet count as if no job called them. */
const asIfOnly = (question: PlanQuestion, layout: Layout): PlanQuestion => ({
  ...question,
  tools: question.tools.map((tool, i) => (layout[i] === 0 ? { ...tool, called: false } : tool)),
});

/**
 * Each of these tools where it stands, or in the first pocket that lets it, the widest first; one that no job calls goes out
 * when none does. Null when a called one finds none.
 */
function stayed(prepared: Prepared, from: Layout, which: readonly number[]): number[] | null {
  const { question } = prepared;
  const layout = [...from];
  const order = [...which].sort((a, b) => {
    const [one, other] = [question.tools[a]!, question.tools[b]!];
    return Number(other.wide) - Number(one.wide) || other.radius - one.radius;
  });
  for (const i of order) {
    const tool = question.tools[i]!;
    const choices = choicesFor(question, tool).filter((pocket) => pocket > 0);
    const first = choices.includes(tool.now ?? 0) ? [tool.now!] : [];
    const rest = tool.called || traitsOf(question.shape).exchanges ? choices : [];
    const place = [...first, ...rest].find((pocket) => {
      const next = [...layout];
      next[i] = pocket;
      return layoutFaults({ ...prepared, question: asIfOnly(question, next) }, next).length === 0;
    });
    if (place !== undefined) layout[i] = place;
    else if (tool.called) return null;
  }
  return layout;
}

function noLayout({ tools, usable }: PlanQuestion, free: number): string {
  const called = tools.filter((tool) => tool.called);
  const wide = called.filter((tool) => tool.wide).length;
  const are = (count: number, what: string) => `${count} ${what}${count === 1 ? ' is' : 's are'}`;
  const asked = `${are(called.length, 'tool')} called${wide > 0 ? `, ${wide} of them wide with the neighbours empty` : ''}`;
  const there = `${usable.length} ${usable.length === 1 ? 'pocket' : 'pockets'} may be used`;
  return `No layout exists: ${asked}, and ${there}${free === called.length ? '' : ' besides those kept for a tool'}. Choose fewer jobs, or look under Jobs what to swap between them.`;
}
