<script lang="ts">
  import { ASSEMBLY_WORDS, INTERFACES } from '$core/assembly/silhouette';
  import { formatLength } from '$core/units/format-length';
  import LongTable from '$lib/LongTable.svelte';
  import SearchField from '$lib/SearchField.svelte';
  import Disc from '$lib/Disc.svelte';
  import Silhouette from '$lib/Silhouette.svelte';

  let { data } = $props();
  /** The tools that were found go along; without words each page opens on what waits there. */
  const found = $derived(
    data.words.trim() === ''
      ? ''
      : `?numbers=${data.tools
          .slice(0, 60)
          .map((tool) => tool.number)
          .join('+')}`,
  );
</script>

<svelte:head><title>Tools · Tin Almanac</title></svelte:head>

<div class="mt-5 flex flex-wrap items-end gap-4">
  <h1 class="text-3xl">Tool assemblies</h1>
  <a class="btn" href="/tools/builder">Build one</a>
  {#if data.mayWrite}<a class="btn" href="/tools/write">Put one on record</a>{/if}
  <a class="btn" href="/presetter">Presetter</a>
  <a class="btn" href="/tools/import">In and out</a>
  <a class="btn" href="/tools/labels{found}">Labels</a>
  <a class="btn" href="/tools/kit{found}">Kit list</a>
  <form class="ml-auto w-full max-w-sm" role="search">
    <SearchField label="Find a tool" placeholder="number, kind, size, machine, T" value={data.words} />
  </form>
</div>
<p class="small-words mt-2">{data.total} {data.total === 1 ? 'assembly' : 'assemblies'}</p>
<div class="mt-1">
  <LongTable
    total={data.total}
    first={data.tools}
    more="/tools/rows?words={encodeURIComponent(data.words)}"
    rowHeight={45}
    columns={['w-16', 'w-24', 'w-56', 'w-40', 'w-24', 'w-36', 'w-40', 'w-36', 'w-32']}
    label="Tool assemblies"
  >
    {#snippet head()}<tr
        ><th scope="col"><span class="sr-only">Drawn</span></th><th scope="col">Number</th><th scope="col"
          >Tool</th
        ><th scope="col">Kind</th><th scope="col" class="number">⌀ mm</th><th scope="col" class="number"
          >Gauge length mm</th
        ><th scope="col">End</th><th scope="col">Life left</th><th scope="col">Where</th></tr
      >{/snippet}
    {#snippet row(tool)}
      <tr class="h-[45px]">
        <td class="py-0!"><Silhouette shape={tool} height={40} /></td>
        <th scope="row"><a class="underline" href="/tools/{tool.id}">{tool.number}</a></th><td
          class="truncate">{tool.name}</td
        ><td class="whitespace-nowrap">{ASSEMBLY_WORDS[tool.kind]}</td>
        <td class="number">{formatLength(tool.diameter, 'mm', { decimals: 2 })}</td><td class="number"
          >{formatLength(tool.gaugeLength, 'mm')}</td
        ><td class="whitespace-nowrap">{INTERFACES[tool.interface].words}</td>
        <td class="whitespace-nowrap"
          ><Disc
            remaining={tool.remaining}
            fullLife={tool.fullLife}
            basis={tool.basis}
            flag={tool.flag}
            size={20}
          /></td
        >
        <td class="whitespace-nowrap">{tool.machine ? `${tool.machine} T${tool.tool}` : 'on the rack'}</td>
      </tr>
    {/snippet}
  </LongTable>
  {#if data.total === 0}<p class="py-3">No tool matches “{data.words}”.</p>{/if}
</div>
