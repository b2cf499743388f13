<script lang="ts">
  import { dayAndClock, longDay, shortTime } from '$lib/time';
  import Shelves from './Shelves.svelte';
  import { stretchesOf } from './stretches';

  let { data } = $props();
  const zone = $derived(data.cell!.timeZone);
  const when = (at: Date) => shortTime(at, data.now, zone);
  const stretches = $derived(stretchesOf(data.edges, data.now));
  const toBuild = $derived(data.edges.filter(({ ready }) => ready === null).length);
  const low = $derived(data.shelves.filter(({ below, out }) => below ?? out));
</script>

<svelte:head><title>Ahead · Tin Almanac</title></svelte:head>

<header class="mt-5 flex flex-wrap items-end gap-4">
  <h1 class="text-3xl">Ahead</h1>
  <p class="small-words pb-1">by the jobs on the lists, to {dayAndClock(data.until, zone)}</p>
  <a class="btn ml-auto" href="/ahead/csv" download="ahead.csv">As CSV</a>
</header>
<p class="mt-1 text-lg font-semibold" role="status">
  {data.edges.length === 0
    ? 'No edge runs out in a fortnight.'
    : `${data.edges.length} ${data.edges.length === 1 ? 'edge runs' : 'edges run'} out in a fortnight, ${toBuild} without a sister on the rack.`}
  {low.length === 0
    ? ''
    : `${low.length === 1 ? 'One line of the crib falls' : `${low.length} lines of the crib fall`} below minimum.`}
</p>

<div class="mt-4 grid gap-x-8 gap-y-6 lg:grid-cols-[1.25fr_1fr]">
  <section aria-labelledby="edges">
    <h2 id="edges" class="heading">To have ready</h2>
    {#if data.edges.length === 0}<p class="py-2">Nothing.</p>{/if}
    {#each stretches as stretch (stretch.key)}
      <h3 class="mt-3 flex items-baseline gap-3 text-lg">
        {stretch.shift ? `${longDay(stretch.date)}, ${stretch.shift}` : `Week from ${longDay(stretch.date)}`}
        {#if stretch.kit.length > 0}<a
            class="ml-auto inline-flex min-h-11 items-center font-sans text-base underline"
            href="/tools/kit?numbers={stretch.kit.map(encodeURIComponent).join('+')}">Kit list</a
          >{/if}
      </h3>
      <ul class="ruled-list">
        {#each stretch.edges as edge (`${edge.assemblyId}/${edge.job}/${edge.part}`)}
          <li>
            <a
              class="grid min-h-11 grid-cols-[5.5rem_1fr] items-center gap-x-3 py-1 hover:bg-base-300"
              href="/tools/{edge.assemblyId}"
            >
              <b class="font-display">{when(edge.at)}</b>
              <span
                ><b>{edge.machine} T{edge.tool}</b>
                {edge.name}
                <span class="small-words"
                  >{edge.number}, in part {edge.part} of {edge.job}{edge.gone
                    ? `, with nobody here from ${when(edge.gone)} on: renew it before`
                    : ''};
                  {#if edge.ready}{edge.ready} is on the rack{:else}<b>build and measure one</b>{/if}</span
                ></span
              >
            </a>
          </li>
        {/each}
      </ul>
    {/each}
  </section>
  <div class="grid content-start gap-6">
    {#if data.lacking.length > 0}
      <section aria-labelledby="lacking">
        <h2 id="lacking" class="heading">To load before a job starts</h2>
        <ul class="ruled-list mt-1">
          {#each data.lacking as job, i (i)}
            <li>
              <a
                class="grid min-h-11 grid-cols-[5.5rem_1fr] items-center gap-x-3 py-1 hover:bg-base-300"
                href="/programs/{job.programId}/tools"
              >
                <b class="font-display">{when(job.starts)}</b>
                <span
                  ><b>{job.machine} {job.job}</b>
                  {job.tools.map((tool) => `T${tool}`).join(', ')}</span
                >
              </a>
            </li>
          {/each}
        </ul>
      </section>
    {/if}
    <section aria-labelledby="shelves">
      <h2 id="shelves" class="heading">Off the shelves</h2>
      {#if data.shelves.length === 0}<p class="py-2">
          Nothing is taken, as far as the pieces of the tools are on record.
        </p>{:else}
        <Shelves shelves={data.shelves} now={data.now} {zone} />
      {/if}
    </section>
    {#if data.expected.length > 0}
      <section aria-labelledby="expected">
        <h2 id="expected" class="heading">By how long they lasted so far</h2>
        <p class="small-words mt-1">
          Some edges end before their limit: of these have more ready than the list says.
        </p>
        <ul class="ruled-list mt-1">
          {#each data.expected as each (each.assemblyId)}
            <li>
              <a
                class="flex min-h-11 items-center py-1 hover:bg-base-300"
                href="/tools/{each.assemblyId}/life"
                ><span
                  ><b>{each.number}</b>
                  {each.name}: {each.planned} by its limit, about {each.expected.toFixed(1)} as they last</span
                ></a
              >
            </li>
          {/each}
        </ul>
      </section>
    {/if}
  </div>
</div>
<p class="small-words mt-6">
  Jobs follow each other as they stand on the list, in the hours of the cell’s calendar; setting up between
  them is not counted. A machine that stands still because of a broken tool is reckoned as though it went on.
</p>
