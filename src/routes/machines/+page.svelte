<script lang="ts">
  import { traitsOf } from '$core/changer/traits';
  import ControlDiffers from '$lib/control/ControlDiffers.svelte';
  import DoesNow from '$lib/machine/DoesNow.svelte';
  import GlanceDrawing from '$lib/changer/GlanceDrawing.svelte';

  import { page } from '$app/state';

  let { data } = $props();
  const choosing = $derived(page.url.searchParams.has('choose'));
</script>

<svelte:head><title>Machines · Tin Almanac</title></svelte:head>

<header class="mt-5 flex flex-wrap items-end gap-x-4 gap-y-2">
  <h1 class="text-3xl">Machines</h1>
  {#if data.mayAdd}<a class="btn ml-auto" href="/machines/new">Add a machine</a>{/if}
  <a class={['btn', !data.mayAdd && 'ml-auto']} href="/machines/across">T across machines</a>
  <a class="btn" href="/machines/families">Families</a>
</header>
{#if data.machines.length === 0}
  <p class="mt-3 text-lg">
    There is no machine yet. {#if data.mayAdd}<a class="underline" href="/machines/new">Add the first one</a>:
      ten minutes with its plate and its manual.{:else}A cell lead adds the first one.{/if}
  </p>
{/if}
{#if choosing && data.machines.length > 0}
  <section class="plate mt-4" aria-labelledby="choose">
    <h2 id="choose" class="text-xl">Which machine does this tablet stand at?</h2>
    <p class="small-words">It opens there from now on; look at another machine’s Now to change it.</p>
    <ul class="mt-2 grid grid-cols-2 gap-2 md:grid-cols-3">
      {#each data.machines as machine (machine.id)}<li>
          <a class="btn h-16 w-full text-xl" href="/machines/{machine.id}/now">{machine.name}</a>
        </li>{/each}
    </ul>
  </section>
{/if}
<ul class="mt-4 grid gap-6 md:grid-cols-2 xl:grid-cols-3">
  {#each data.machines as machine (machine.id)}
    <li class="grid content-start border-t-[3px] border-double border-base-content pt-2">
      <div class="flex items-baseline gap-3">
        <h2 class="text-xl"><a class="hover:underline" href="/machines/{machine.id}">{machine.name}</a></h2>
        <span class="small-words"
          >{traitsOf({ kind: machine.changerKind }).words}, {machine.places}, {machine.unit}</span
        >
      </div>
      <p>{machine.job ?? 'No job is running.'}</p>
      {#if machine.heard}<DoesNow
          machineId={machine.id}
          heard={machine.heard}
          now={data.now}
          zone={data.cell!.timeZone}
          next={machine.next}
          short
        />{/if}
      <ControlDiffers machineId={machine.id} differing={machine.differing} />
      <p class="small-words">
        {machine.loaded} tools loaded{machine.flagged > 0 ? `, ${machine.flagged} flagged` : ''}
      </p>
      <a href="/machines/{machine.id}" tabindex="-1" aria-hidden="true" class="mt-2 block"
        ><GlanceDrawing glance={machine.glance} /></a
      >
      <nav class="mt-2 flex flex-wrap gap-2" aria-label={machine.name}>
        <a class="btn" href="/machines/{machine.id}/now">Now</a>
        <a class="btn" href="/machines/{machine.id}">Magazine</a>
        <a class="btn" href="/machines/{machine.id}/numbers">Numbers</a>
      </nav>
    </li>
  {/each}
</ul>
