import { nextReadingWords } from '$core/inspection/next-reading';
import { toMeasureWords, toolList } from '$core/shift/leaf';
import type { PageData } from './$types';

/** What waits to be done in the cell, a list for each kind of work; `when` writes the time at which a tool runs out. */
export function workLists(
  work: PageData['work'],
  when: (tool: { flag: string | null; at: Date | null }) => string,
) {
  return {
    build: {
      title: 'Build',
      none: 'Nothing to build: every tool that runs out has a sister on the rack.',
      lines: [
        ...work.lacking.map((each) => ({
          key: `r${each.machineId} ${each.program}`,
          href: `/machines/${each.machineId}`,
          what: `${each.machine}: ${toolList(each.tools)}`,
          words: `${each.program} has begun and lacks ${each.tools.length === 1 ? 'it' : 'them'}`,
          urgent: true,
        })),
        ...work.missing.map((each) => ({
          key: `m${each.machineId}`,
          href: `/programs/${each.programId}/tools`,
          what: `${each.machine}: ${toolList(each.tools)}`,
          words: `the next job, ${each.program}, lacks ${each.tools.length === 1 ? 'it' : 'them'}`,
        })),
        ...work.build.map((tool) => ({
          key: `b${tool.assemblyId}`,
          href: `/tools/${tool.assemblyId}`,
          what: `${tool.machine} T${tool.tool}, ${tool.name}`,
          words:
            tool.flag === 'broken'
              ? 'broken: inspect the part first, then replace it'
              : `${tool.number} runs out and has no sister: renew it, or build one`,
          end: when(tool),
          urgent: tool.flag !== null,
        })),
      ],
    },
    load: {
      title: 'Load',
      none: 'Nothing to load.',
      lines: [
        ...work.plans.map((plan) => ({
          key: `p${plan.machineId}`,
          href: `/machines/${plan.machineId}/load`,
          what: `${plan.machine}: load plan open`,
          words: `made by ${plan.madeBy}, ${plan.ticked} ${plan.ticked === 1 ? 'step' : 'steps'} ticked`,
        })),
        ...work.swap.map((tool) => ({
          key: `s${tool.assemblyId}`,
          href: `/machines/${tool.machineId}?tool=${tool.tool}`,
          what: `${tool.machine} T${tool.tool}: ${tool.sister}`,
          words: `in place of ${tool.number} ${tool.name}, which ${tool.flag === 'broken' ? 'is broken: inspect the part first' : 'runs out'}`,
          end: when(tool),
          urgent: tool.flag !== null,
        })),
      ],
    },
    measure: {
      title: 'Measure',
      none: 'No tool that a job calls, and none built on record, waits to be measured.',
      lines: [
        ...work.toMeasure.map((tool) => ({
          key: `t${tool.machineId} ${tool.tool}`,
          href: `/machines/${tool.machineId}?tool=${tool.tool}`,
          what: `${tool.machine} T${tool.tool}`,
          words: `${tool.number} ${toMeasureWords(tool)}`,
          urgent: true,
        })),
        ...work.loose.map((tool) => ({
          key: `l${tool.id}`,
          href: `/presetter?number=${encodeURIComponent(tool.number)}`,
          what: tool.number,
          words: `${tool.name}: on the rack, not measured since it was built or its edge changed`,
        })),
      ],
    },
    held: {
      title: 'Inspect',
      none: 'No part is held back by a broken tool.',
      lines: work.held.map((each) => ({
        key: each.assemblyId,
        href: `/tools/${each.assemblyId}/broken`,
        what: each.machine ? `${each.machine} T${each.tool}` : each.number,
        words: `${each.name} ${each.verdict === 'broken' ? 'broke' : 'pulled out'}: ${
          each.open > 0
            ? `${each.open} of ${each.parts} parts to inspect`
            : each.replaced && each.measured
              ? 'clear it'
              : 'replace and measure it'
        }`,
        urgent: true,
      })),
    },
    issue: {
      title: 'Issue and buy',
      none: 'Nothing is below its minimum.',
      lines: work.short.map((piece) => ({
        key: piece.number,
        href: `/crib?words=${encodeURIComponent(piece.number)}`,
        what: piece.number,
        words: `${piece.name}, shelf ${piece.shelf || '–'}: ${piece.minimum} is the minimum`,
        end: String(piece.stock),
        urgent: piece.stock === 0,
      })),
    },
    renew: {
      title: 'Renewals under way',
      none: 'None.',
      lines: work.renewals.map((each) => ({
        key: each.assemblyId,
        href: `/tools/${each.assemblyId}`,
        what: `${each.number}${each.machine ? `, ${each.machine} T${each.tool}` : ''}`,
        words: `${each.name}: ${each.done} of 5 steps done`,
      })),
    },
    read: {
      title: 'Readings next',
      none: 'No job is running.',
      lines: work.readings.map((each) => ({
        key: each.machineId,
        href: `/machines/${each.machineId}/now${each.features[0] ? `?feature=${each.features[0].id}` : '?do=measure'}`,
        what: `${each.machine}: ${each.features[0]?.name ?? 'no measuring plan'}`,
        words: each.features[0] ? `${each.program}. ${nextReadingWords(each.features[0])}` : each.program,
        end: `part ${each.made}`,
        urgent: each.features[0]?.why === 'afterCorrection',
      })),
    },
    stray: {
      title: 'Corrections that did not take',
      none: 'None.',
      lines: work.stray.map((each) => ({
        key: each.id,
        href: `/corrections/${each.id}`,
        what: `${each.machine}, ${each.feature}`,
        words: each.tookWords ?? '',
        urgent: true,
      })),
    },
  };
}
