import type { AssemblyKind } from '../assembly/silhouette.ts';
import type { Flag } from '../life/flag.ts';
import type { Length } from '../units/length.ts';
import type { CheckProposal } from './check-proposal.ts';
import type { CheckDoubt, CheckVerdict } from './check-verdict.ts';
import type { CheckLimits, CheckMethod, CheckMoment } from './tool-check.ts';

/** A tool of a machine with how it is checked for breakage, and what its last check said. */
export interface CheckedPlace {
  assemblyId: number;
  number: string;
  name: string;
  kind: AssemblyKind;
  diameter: Length;
  stickOut: Length;
  flag: Flag | null;
  tool: number;
  proposal: CheckProposal;
  /** As decided, or as proposed. */
  moment: CheckMoment;
  method: CheckMethod;
  limits: CheckLimits;
  /** Who decided; null: nobody did. */
  decidedBy: string | null;
  /** The length it was measured with in the machine; null: it was not. */
  reference: Length | null;
  last: {
    verdict: CheckVerdict;
    doubt: CheckDoubt | null;
    measured: Length;
    reference: Length | null;
    part: number | null;
    person: string;
    at: Date;
  } | null;
}

/** What was made of a check, in words. */
export interface CheckTold {
  tool: number;
  verdict: CheckVerdict;
  said: string;
}
