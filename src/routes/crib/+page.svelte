<script lang="ts">
  import { COMPONENT_GROUPS, kindFacts, PROPERTIES, type Property } from '$core/component/kinds';
  import { dimensionWords } from '$lib/crib/dimension';
  import ComponentPlate from '$lib/crib/ComponentPlate.svelte';
  import LookAlikes from '$lib/crib/LookAlikes.svelte';
  import LongTable from '$lib/LongTable.svelte';
  import SearchField from '$lib/SearchField.svelte';
  import StockBar from '$lib/crib/StockBar.svelte';

  import { askPage } from '$lib/ask-page';

  let { data } = $props();
  const GROUP_WORDS = {
    cutter: 'Cutters',
    holder: 'Holders',
    adaptive: 'Collets, sleeves',
    knob: 'Knobs',
    insert: 'Inserts',
  };
  const MAIN: Property[] = ['DC', 'DCONWS', 'DCONMS', 'RE', 'LCF', 'OAL', 'LPR', 'SIG', 'ZEFP'];
</script>

<svelte:head><title>Crib · Tin Almanac</title></svelte:head>

<div class="mt-5 flex flex-wrap items-end gap-x-5 gap-y-2">
  <h1 class="text-3xl">Crib</h1>
  <nav class="flex flex-wrap gap-1.5" aria-label="Groups">
    <button
      class={['btn', !data.group && !data.short && 'btn-primary']}
      onclick={() => askPage({ group: null, short: null, item: null })}>All</button
    >
    {#each COMPONENT_GROUPS as group (group)}<button
        class={['btn', data.group === group && !data.short && 'btn-primary']}
        onclick={() => askPage({ group, short: null, item: null })}>{GROUP_WORDS[group]}</button
      >{/each}
    {#if data.shortCount > 0}<button
        class={['btn', data.short && 'btn-primary']}
        onclick={() => askPage({ short: '1', item: null })}>Below minimum <b>{data.shortCount}</b></button
      >{/if}
  </nav>
  <button
    class={['btn', data.twins && 'btn-primary']}
    onclick={() => askPage({ twins: data.twins ? null : '1', item: null })}>Look-alikes</button
  >
  <a class="btn" href="/crib/order">What to order</a>
  <a class="btn" href="/labels/component">Labels</a>
  {#if data.mayMerge}<a class="btn" href="/crib/write">New line</a>{/if}
  <SearchField
    label="Find a component"
    placeholder="number, size, thread, shelf"
    value={data.words}
    class="ml-auto w-60"
    ends={['short']}
  />
</div>

{#if data.twins}<LookAlikes {...data.twins} mayMerge={data.mayMerge} />{/if}

<div class="mt-4 grid gap-8 lg:grid-cols-[1.7fr_1fr]">
  <div>
    <LongTable
      total={data.total}
      first={data.components}
      more="/crib/rows?words={encodeURIComponent(data.words)}&group={data.group ?? ''}"
      rowHeight={54}
      columns={['w-16', 'w-24', 'w-36', 'w-40', 'w-44', 'w-20']}
      label="Components"
    >
      {#snippet head()}<tr
          ><th scope="col">Shelf</th><th scope="col">Number</th><th scope="col">On the shelf</th><th
            scope="col">What</th
          ><th scope="col">Size</th><th scope="col" class="number">In tools</th></tr
        >{/snippet}
      {#snippet row(component)}
        <tr class={['h-[54px]', data.chosen?.id === component.id ? 'bg-base-300' : '']}>
          <td class="whitespace-nowrap">{component.shelf}</td>
          <th scope="row"
            ><button
              class="min-h-11 min-w-11 text-left whitespace-nowrap underline"
              onclick={() => askPage({ item: String(component.id) })}>{component.number}</button
            ></th
          >
          <td><StockBar stock={component.stock} minimum={component.minimum} /></td>
          <td
            ><span class="block truncate">{component.name}</span><span class="small-words block truncate"
              >{kindFacts(component.kind).words}</span
            ></td
          >
          <td class="text-sm"
            ><span class="block truncate"
              >{#each MAIN.filter((name) => component.dimensions[name] !== undefined).slice(0, 3) as name, i (name)}{i >
                0
                  ? ', '
                  : ''}<abbr class="no-underline" title="{name}, ISO 13399: {PROPERTIES[name].words}"
                  >{PROPERTIES[name].short}&nbsp;{dimensionWords(name, component.dimensions[name]!).replace(
                    /\.?0+ mm$| mm$/,
                    '',
                  )}</abbr
                >{/each}</span
            >{#if component.series}<span class="block truncate">{component.series}</span>{/if}</td
          >
          <td class="number">{component.used || ''}</td>
        </tr>
      {/snippet}
    </LongTable>
    {#if data.components.length === 0}<p class="py-3">
        {data.short ? 'Nothing is below its minimum.' : `Nothing in the crib matches “${data.words}”.`}
      </p>{/if}
  </div>
  {#if data.chosen}
    {#key data.chosen.id}<ComponentPlate
        component={data.chosen}
        used={data.used}
        history={data.history}
        older={data.older}
        mayLookLedger={data.mayLookLedger}
        old={data.old}
        askers={data.askers}
        orders={data.orders}
        mayWrite={data.mayMerge}
        mayMove={data.mayMove}
        mayBuild={data.mayBuild}
        zone={data.cell!.timeZone}
        now={data.now}
      />{/key}
  {:else}
    <div class="self-start">
      <p>Tap a number to issue, return, count or regrind it, or to see where it is used.</p>
      <p class="small-words mt-2">
        Hover over a dimension for its ISO 13399 name. New lines are written by hand, or come in as <a
          class="underline"
          href="/tools/import">a file</a
        >; insert designations, drill sizes and threads are read from what is written there.
      </p>
    </div>
  {/if}
</div>
