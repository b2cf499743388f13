import { COMPONENT_KINDS } from '../component/kinds.ts';
import type { Stack } from '../assembly/stack.ts';
import { formatWithUnit } from '../units/format-length.ts';

/** One step of putting an assembly together, with the caution that belongs to it (H3, H6). */
export interface BuildStep {
  do: string;
  caution: string | null;
}

/** The order of assembly for a stack, as a setter does it. */
export function buildSteps(stack: Stack): BuildStep[] {
  const { holder, nut, adapter, extension, cutter, second, inserts, secondInserts, knob, stickOut } = stack;
  const steps: BuildStep[] = [
    {
      do: `Wipe the taper, the bore and the shank. Look for burrs and rust.`,
      caution: 'Edges cut: hold the cutter by its shank, with a rag.',
    },
  ];
  if (knob)
    steps.push({
      do: `Screw in the retention knob, ${knob.name}${knob.torque ? ` to ${knob.torque} N·m` : ''}.`,
      caution: 'Same taper is not same knob: read the pattern on it, and on the machine.',
    });
  if (extension)
    steps.push({
      do: `Put the cutter into ${extension.name} and tighten it; the extension goes into the holder as a cutter would.`,
      caution: 'Each joint adds run-out: wipe both, and measure the run-out at the end.',
    });
  const out = formatWithUnit(stickOut, 'mm');
  const tighten = holder.torque ? ` to ${holder.torque} N·m` : '';
  if (holder.kind === 'colletChuck') {
    steps.push(
      {
        do: `Click ${adapter?.name ?? 'the collet'} into ${nut?.name ?? 'the nut'}, then the nut onto the holder, then the cutter in.`,
        caution: 'Never put the collet into the holder before it is clicked into the nut.',
      },
      { do: `Set the stick-out to ${out}.`, caution: 'The collet grips the shank only, never the flutes.' },
      {
        do: `Tighten the nut${tighten} with the proper spanner.`,
        caution: 'Hold the holder in its fixture: never by the cutter or the taper.',
      },
    );
  } else if (holder.kind === 'sideLock')
    steps.push(
      {
        do: `Slide the shank in, flat under the screw, to a stick-out of ${out}.`,
        caution: 'The screw must seat on the flat, centred.',
      },
      { do: `Tighten the screw${tighten}. Pull on the cutter: it must not move.`, caution: null },
    );
  else if (holder.kind === 'drillChuck')
    steps.push(
      {
        do: `Put the drill in to a stick-out of ${out} and close the jaws.`,
        caution: 'All three jaws must bear: a shank caught between two of them is wrong.',
      },
      { do: `Tighten the chuck${tighten}.`, caution: 'Take the key out before anything else.' },
    );
  else if (holder.kind === 'arbor')
    steps.push({
      do: `Seat ${cutter.name} on the pilot and drive keys and screw it down${tighten}.`,
      caution: 'Body and seat clean, screw firm.',
    });
  else if (holder.kind === 'shrink')
    steps.push({
      do: `Heat the holder, drop the shank in to a stick-out of ${out}, let it cool in the rack.`,
      caution: 'It is hot enough to burn: gloves, and leave it until it is cold.',
    });
  else
    steps.push({
      do: `${adapter ? `Put in ${adapter.name}, then the shank` : 'Put the shank in'} to a stick-out of ${out}; tighten the ${COMPONENT_KINDS[holder.kind].words}${tighten}.`,
      caution: null,
    });
  if (second)
    steps.push({
      do: `Clamp ${second.name} in the other seat. Label which seat serves which offset row.`,
      caution: 'Two tools, two rows: a length set in the wrong row drives the other one into the part.',
    });
  for (const [set, where] of [
    [inserts, ''],
    [secondInserts, ` into ${second?.name}`],
  ] as const)
    if (set)
      steps.push({
        do: `Fit ${set.count} ${set.count === 1 ? 'insert' : 'inserts'} ${set.component.name} (${set.component.series})${where}, fresh edges out.`,
        caution: 'Seats clean, screws firm. Old inserts cut as well as new ones.',
      });
  steps.push({
    do: 'Measure it: gauge length, diameter, run-out. Put it in a rack, with its label.',
    caution: 'Never lay it on a bench where it can roll.',
  });
  return steps;
}
