<script lang="ts">
  import NumbersForm from '$lib/tool/NumbersForm.svelte';

  let { data } = $props();
</script>

<svelte:head><title>Kit list · Tin Almanac</title></svelte:head>

<h1 class="mt-5 text-3xl">Kit list</h1>
<NumbersForm asked={data.asked} missing={data.missing} make="Gather" any={data.lines.length > 0} />
{#if data.lines.length > 0}
  <p class="small-words mt-3">One walk along the shelves, in their order.</p>
  <table class="ruled mt-2">
    <thead
      ><tr
        ><th scope="col"><span class="sr-only">Fetched</span></th><th scope="col">Shelf</th><th
          scope="col"
          class="number">Pieces</th
        ><th scope="col">Number</th><th scope="col">What</th><th scope="col">For</th><th
          scope="col"
          class="number">On the shelf</th
        ></tr
      ></thead
    >
    <tbody>
      {#each data.lines as line (line.number)}
        <tr
          ><td aria-hidden="true">☐</td><td><b>{line.shelf || '–'}</b></td><td class="number"
            >{line.pieces}</td
          ><th scope="row">{line.number}</th><td>{line.name}</td><td>{line.assemblies}</td><td
            class={['number', line.stock < line.pieces && 'text-accent']}>{line.stock}</td
          ></tr
        >
      {/each}
    </tbody>
  </table>
{/if}
