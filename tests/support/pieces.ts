import {
  kindFacts,
  type Component,
  type ComponentKind,
  type Dimensions,
} from '../../src/core/component/kinds.ts';
import { lengthOf } from '../../src/core/units/length.ts';

/** Dimensions that are no lengths. */
const PLAIN = ['ZEFP', 'SIG', 'RPMX', 'WT', 'CEDC', 'KAPR'];
let count = 0;

/** A piece of a catalogue, its lengths typed in millimetres. */
export const piece = (
  kind: ComponentKind,
  dimensions: Dimensions = {},
  over: Partial<Component> = {},
): Component => ({
  id: (count += 1),
  number: `${kind} ${count}`,
  name: kindFacts(kind).words,
  kind,
  dimensions: Object.fromEntries(
    Object.entries(dimensions).map(([name, value]) => [
      name,
      PLAIN.includes(name) ? value : lengthOf(value, 'mm'),
    ]),
  ),
  interface: '',
  series: '',
  flat: false,
  coolant: false,
  leftHand: false,
  material: 'carbide',
  torque: null,
  ...over,
});
