import type { AskedGroup } from '../../src/core/readiness/question.ts';

/** A group that a program calls by its number, of spares that the control was told of. */
export const sisters = (number: number, tools: readonly number[]): AskedGroup => ({
  number,
  purpose: '',
  rules: { next: 'lowest', renewed: 'original', spares: true } as unknown as AskedGroup['rules'],
  inUse: null,
  members: tools.map((tool) => ({
    tool,
    role: 'spare' as const,
    lengthRows: [tool],
    radiusRows: [],
    fresh: false,
  })),
});
