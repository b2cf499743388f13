<script lang="ts">
  import type { Stand } from '$core/program/stand';

  interface Props {
    stand: Stand;
    tool: number;
    line: number;
  }
  let { stand, tool, line }: Props = $props();
  const unit = $derived(stand.metric ? 'mm' : 'in');
  const row = (value: number | null) =>
    value === null ? 'none' : Number.isNaN(value) ? 'not known' : `row ${value}`;
  const place = (value: number) => value.toFixed(stand.metric ? 3 : 4);
  const MOTIONS: Readonly<Record<number, string>> = {
    0: 'rapid',
    1: 'straight, by feed',
    2: 'arc, clockwise',
    3: 'arc, against the clock',
    90: 'turning passes',
    92: 'threading passes',
    94: 'facing passes',
  };
  const stoodAt = $derived(
    (['X', 'Y', 'Z'] as const)
      .map((axis) =>
        stand.unplaced.includes(axis)
          ? `${axis} not said`
          : `${axis}${place(stand.at[axis.toLowerCase() as 'x' | 'y' | 'z'])}`,
      )
      .join(' ') + ` ${unit}, as programmed`,
  );
  /** Variables that are shown. */
  const MOST = 12;
  const variables = $derived(
    stand.variables
      .slice(0, MOST)
      .map(({ number, value }) =>
        value === null
          ? `#${number} vacant`
          : typeof value === 'object'
            ? `#${number} not known`
            : `#${number} = ${Number(value.toPrecision(9))}`,
      )
      .join(', ') + (stand.variables.length > MOST ? ` and ${stand.variables.length - MOST} more` : ''),
  );
  const facts = $derived([
    ['Tool', `T${tool}`],
    ['Length', row(stand.lengthRow)],
    ['Radius', stand.radius.on ? `on, ${row(stand.radius.row)}` : 'off'],
    [
      'Spindle',
      stand.spindle === 'off'
        ? 'stands'
        : `${stand.spindle === 'cw' ? 'M3' : 'M4'}, ${stand.surface > 0 ? `${stand.surface.toFixed(0)} ${stand.metric ? 'm' : 'ft'}/min${stand.ceiling ? `, ceiling ${stand.ceiling}` : ', no ceiling'}` : `S${stand.speed}`}`,
    ],
    [
      'Feed',
      `${stand.feed} ${stand.feedBy === 'minute' ? `${unit}/min` : stand.feedBy === 'revolution' ? `${unit}/rev` : 'blocks a minute'}`,
    ],
    ['Coolant', stand.coolant.length === 0 ? 'off' : stand.coolant.map((code) => `M${code}`).join(', ')],
    [
      'Motion',
      stand.cycle === null ? (MOTIONS[stand.motion] ?? `G${stand.motion}`) : `canned cycle G${stand.cycle}`,
    ],
    ['Counts from', stand.absolute ? 'zero (G90)' : 'where it stands (G91)'],
    ['Work offset', stand.workOffset || 'not called'],
    ['Plane', `G${stand.plane}`],
    ...(stand.frames.length > 0
      ? [['Coordinates moved', stand.frames.map(({ code, line }) => `G${code}, line ${line}`).join('; ')]]
      : []),
    ['Stood at', stoodAt],
    ...stand.angles.map(({ letter, degrees }) => [
      `Axis ${letter}`,
      Number.isNaN(degrees) ? 'sent home' : `${Number(degrees.toFixed(4))}°`,
    ]),
    ...(stand.variables.length > 0 ? [['Variables set', variables]] : []),
    [
      'Staged',
      stand.staged === null || stand.staged === tool
        ? 'nothing else'
        : Number.isNaN(stand.staged)
          ? 'not known'
          : `T${stand.staged}`,
    ],
  ]);
</script>

<section aria-labelledby="stood">
  <h2 id="stood" class="heading">How it stood before line {line}</h2>
  <table class="ruled mt-1">
    <tbody
      >{#each facts as [name, value] (name)}<tr
          ><th scope="row" class="text-left font-normal">{name}</th><td class="font-semibold">{value}</td></tr
        >{/each}</tbody
    >
  </table>
</section>
