<script lang="ts">
  import { formatLength } from '$core/units/format-length';
  import { nanometres } from '$core/units/length';
  import ActionForm from '$lib/ActionForm.svelte';
  import { shortTime } from '$lib/time';

  import GaugeForms from './GaugeForms.svelte';
  import type { Begun } from './begun';

  let { data } = $props();
  const zone = $derived(data.cell!.timeZone);
  const show = (value: number) => formatLength(nanometres(Math.round(value)), 'mm', { decimals: 4 });
  /** The gauge that is written about: what stands on record of it, or its name alone. */
  let begun = $state.raw<Begun | null>(null);
  function begin(gauge: Begun) {
    begun = gauge;
    document.getElementById('write')?.scrollIntoView();
  }
</script>

<svelte:head><title>Gauges · Tin Almanac</title></svelte:head>

<header class="mt-5 border-b-[3px] border-double border-base-content pb-2">
  <h1 class="text-3xl">Gauges</h1>
</header>
<div class="mt-4 grid gap-8 lg:grid-cols-[1.5fr_1fr]">
  <section aria-label="Gauges on the list">
    <div class="relative overflow-x-auto">
      <table class="ruled w-full">
        <thead
          ><tr
            ><th scope="col">Gauge</th><th scope="col" class="number">Shows, mm</th><th
              scope="col"
              class="number">Sure to ±</th
            ><th scope="col">Calibrated until</th><th scope="col">Zero checked</th><th
              scope="col"
              class="number">Sizes</th
            ></tr
          ></thead
        >
        <tbody>
          {#each data.gauges as gauge (gauge.id)}
            <tr>
              <th scope="row"
                >{#if data.mayWrite}<button
                    type="button"
                    class="min-h-11 text-left underline"
                    onclick={() => begin(gauge)}>{gauge.name}</button
                  >{:else}{gauge.name}{/if}</th
              >
              <td class="number">{show(gauge.resolution)}</td>
              <td class="number">{gauge.uncertainty === null ? 'not said' : show(gauge.uncertainty)}</td>
              <td
                class={[
                  'whitespace-nowrap',
                  gauge.due && gauge.due < data.today && 'font-semibold text-accent',
                ]}>{gauge.due ?? 'not said'}{gauge.due && gauge.due < data.today ? ', overdue' : ''}</td
              >
              <td
                ><span class="small-words block"
                  >{gauge.zeroAt
                    ? `${gauge.zeroBy}, ${shortTime(gauge.zeroAt, data.now, zone)}`
                    : 'not yet'}</span
                >{#if data.mayCheck}<ActionForm action="?/zero" label="Zero of {gauge.name}">
                    {#snippet children({ busy })}<input type="hidden" name="gauge" value={gauge.id} /><button
                        class="btn btn-sm"
                        disabled={busy}>Its zero is right</button
                      >{/snippet}
                  </ActionForm>{/if}</td
              >
              <td class="number">{gauge.sizes}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
    {#if data.gauges.length === 0}<p class="py-2">No gauge is on the list yet.</p>{/if}
    {#if data.unlisted.length > 0}
      <h2 class="heading mt-6">Named in measuring plans, not on the list</h2>
      <p class="small-words">What they show is taken as it is: nobody has said how sure it is.</p>
      <ul class="ruled-list mt-1">
        {#each data.unlisted as each (each.name)}
          <li class="flex min-h-11 items-center gap-3 py-1">
            <span class="flex-1">{each.name}</span><span class="small-words"
              >{each.sizes} {each.sizes === 1 ? 'size' : 'sizes'}</span
            >
            {#if data.mayWrite}<button type="button" class="btn btn-sm" onclick={() => begin(each)}
                >Put it on the list</button
              >{/if}
          </li>
        {/each}
      </ul>
    {/if}
  </section>
  {#if data.mayWrite}
    {#key begun}<GaugeForms {begun} />{/key}
  {/if}
</div>
