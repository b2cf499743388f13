import { asAsked } from './as-asked.ts';
import { controlDiffers } from './control-differs.ts';
import { coolantThrough } from './coolant.ts';
import { correctionsLeft } from './corrections-left.ts';
import { cutterRow } from './cutter-row.ts';
import { cuttingData } from './cutting-data.ts';
import { doubled } from './doubled.ts';
import { flagged } from './flagged.ts';
import { geometryLeft } from './geometry-left.ts';
import { inForce } from './in-force.ts';
import { keptAwayLeft } from './kept-away.ts';
import { lifeCounted } from './life-counted.ts';
import { lifeLeft } from './life-left.ts';
import { measured } from './measured.ts';
import { missing } from './missing.ts';
import { noseRow } from './nose-row.ts';
import { orientedFindings } from './oriented.ts';
import { presetLength } from './preset-length.ts';
import { probeFinder } from './probe.ts';
import { valuesPutBack } from './put-back.ts';
import type { Finder } from './question.ts';
import { rowsFollow } from './rows-follow.ts';
import { speeds } from './speeds.ts';
import { turnsRight } from './turns.ts';
import { wearLeft } from './wear-left.ts';

const oriented: Finder = ({ calls, loaded }, { machine }) =>
  orientedFindings(calls, machine, loaded?.tip ?? null);

/** What is looked for at whatever cuts: at the tool of a T, and at each member of a group with rows of its own. */
export const OF_CUTTER: readonly Finder[] = [
  asAsked,
  measured,
  geometryLeft,
  controlDiffers,
  presetLength,
  wearLeft,
  valuesPutBack,
  keptAwayLeft,
  correctionsLeft,
  cutterRow,
  noseRow,
  oriented,
  speeds,
  cuttingData,
  turnsRight,
  coolantThrough,
];

/** What is looked for at each called T, in the order in which it is told: one finding, one file. */
export const OF_TOOL: readonly Finder[] = [
  missing,
  flagged,
  ...OF_CUTTER,
  rowsFollow,
  probeFinder,
  doubled,
  inForce,
  lifeCounted,
  lifeLeft,
];
/** And at the number of a group, whoever of it cuts. */
export const OF_GROUP: readonly Finder[] = [doubled, inForce];
