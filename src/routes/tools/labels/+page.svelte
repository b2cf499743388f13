<script lang="ts">
  import Label from '$lib/tool/Label.svelte';

  let { data } = $props();
</script>

<svelte:head><title>Labels · Tin Almanac</title></svelte:head>

<h1 class="no-print mt-5 text-3xl">Labels</h1>
<form class="no-print mt-3 flex max-w-3xl gap-2" method="GET">
  <input
    class="input"
    name="numbers"
    value={data.asked}
    aria-label="Numbers of assemblies"
    placeholder="A-101 A-102 …"
  />
  <button class="btn">Make them</button>
  {#if data.labels.length > 0}<button type="button" class="btn btn-primary" onclick={() => window.print()}
      >Print</button
    >{/if}
</form>
{#if data.missing.length > 0}<p class="caution no-print mt-2">
    No assembly goes by {data.missing.join(', ')}.
  </p>{/if}
<div class="mt-4 flex flex-wrap gap-[3mm]">
  {#each data.labels as label (label.number)}<Label
      number={label.number}
      name={label.name}
      length={label.gaugeLength}
      code={label.code}
    />{/each}
</div>
