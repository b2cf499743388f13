<script lang="ts">
  import { notLeftWell } from '$core/shift/end-check';
  import EndOfShift from '$lib/leaf/EndOfShift.svelte';
  import EndList from '$lib/leaf/EndList.svelte';
  import { dayParts } from '$lib/time';

  let { data } = $props();
  const zone = $derived(data.cell!.timeZone);
  const day = $derived(dayParts(data.shift.date));
  const open = $derived(notLeftWell(data.machines));
</script>

<svelte:head><title>How the machines are left · Tin Almanac</title></svelte:head>

<header class="mt-5 flex flex-wrap items-end gap-4">
  <h1 class="text-3xl">How the machines are left</h1>
  <p class="small-words pb-1">
    {day.weekday}, {day.day}. {day.month}, {data.shift.name.toLowerCase()} shift: {open.length === 0
      ? 'all looked at, all as they should be'
      : `${open.length} of ${data.machines.length} open`}
  </p>
  <a class="btn ml-auto" href="/leaf/{data.shift.key}">The leaf</a>
</header>
<p class="caution mt-3 max-w-3xl">
  Guards closed, and hands away from the spindle and the magazine while the changer moves. Hold a tool below
  its flange, never by its cutter; wait until the control shows the new T before you touch anything. The
  machine’s manual and the site’s rules come first.
</p>
<div class="mt-4 grid gap-4 md:grid-cols-2 xl:grid-cols-3">
  {#each data.machines as machine (machine.id)}
    <EndOfShift {machine} {zone} mayTick={data.mayTick && data.begun} />
  {/each}
</div>
{#if data.mayEdit}<EndList machines={data.machines} />{/if}
