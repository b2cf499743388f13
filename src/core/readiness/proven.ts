import type { Finding, ReadinessQuestion } from './question.ts';

/** How a program stands on its machine: never proven, proven as it is, or other than when it was. */
export interface Proof {
  state: 'never' | 'proven' | 'changed';
  /** Who proved it last, and on which day; null: nobody did. */
  by: { person: string; day: string } | null;
  /** What is otherwise since, in sentences. */
  changes: readonly string[];
}

/** Changes that are told; the rest are counted. */
const TOLD = 3;

/** A program that was never proven, or has changed since it was, as has what it calls (H17): it runs in single block first. */
export function provenFindings({ machine, program }: ReadinessQuestion): Finding[] {
  const { proof } = program;
  if (!proof || proof.state === 'proven') return [];
  const at = { weight: 'look', code: 'notProven', tool: null, line: 1 } as const;
  const remedy =
    'Prove it: single block, rapids low, a hand on feed hold, the first part measured. Then say here that it is proven.';
  if (proof.state === 'never')
    return [{ ...at, sentence: `${program.name} has not been proven on ${machine.name}.`, remedy }];
  const { changes, by } = proof;
  const more = changes.length > TOLD ? ` And ${changes.length - TOLD} more.` : '';
  return [
    {
      ...at,
      sentence: `${program.name} has changed since it was proven${by ? ` by ${by.person} on ${by.day}` : ''}. ${changes.slice(0, TOLD).join(' ')}${more}`,
      remedy,
    },
  ];
}

/** Rows that are not the tool's own: meant or not, the first part of that very text was cut with them. */
const OF_THE_TEXT: readonly Finding['code'][] = ['otherRow', 'rowDoesNotFollow'];

/** Findings, with what a proof of the program as it is has answered: nobody needs to look at that again. */
export function settledByProof(findings: readonly Finding[], { program }: ReadinessQuestion): Finding[] {
  const { proof } = program;
  if (proof?.state !== 'proven' || !proof.by) return [...findings];
  const remedy = `Meant so: ${proof.by.person} proved the program as it is on ${proof.by.day}.`;
  return findings.map((finding) =>
    finding.weight === 'look' && OF_THE_TEXT.includes(finding.code)
      ? { ...finding, weight: 'settled', remedy }
      : finding,
  );
}
