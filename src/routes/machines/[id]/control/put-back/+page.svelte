<script lang="ts">
  import PutBack from '$lib/control/PutBack.svelte';

  let { data } = $props();
</script>

<svelte:head><title>Put a table back · {data.machine.name} · Tin Almanac</title></svelte:head>

<section class="mt-4" aria-labelledby="put-back">
  <h2 id="put-back" class="heading">Put a table back</h2>
  <p class="small-words mt-2 max-w-prose">
    A table of {data.machine.name} that was kept here (“The record as a text”), when its control has lost its own
    or is to be as it was. Each register is shown before and after; nothing is recorded until the control was read
    again and holds all of it. Work offsets, tool life and what else a control keeps are not in it: those come from
    the machine’s own backup.
  </p>
  {#key data.machine.id}<PutBack machineId={data.machine.id} zone={data.cell!.timeZone} />{/key}
</section>
