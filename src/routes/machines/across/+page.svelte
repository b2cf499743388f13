<script lang="ts">
  let { data } = $props();
  const chosen = $derived(data.machines.filter((machine) => machine.chosen));
</script>

<svelte:head><title>T across machines · Tin Almanac</title></svelte:head>

<header
  class="mt-4 flex flex-wrap items-end gap-x-5 gap-y-2 border-b-[3px] border-double border-base-content pb-2"
>
  <h1 class="text-3xl">T across machines</h1>
  <form class="no-print ml-auto flex flex-wrap items-center gap-3" aria-label="Family">
    {#each data.machines as machine (machine.id)}
      <label class="flex min-h-11 items-center gap-1.5"
        ><input
          class="checkbox"
          type="checkbox"
          name="machine"
          value={machine.id}
          defaultChecked={machine.chosen}
        />{machine.name}</label
      >
    {/each}
    <button class="btn btn-primary">Compare these</button>
  </form>
</header>

<p class="mt-3 text-lg" role="status">
  {#if data.differing.length === 0}Every T means the same tool on {chosen.length === 1
      ? 'it'
      : 'all of them'}, where they hold it.
  {:else}{data.differing.length === 1 ? 'T' : ''}{data.differing
      .map((tool) => (data.differing.length === 1 ? tool : `T${tool}`))
      .join(', ')}
    {data.differing.length === 1 ? 'does' : 'do'} not mean the same tool on all of them.{/if}
  {#each data.twice as each (each.number)}
    <span class="caution mt-2 block"
      >{each.meaning}: {each.machines.join(' and ')} both ask for it, and there is only {each.number}.</span
    >
  {/each}
</p>

<div class="mt-3 overflow-x-auto">
  <!-- its columns do not wait for the longest row: it comes in parts, and what is being read must stand still -->
  <table class="ruled w-full table-fixed font-narrow">
    <colgroup
      ><col class="w-20" />{#each chosen as machine (machine.id)}<col class="w-52" />{/each}</colgroup
    >
    <thead
      ><tr
        ><th>T</th>{#each chosen as machine (machine.id)}<th
            ><a class="underline" href="/machines/{machine.id}">{machine.name}</a><span
              class="small-words block">{machine.end}</span
            ></th
          >{/each}</tr
      ></thead
    >
    <tbody>
      {#each data.rows as row (row.tool)}
        <tr class={data.differing.includes(row.tool) ? 'bg-base-200' : ''}>
          <th class="text-lg" scope="row"
            >T{row.tool}{#if data.differing.includes(row.tool)}<span
                class="text-accent"
                aria-label="does not mean the same everywhere"
              >
                ≠</span
              >{/if}</th
          >
          {#each row.cells as cell (cell.machine)}
            <td class="align-top">
              {#if cell.stands}<a class="underline" href="/tools/{cell.stands.id}">{cell.stands.number}</a>
                {cell.stands.meaning}{/if}
              {#if cell.missing}<span class="text-accent">not there</span>{/if}
              {#each cell.asked as asked (asked.program)}
                <span class={['block text-sm', cell.other ? 'text-accent' : 'opacity-80']}
                  >{asked.program}: {asked.remark.toLowerCase() || 'no comment'}</span
                >
              {/each}
            </td>
          {/each}
        </tr>
      {/each}
    </tbody>
  </table>
</div>

{#if data.plan}
  <section class="mt-6">
    <h2 class="heading">To make them alike, with {data.plan.proven ? 'the fewest' : 'few'} changes</h2>
    {#if data.plan.changes.length === 0}<p class="mt-2 text-lg">Nothing needs to change.</p>
    {:else}
      <p class="caution mt-2">
        A T is in programs, rows and tables: change all three together, with the tool out of the spindle, and
        run the program’s readiness check before it cuts.
      </p>
      <ol class="mt-2 grid gap-x-8 font-narrow sm:grid-cols-2">
        {#each data.plan.changes as change (`${change.machine} ${change.from}`)}
          <li class="border-b border-base-300 py-1.5">
            {change.machine}: {change.assembly}, {change.meaning},
            <b>T{change.from} → T{change.to}</b>
          </li>
        {/each}
      </ol>
      {#if data.plan.without.length > 0}<p class="caution mt-2">
          No T is left on all of their machines for {data.plan.without.join(', ')}: they stay as they are.
        </p>{/if}
      {#if data.plan.sisters.length > 0}<p class="small-words mt-2">
          Sisters keep a T of their own: {data.plan.sisters
            .map((each) => `${each.machine} T${each.tool}`)
            .join(', ')}.
        </p>{/if}
    {/if}
  </section>
{/if}
