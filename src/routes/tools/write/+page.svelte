<script lang="ts">
  import { goto } from '$app/navigation';
  import RecordForm from '$lib/tool/RecordForm.svelte';

  let { data } = $props();
</script>

<svelte:head
  ><title>{data.known ? `Change ${data.cells.number}` : 'A tool by hand'} · Tin Almanac</title></svelte:head
>

<h1 class="mt-5 text-3xl">{data.known ? `Change ${data.cells.number}` : 'A tool that is built already'}</h1>
<p class="small-words mt-1 max-w-3xl">
  {#if data.known && data.standsIn}It stands in {data.standsIn}: its name, holder, teeth and hand may be
    changed there; its sizes once it is out, since registers were worked out from them.
  {:else if data.known}Its life is changed on its page, and its measured length at the presetter.
  {:else}A number is one physical piece. What the crib has pieces of is
    <a class="underline" href="/tools/builder">built from the shelf</a> instead; many at once come in as
    <a class="underline" href="/tools/import">a file</a>.{/if}
</p>
{#key data.cells.number}
  <div class="max-w-5xl">
    <RecordForm
      columns={data.columns}
      cells={data.cells}
      known={data.known}
      action="?/record"
      onDone={(done) => void goto(`/tools/${done.id}`)}
    />
  </div>
{/key}
