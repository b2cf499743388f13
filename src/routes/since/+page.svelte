<script lang="ts">
  import Happened from '$lib/leaf/Happened.svelte';
  import { dayAndClock } from '$lib/time';

  let { data } = $props();
  const zone = $derived(data.cell!.timeZone);
</script>

<svelte:head><title>Since you left · Tin Almanac</title></svelte:head>

<header class="mt-5 flex flex-wrap items-end gap-4">
  <h1 class="text-3xl">Since you left</h1>
  <p class="small-words pb-1">
    {data.left
      ? `your last entry, ${dayAndClock(data.left, zone)}`
      : 'you have written nothing here in the last month: the last 24 hours'}
  </p>
  <a class="btn ml-auto" href="/leaf">The leaf</a>
</header>
<div class="mt-3 max-w-3xl text-lg">
  {#each data.spoken as sentence, i (i)}<p class="my-1">{sentence}</p>{/each}
</div>
<div class="mt-6 max-w-4xl">
  <Happened {...data.happened} {zone} past={false} mayOpen={data.mayLookLedger} days />
</div>
