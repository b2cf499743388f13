<script lang="ts">
  import { formatWithUnit } from '$core/units/format-length';
  import type { Length, LengthUnit } from '$core/units/length';
  import ReasonForm from './ReasonForm.svelte';

  interface Props {
    machine: number;
    readings: readonly { id: number; part: number; measured: Length; person: string }[];
    unit: LengthUnit;
    name: string;
  }
  let { machine, readings, unit, name }: Props = $props();
  /** So many of the newest are offered. */
  const NEWEST = 5;
  /** What is mostly wrong with one (common practice, no source). */
  const WRONG = [
    'of another part',
    'of another feature',
    'typed wrong',
    'chip or burr',
    'gauge off its zero',
  ];
  const group = $props.id();
  let open = $state(false);
  let picked = $state<number | null>(null);
  const newest = $derived(readings.slice(-NEWEST).reverse());
  const chosen = $derived(newest.find(({ id }) => id === picked) ?? newest[0]);
</script>

<!-- A reading that is wrong stays as it was typed, and counts for nothing. -->
{#if chosen}
  <details class="mt-2" bind:open>
    <summary class="inline-flex min-h-11 cursor-pointer items-center underline">A reading was wrong?</summary>
    <fieldset class="mt-1 grid gap-1">
      <legend class="small-words"
        >It stays on record and counts for nothing; what was worked out from it is withdrawn.</legend
      >
      {#each newest as each (each.id)}
        <label class="flex min-h-11 items-center gap-3"
          ><input
            class="radio"
            type="radio"
            name={group}
            checked={each.id === chosen.id}
            onchange={() => (picked = each.id)}
          />
          part {each.part}: <b>{formatWithUnit(each.measured, unit)}</b>
          <span class="small-words">{each.person}</span></label
        >
      {/each}
    </fieldset>
    <ReasonForm
      action="/machines/{machine}/now?/takeBackReading"
      fields={{ reading: chosen.id }}
      label="Take back a reading of {name}"
      button="Take it back"
      reasons={WRONG}
    />
  </details>
{/if}
