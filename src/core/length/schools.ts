import { add, nanometres, subtract, type Length } from '../units/length.ts';

/** What "length" means on a machine (H7): all three are right, mixing them is not. */
export const LENGTH_SCHOOLS = ['gaugeLength', 'touchOff', 'masterTool'] as const;
export type LengthSchool = (typeof LENGTH_SCHOOLS)[number];

export const SCHOOL_WORDS: Readonly<Record<LengthSchool, string>> = {
  gaugeLength: 'gauge length',
  touchOff: 'touch-off to a plane',
  masterTool: 'difference from the master tool',
};

export interface LengthReference {
  school: LengthSchool;
  /** Machine Z of the gauge line when it would touch the plane (negative of the travel left); touch-off only. */
  planeConstant: Length;
  /** Gauge length of the master tool; master-tool school only. */
  masterLength: Length;
}

/** A machine's reference, as its plate of data names the three. */
export const referenceOf = (machine: {
  lengthSchool: LengthSchool;
  planeConstant: Length;
  masterLength: Length;
}): LengthReference => ({
  school: machine.lengthSchool,
  planeConstant: machine.planeConstant,
  masterLength: machine.masterLength,
});

/** The register of a tool of gauge length L: A = L, B = K + L, C = L − L_M (H7). */
export function registerFromGaugeLength(gaugeLength: Length, reference: LengthReference): Length {
  if (reference.school === 'touchOff') return add(reference.planeConstant, gaugeLength);
  if (reference.school === 'masterTool') return subtract(gaugeLength, reference.masterLength);
  return nanometres(gaugeLength);
}

/** The gauge length behind a register; the inverse of the above. */
export function gaugeLengthFromRegister(register: Length, reference: LengthReference): Length {
  if (reference.school === 'touchOff') return subtract(register, reference.planeConstant);
  if (reference.school === 'masterTool') return add(register, reference.masterLength);
  return nanometres(register);
}
