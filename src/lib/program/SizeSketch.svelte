<script lang="ts">
  import {
    movesOf,
    otherEnd,
    withoutRegister,
    type Bounds,
    type MachineReckoning,
  } from '$core/inspection/feature';
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import { formatLength } from '$core/units/format-length';
  import { lengthOf, nanometres, type LengthUnit } from '$core/units/length';

  interface Props {
    bounds: Bounds;
    machine: MachineReckoning;
    unit: LengthUnit;
  }
  let { bounds, machine, unit }: Props = $props();
  const moves = $derived(movesOf(bounds, machine));
  const step = $derived(lengthOf(unit === 'mm' ? 0.01 : 0.001, unit));
  const both = $derived(moves.length === 1 && otherEnd(bounds.kind) === null);
  /** Which end a row cuts: along an axis the one that plus pushes out lies at the right, as a lathe's front face does. */
  const ends = $derived(
    moves.map((each, i) => ({
      ...each,
      right: each.role === 'zWear' || each.role === 'lengthWear' ? each.by > 0 : i === 0,
      out: each.by > 0,
    })),
  );
</script>

<!-- A size between its two boundaries, and which way plus in each row moves them. -->
<figure class="flex flex-wrap items-center gap-x-5 gap-y-1">
  <svg viewBox="0 0 240 56" class="h-14 w-60 shrink-0" aria-hidden="true">
    <rect x="70" y="16" width="100" height="24" class="fill-base-300 stroke-current" />
    {#each ends as end (end.row)}
      {#each both ? [true, false] : [end.right] as right (right)}
        {@const x = right ? 170 : 70}
        {@const way = (right ? 1 : -1) * (end.out ? 1 : -1)}
        <path
          d="M{x} 28 h{26 * way} m0 0 l{-6 * way} -5 m{6 * way} 5 l{-6 * way} 5"
          fill="none"
          class="stroke-accent"
          stroke-width="2.5"
        />
      {/each}
      <text
        x={end.right ? 236 : 4}
        y="12"
        text-anchor={end.right ? 'end' : 'start'}
        class="fill-current text-[12px] font-semibold">T{end.tool} row {end.row}</text
      >
    {/each}
    {#if moves.length === 0}<path d="M60 28 h120" class="stroke-current" stroke-dasharray="3 3" />{/if}
  </svg>
  <figcaption class="small-words">
    {#each moves as each (each.row)}
      {REGISTER_WORDS[each.role]} of row {each.row}: {formatLength(step, unit, { sign: 'always' })} makes it
      {formatLength(nanometres(Math.round(Math.abs(each.by) * step)), unit)}
      {each.by > 0 ? 'larger' : 'smaller'}.<br />
    {:else}{withoutRegister(bounds)}{/each}
  </figcaption>
</figure>
