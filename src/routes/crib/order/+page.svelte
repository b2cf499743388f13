<script lang="ts">
  import Field from '$lib/Field.svelte';
  import ActionForm from '$lib/ActionForm.svelte';
  import { dayAndClock } from '$lib/time';

  let { data } = $props();
  const zone = $derived(data.cell!.timeZone);
  const cost = $derived(data.lines.reduce((sum, line) => sum + (line.costCents ?? 0) * line.pieces, 0) / 100);
  const unpriced = $derived(data.lines.filter((line) => line.costCents === null).length);
</script>

<svelte:head><title>What to order · Tin Almanac</title></svelte:head>

<div class="mt-5 flex flex-wrap items-end gap-3">
  <h1 class="text-3xl">What to order</h1>
  {#if data.lines.length > 0}
    <button type="button" class="no-print btn" onclick={() => window.print()}>Print</button>
    <a class="no-print btn" href="/crib/order/csv" download>CSV</a>
  {/if}
</div>
{#if data.lines.length === 0}
  <p class="mt-3 text-lg" role="status">
    Nothing: every line is at its minimum, or enough of it is on its way.
  </p>
{:else}
  <ActionForm action="?/order" class="mt-3" label="What was ordered">
    {#snippet children({ busy })}
      <table class="ruled">
        <thead
          ><tr
            >{#if data.mayOrder}<th scope="col" class="no-print"><span class="sr-only">Ordered</span></th
              >{/if}<th scope="col">Number</th><th scope="col">What</th><th scope="col" class="max-sm:hidden"
              >Shelf</th
            ><th scope="col" class="number">There</th><th scope="col" class="number max-sm:hidden">Min</th><th
              scope="col"
              class="number max-sm:hidden">Coming</th
            ><th scope="col" class="number max-sm:hidden">Fill to</th><th scope="col" class="number">Order</th
            ></tr
          ></thead
        >
        <tbody>
          {#each data.lines as line (line.id)}
            <tr
              >{#if data.mayOrder}<td class="no-print"
                  ><label class="grid min-h-11 min-w-11 place-items-center"
                    ><input
                      class="checkbox"
                      type="checkbox"
                      name="take {line.id}"
                      value="yes"
                      aria-label="{line.number} was ordered"
                      checked
                    /></label
                  ></td
                >{/if}<th scope="row"><a class="underline" href="/crib?item={line.id}">{line.number}</a></th
              ><td
                >{line.name}<span class="small-words block sm:hidden"
                  >min {line.minimum}, fill to {line.fill}{line.coming ? `, ${line.coming} coming` : ''}</span
                ></td
              ><td class="max-sm:hidden">{line.shelf}</td><td class="number text-accent">{line.stock}</td><td
                class="number max-sm:hidden">{line.minimum}</td
              ><td class="number max-sm:hidden">{line.coming || ''}</td><td class="number max-sm:hidden"
                >{line.fill}</td
              ><td class="number"
                >{#if data.mayOrder}<input
                    class="input w-16 text-right sm:w-20 print:border-0"
                    name="pieces {line.id}"
                    inputmode="numeric"
                    defaultValue={line.pieces}
                    aria-label="Pieces of {line.number}"
                  /><input type="hidden" name="coming {line.id}" value={line.coming} />{:else}<b
                    >{line.pieces}</b
                  >{/if}</td
              ></tr
            >
          {/each}
        </tbody>
      </table>
      <p class="small-words mt-1">
        Below minimum with what is on its way counted in; filled up to the maximum, or to twice the minimum
        where none is on record. {cost > 0 ? `About ${cost.toFixed(2)} in all` : ''}{cost > 0 && unpriced > 0
          ? `, without ${unpriced} that ${unpriced === 1 ? 'has' : 'have'} no price`
          : ''}{cost > 0 ? '.' : ''}
      </p>
      {#if data.mayOrder}
        <div class="no-print mt-3 flex flex-wrap items-end gap-2">
          <Field label="From whom"><input class="input" name="place" maxlength="80" /></Field>
          <button class="btn btn-primary" disabled={busy}>Mark the ticked lines as ordered</button>
        </div>
      {/if}
    {/snippet}
  </ActionForm>
{/if}

<section class="no-print mt-8" aria-labelledby="out">
  <h2 id="out" class="heading">On order, and away for regrinding</h2>
  <ul class="ruled-list mt-1">
    {#each data.orders as order (order.id)}
      <li class="flex flex-wrap items-center gap-x-4 gap-y-1 py-2">
        <span class="min-w-60 flex-1"
          ><a class="font-semibold underline" href="/crib?item={order.componentId}">{order.number}</a>
          {order.name}
          <span class="small-words block"
            >{order.pieces - order.came} of {order.pieces}
            {order.kind === 'buy' ? 'still to come' : 'at the grinder'}{order.place
              ? `, ${order.place}`
              : ''}; {order.person},
            {dayAndClock(order.at, zone)}</span
          ></span
        >
        {#if order.kind === 'regrind'}<a class="btn" href="/crib?item={order.componentId}">They came back</a>
        {:else if data.mayOrder}
          {#key order.came}
            <ActionForm
              action="?/came"
              class="flex flex-wrap items-center gap-2"
              label="Arrival of {order.number}"
            >
              {#snippet children({ busy })}
                <input type="hidden" name="order" value={order.id} />
                <input type="hidden" name="came" value={order.came} />
                <input
                  class="input w-20"
                  name="pieces"
                  inputmode="numeric"
                  defaultValue={order.pieces - order.came}
                  aria-label="Pieces that came"
                />
                <button class="btn btn-primary" name="rest" value="comes" disabled={busy}>came</button>
                <button class="btn" name="rest" value="never" disabled={busy}>came, and no more will</button>
              {/snippet}
            </ActionForm>
          {/key}
        {/if}
      </li>
    {:else}<li class="py-2">Nothing.</li>{/each}
  </ul>
</section>
