<script lang="ts">
  import type { CellRange } from '$core/changer/tray-cells';
  import { formatWithUnit } from '$core/units/format-length';
  import type { LengthUnit } from '$core/units/length';
  import ActionForm from '../ActionForm.svelte';

  interface Props {
    cells: CellRange[];
    /** The same tray with cells of other sizes; empty where there is none. */
    capacities: { pitch: number; holds: number }[];
    unit: LengthUnit;
    mayRecord: boolean;
  }
  let { cells, capacities, unit, mayRecord }: Props = $props();
  const decimals = $derived(unit === 'mm' ? 1 : 2);
</script>

{#snippet field(name: string, words: string, wide: boolean)}
  <label class="grid gap-1"
    ><span class="small-words">{words}</span><input
      class={['input', wide ? 'w-32' : 'w-20']}
      {name}
      inputmode={wide ? 'decimal' : 'numeric'}
      placeholder={wide ? 'as the plate' : undefined}
      required={!wide}
    /></label
  >
{/snippet}

<h2 class="heading">Which pocket takes what</h2>
<ul class="ruled-list">
  {#each cells as { from, to, cell } (from)}
    <li class="flex gap-3 py-2">
      <b class="w-24">{from === to ? from : `${from} to ${to}`}</b>
      <span
        >{cell === null
          ? 'what the plate says'
          : `holders up to ${formatWithUnit(cell, unit, { decimals })}`}</span
      >
    </li>
  {/each}
</ul>
{#if mayRecord}
  <ActionForm action="?/cells" class="mt-3 flex flex-wrap items-end gap-2" label="Cells">
    {#snippet children({ busy })}
      {@render field('from', 'from', false)}
      {@render field('to', 'to', false)}
      {@render field('cell', `largest holder, ${unit}`, true)}
      <button class="btn" disabled={busy}>Set</button>
    {/snippet}
  </ActionForm>
{/if}
{#if capacities.length > 0}
  <h2 class="heading mt-6">The same tray with other cell sizes</h2>
  <table class="ruled mt-1">
    <thead><tr><th scope="col">Cell pitch</th><th scope="col" class="number">Tools it holds</th></tr></thead>
    <tbody
      >{#each capacities as { pitch, holds } (pitch)}<tr
          ><td>{pitch} mm</td><td class="number">{holds}</td></tr
        >{/each}</tbody
    >
  </table>
{/if}
