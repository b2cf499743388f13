<script lang="ts">
  import { goto } from '$app/navigation';
  import { COMPONENT_KINDS, kindFacts, type ComponentKind } from '$core/component/kinds';
  import RecordForm from '$lib/tool/RecordForm.svelte';

  let { data } = $props();
  /** The dimensions that this kind needs, and the taper of what carries one. */
  function needs(kind: string): readonly string[] {
    if (!(kind in COMPONENT_KINDS)) return [];
    const facts = kindFacts(kind as ComponentKind);
    const carried = facts.group === 'holder' || facts.group === 'knob';
    const named = ['tapCutting', 'tapForming', 'threadMill', 'insert', 'collet'].includes(kind);
    return [
      ...facts.needs
        .map((name) => name.toLowerCase())
        .filter((name) => !named || !['dc', 'tp'].includes(name)),
      ...(carried ? ['interface'] : []),
      ...(named ? ['series'] : []),
    ];
  }
</script>

<svelte:head
  ><title>{data.known ? `Change ${data.cells.number}` : 'A line of the crib'} · Tin Almanac</title
  ></svelte:head
>

<h1 class="mt-5 text-3xl">{data.known ? `Change ${data.cells.number}` : 'A new line of the crib'}</h1>
<p class="small-words mt-1 max-w-3xl">
  {#if data.known}What is on the shelf moves by issuing, buying and counting. Assemblies that hold it keep the
    sizes that they were measured with.
  {:else}A drill may be named by its letter or fraction, a tap by its thread, an insert by its designation
    (ISO 1832): what that says need not be typed again.{/if}
</p>
{#key data.cells.number}
  <div class="max-w-5xl">
    <RecordForm
      columns={data.columns}
      cells={data.cells}
      known={data.known}
      {needs}
      action="?/record"
      onDone={(done) => void goto(`/crib?item=${done.id}`)}
    />
  </div>
{/key}
