<script lang="ts">
  import { atLeast, legible } from './legible';
  import type { AssemblyShape } from '$core/assembly/silhouette';
  import { turningFigures } from '$core/assembly/turning-figure';
  import { formatWithUnit } from '$core/units/format-length';
  import type { LengthUnit } from '$core/units/length';

  interface Props {
    shape: AssemblyShape;
    unit?: LengthUnit;
    /** Dimensions are drawn too. */
    dimensioned?: boolean;
    height?: number;
  }
  let { shape, unit = 'mm', dimensioned = false, height = 260 }: Props = $props();

  const drawn = $derived(turningFigures(shape));
  const turned = $derived(
    shape.interface.startsWith('shank') &&
      ['turning', 'turningBoring', 'grooving', 'parting', 'threading'].includes(shape.kind),
  );
  const length = $derived(Math.max(...drawn.flat().map(([along]) => along)));
  const radius = $derived(Math.max(...drawn.flat().map(([, across]) => Math.abs(across))));
  const text = $derived(length / 17);
  const side = $derived(dimensioned ? radius + text * 9 : radius + 2);
  const label = $derived(
    `Drawn to scale: gauge length ${formatWithUnit(shape.gaugeLength, unit)}, diameter ${formatWithUnit(shape.diameter, unit)}, stick-out ${formatWithUnit(shape.stickOut, unit)}`,
  );
</script>

<svg
  viewBox="{-radius - 4} {-length * 0.12} {radius + 4 + side} {length * 1.2}"
  {height}
  role="img"
  aria-label={label}
  class="block max-w-full"
  font-family="var(--font-narrow)"
  use:legible
  font-size={atLeast(text)}
>
  <path
    d="M0 {-length * 0.1}V{length * 1.06}"
    stroke="currentColor"
    stroke-width={length / 400}
    stroke-dasharray="{length / 20} {length / 60} {length / 100} {length / 60}"
    opacity="0.6"
  />
  {#each drawn as figure, i (i)}<path
      d="M{figure.map(([along, across]) => `${across} ${along}`).join('L')}Z"
      fill="var(--color-base-300)"
      stroke="currentColor"
      stroke-width={length / 160}
      stroke-linejoin="round"
    />{/each}
  <path d="M{-radius - 3} 0H{radius + 3}" stroke="var(--color-accent)" stroke-width={length / 150} />
  {#if dimensioned}
    <g fill="currentColor" stroke="currentColor" stroke-width={length / 300}>
      <path
        d="M{radius + text} 0V{length}M{radius + text * 0.6} {length}H{radius + text * 1.4}"
        fill="none"
      />
      <text stroke="none" x={radius + text * 1.5} y={length * 0.3}
        >{formatWithUnit(shape.gaugeLength, unit)}</text
      >
      <text stroke="none" x={radius + text * 1.5} y={length * 0.3 + text * 1.2} opacity="0.8"
        >gauge length</text
      >
      {#if shape.diameter > 0}<text stroke="none" x={radius + text * 1.5} y={length * 0.78}
          >{turned ? 'insert' : '⌀'} {formatWithUnit(shape.diameter, unit)}</text
        >{/if}
      <text stroke="none" x={radius + text * 1.5} y={length * 0.78 + text * 1.2} opacity="0.8"
        >out {formatWithUnit(shape.stickOut, unit)}</text
      >
      <text stroke="none" x={radius + text * 1.5} y={text * 0.35} fill="var(--color-accent)">gauge line</text>
    </g>
  {/if}
</svg>
