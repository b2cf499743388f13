<script lang="ts">
  import { goto } from '$app/navigation';
  import ReadOut from '$lib/control/ReadOut.svelte';

  let { data } = $props();
</script>

<svelte:head><title>Read out · {data.machine.name} · Tin Almanac</title></svelte:head>

<section class="mt-4 max-w-2xl" aria-labelledby="rows">
  <h2 id="rows" class="heading">Read off the screen, row by row</h2>
  <p class="small-words mt-2">
    Type what the control of {data.machine.name} shows. What the record holds is not shown here, so that what is
    typed was read. It changes nothing: at the end it is laid beside the record.
  </p>
  {#if data.asked.length === 0}<p class="mt-3 text-lg" role="status">No row of this machine is in use.</p>
  {:else}
    {#key `${data.machine.id} ${data.person!.id}`}<ReadOut
        asked={data.asked}
        entry={data.entry}
        unit={data.machine.unit}
        place={`${data.machine.id} ${data.person!.id}`}
        onDone={() => goto(`/machines/${data.machine.id}/control`)}
      />{/key}
  {/if}
</section>
