<script lang="ts">
  import type { RepeatStudy } from '$core/inspection/gauge';
  import { formatLength, plainDecimal } from '$core/units/format-length';
  import { nanometres, type Length } from '$core/units/length';
  import ActionForm from '$lib/ActionForm.svelte';
  import Field from '$lib/Field.svelte';
  import { shortTime } from '$lib/time';

  let { data } = $props();
  const zone = $derived(data.cell!.timeZone);
  const show = (value: number) => formatLength(nanometres(Math.round(value)), 'mm', { decimals: 4 });
  const plain = (value: Length | null) => (value === null ? '' : plainDecimal(value, 'mm'));
  let name = $state('');
  let resolution = $state('');
  let uncertainty = $state('');
  let due = $state('');
  let study = $state<RepeatStudy | null>(null);
  function begin(gauge: { name: string } & Partial<(typeof data.gauges)[number]>) {
    name = gauge.name;
    resolution = plain(gauge.resolution ?? null);
    uncertainty = plain(gauge.uncertainty ?? null);
    due = gauge.due ?? '';
    study = null;
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
                        class="btn min-h-11 btn-sm"
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
            {#if data.mayWrite}<button type="button" class="btn min-h-11 btn-sm" onclick={() => begin(each)}
                >Put it on the list</button
              >{/if}
          </li>
        {/each}
      </ul>
    {/if}
  </section>
  {#if data.mayWrite}
    <section id="write" class="grid content-start gap-6" aria-label="One gauge">
      <ActionForm
        action="?/write"
        class="plate grid gap-3"
        label="A gauge"
        onDone={() => (name = resolution = uncertainty = due = '')}
      >
        {#snippet children({ busy })}
          <h2 class="text-xl">Put on the list, or change</h2>
          <Field label="What measuring plans call it"
            ><input class="input" name="name" maxlength="60" bind:value={name} required /></Field
          >
          <Field label="Step it shows, mm"
            ><input
              class="input"
              name="resolution"
              data-pad="length"
              bind:value={resolution}
              required
            /></Field
          >
          <Field label="Sure to ±, mm (expanded, k = 2), if known"
            ><input class="input" name="uncertainty" data-pad="length" bind:value={uncertainty} /></Field
          >
          <Field label="Calibrated until"
            ><input class="input" type="date" name="due" bind:value={due} /></Field
          >
          <button class="btn btn-primary" disabled={busy}>Save it</button>
        {/snippet}
      </ActionForm>
      <ActionForm
        action="?/study"
        class="grid gap-2"
        label="Repeat study"
        keep
        onDone={(done: RepeatStudy) => (study = done)}
      >
        {#snippet children({ busy })}
          <h2 class="heading">How well does it repeat?</h2>
          <p class="small-words">
            Measure one size of one part ten times or more, lifting the gauge off each time, and type what it
            showed.
          </p>
          <input type="hidden" name="resolution" value={resolution || '0.001'} />
          <textarea class="textarea w-full font-mono" name="readings" rows="3" aria-label="Readings" required
          ></textarea>
          <button class="btn" disabled={busy}>Work it out</button>
          {#if study}<p role="status">
              It repeats to ±{show(2 * study.spread)} mm; with its step it is sure to
              <b>±{show(study.uncertainty)} mm</b>, its calibration not counted.
              <button
                type="button"
                class="underline"
                onclick={() =>
                  (uncertainty = plainDecimal(nanometres(Math.ceil(study!.uncertainty / 100) * 100), 'mm'))}
                >Take this</button
              >
            </p>{/if}
        {/snippet}
      </ActionForm>
    </section>
  {/if}
</div>
