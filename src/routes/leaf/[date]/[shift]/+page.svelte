<script lang="ts">
  import Beginning from '$lib/leaf/Beginning.svelte';
  import CameOf from '$lib/leaf/CameOf.svelte';
  import CrossedMoves from '$lib/leaf/CrossedMoves.svelte';
  import Ephemeris from '$lib/leaf/Ephemeris.svelte';
  import DoesNow from '$lib/machine/DoesNow.svelte';
  import HandOver from '$lib/leaf/HandOver.svelte';
  import Happened from '$lib/leaf/Happened.svelte';
  import Questions from '$lib/leaf/Questions.svelte';
  import RunsOutTable from '$lib/leaf/RunsOutTable.svelte';
  import Waiting from '$lib/leaf/Waiting.svelte';
  import { oneSheet } from '$lib/leaf/one-sheet';
  import { clock, dayParts } from '$lib/time';
  import ChevronLeft from '@lucide/svelte/icons/chevron-left';
  import ChevronRight from '@lucide/svelte/icons/chevron-right';
  import Printer from '@lucide/svelte/icons/printer';

  let { data } = $props();
  const { leaf } = $derived(data);
  const zone = $derived(data.cell!.timeZone);
  const day = $derived(dayParts(leaf.shift.date));
  const standing = $derived(
    { past: 'as it was', present: 'now', coming: 'as it is foreseen' }[leaf.standing],
  );
</script>

<svelte:head><title>{day.weekday} {day.day} {day.month}, {leaf.shift.name} · Tin Almanac</title></svelte:head>

<article class="leaf" use:oneSheet>
  <header
    class="flex flex-wrap items-end gap-x-6 gap-y-2 border-b-[3px] border-double border-base-content pt-4 pb-2"
  >
    <p class="font-display text-[5.2rem] leading-[0.82] font-bold tracking-tighter" aria-hidden="true">
      {day.day}
    </p>
    <div>
      <h1 class="text-2xl leading-tight">{day.weekday}, {leaf.shift.name.toLowerCase()} shift</h1>
      <p class="font-narrow text-lg">
        {day.month}. {clock(leaf.shift.start, zone)} to {clock(leaf.shift.end, zone)}, {standing}
      </p>
    </div>
    <nav class="no-print ml-auto flex flex-wrap justify-end gap-2" aria-label="Leaves">
      {#if data.before}<a class="btn" href="/leaf/{data.before.key}" data-key="ArrowLeft"
          ><ChevronLeft size={18} aria-hidden="true" />{data.before.name}</a
        >{/if}
      {#if leaf.standing === 'present'}<a class="btn" href="/since">Since you left</a>{:else}<a
          class="btn"
          href="/leaf">Now</a
        >{/if}
      {#if data.after}<a class="btn" href="/leaf/{data.after.key}" data-key="ArrowRight"
          >{data.after.name}<ChevronRight size={18} aria-hidden="true" /></a
        >{/if}
      <button type="button" class="btn btn-square" onclick={() => window.print()} aria-label="Print this leaf"
        ><Printer size={18} /></button
      >
    </nav>
  </header>

  {#if data.beginning}<Beginning steps={data.beginning} machineId={data.machines[0]?.id ?? null} />{/if}

  {#if leaf.standing !== 'past'}
    <section class="mt-4" aria-labelledby="ahead">
      <h2 id="ahead" class="sr-only">What each machine will do</h2>
      <Ephemeris forecast={leaf.forecast} shift={leaf.shift} now={data.now} {zone} />
      {#if data.states.length > 0}<ul
          class="no-print mt-2 grid gap-x-8 gap-y-1 sm:grid-cols-2 lg:grid-cols-3"
          aria-label="What the machines do"
        >
          {#each data.states as heard (heard.machineId)}<li class="flex flex-wrap gap-x-3">
              <a class="font-display font-semibold hover:underline" href="/machines/{heard.machineId}/now"
                >{data.machines.find(({ id }) => id === heard.machineId)?.name}</a
              ><DoesNow machineId={heard.machineId} {heard} now={data.now} {zone} short />
              {#if leaf.controls.some(({ machineId }) => machineId === heard.machineId)}<a
                  class="font-semibold text-accent hover:underline"
                  href="/machines/{heard.machineId}/control">≠ control</a
                >{/if}
            </li>{/each}
        </ul>{/if}
    </section>
  {/if}

  <div
    class="mt-5 grid gap-x-8 gap-y-6 lg:grid-cols-[1.45fr_1fr] print:block print:columns-2 print:[&_section]:mb-4"
  >
    <div class="grid content-start gap-6 print:block">
      {#if leaf.standing !== 'past'}<RunsOutTable
          forecast={leaf.forecast}
          shift={leaf.shift}
          now={data.now}
          {zone}
        />{/if}
      {#if leaf.standing === 'past'}<CameOf came={leaf.came} {zone} />{/if}
      <Happened {...leaf.happened} {zone} past={leaf.standing === 'past'} mayOpen={data.mayLookLedger} />
    </div>
    <div class="grid content-start gap-6 print:block">
      {#if leaf.standing !== 'past'}<Waiting {leaf} now={data.now} {zone} />{/if}
      {#if leaf.crossed.length > 0}<CrossedMoves
          registers={leaf.crossed}
          now={data.now}
          {zone}
          mayOpen={data.mayLookLedger}
        />{/if}
      <Questions {leaf} machines={data.machines} {zone} mayWrite={data.mayWrite} />
    </div>
  </div>

  {#if leaf.standing !== 'coming'}
    <HandOver {leaf} {zone} maySign={data.maySign} person={data.person!} end={data.end} />
  {/if}
</article>
