<script lang="ts">
  import PaperSigns from '$lib/PaperSigns.svelte';
  import NumbersForm from '$lib/tool/NumbersForm.svelte';

  let { data } = $props();
</script>

<svelte:head><title>Kit list · Tin Almanac</title></svelte:head>

<h1 class="mt-5 text-3xl">Kit list</h1>
<NumbersForm asked={data.asked} missing={data.missing} make="Gather" any={data.lines.length > 0} />
{#if data.soon.length > 0}
  <p class="mt-3">
    For another of each that runs out within a day and has no sister on the rack: {data.soon
      .map((tool) => `${tool.machine} T${tool.tool} (${tool.number})`)
      .join(', ')}.
  </p>
{:else if data.asked === ''}<p class="mt-3">
    No tool runs out within a day without a sister on the rack. Type the numbers of what is to be built.
  </p>{/if}
{#if data.lines.length === 0 && data.asked !== ''}<p class="caution mt-3">
    None of these has its pieces on record.
  </p>{/if}
{#if data.lines.length > 0}
  <p class="small-words mt-3">One walk along the shelves, in their order.</p>
  <table class="ruled mt-2">
    <thead
      ><tr
        ><th scope="col"><span class="sr-only">Fetched</span></th><th scope="col">Shelf</th><th
          scope="col"
          class="number">Pieces</th
        ><th scope="col">What, and for what</th><th scope="col" class="number">There</th></tr
      ></thead
    >
    <tbody>
      {#each data.lines as line (line.number)}
        <tr
          ><td aria-hidden="true">☐</td><td class="whitespace-nowrap"><b>{line.shelf || '–'}</b></td><td
            class="number">{line.pieces}</td
          ><th scope="row"
            ><span class="block sm:inline-block sm:w-40">{line.number}</span>
            <span class="font-normal">{line.name}</span>
            <span class="small-words block sm:inline">for {line.assemblies}</span></th
          ><td class={['number', line.stock < line.pieces && 'text-accent']}>{line.stock}</td></tr
        >
      {/each}
    </tbody>
  </table>
  <PaperSigns who={['Fetched', 'Missing pieces told to']} />
{/if}
