<script lang="ts">
  import { goto } from '$app/navigation';
  import type { PresetterReading } from '$core/formats/presetter-line';
  import type { PresetFault } from '$core/presetting/check-measured';
  import { formatLength, formatWithUnit } from '$core/units/format-length';
  import type { Length } from '$core/units/length';
  import ActionForm from '$lib/ActionForm.svelte';
  import Silhouette from '$lib/Silhouette.svelte';
  import Presettings from '$lib/tool/Presettings.svelte';

  let { data } = $props();
  const { assembly, expected } = $derived(data);
  const zone = $derived(data.cell!.timeZone);
  const empty = { gaugeLength: '', diameter: '', cornerRadius: '', runOut: '', instrument: 'typed' };
  let values = $state({ ...empty });
  let faults = $state<PresetFault[]>([]);
  let kept = $state(false);

  const show = (value: Length | null) =>
    value === null ? '' : formatLength(value, 'mm', { decimals: 4, minus: '-' });
  function came(reading: PresetterReading) {
    values = {
      gaugeLength: show(reading.gaugeLength),
      diameter: show(reading.diameter),
      cornerRadius: show(reading.cornerRadius),
      runOut: show(reading.runOut),
      instrument: 'presetter',
    };
    faults = [];
    kept = false;
  }
  function recorded(done: { kept: true } | { kept: false; faults: PresetFault[] }) {
    kept = done.kept;
    faults = done.kept ? [] : done.faults;
    if (done.kept) values = { ...empty };
  }
  const FIELDS = [
    ['gaugeLength', 'Gauge length, mm'],
    ['diameter', 'Diameter, mm'],
    ['cornerRadius', 'Corner radius, mm'],
    ['runOut', 'Run-out, mm'],
  ] as const;
</script>

<svelte:head><title>Presetter · Tin Almanac</title></svelte:head>

<div class="mt-5 flex flex-wrap items-end gap-4">
  <h1 class="text-3xl">Presetter</h1>
  <form
    class="ml-auto flex w-full max-w-md gap-2"
    onsubmit={(event) => {
      event.preventDefault();
      const typed = new FormData(event.currentTarget).get('number');
      values = { ...empty };
      faults = [];
      kept = false;
      void goto(`?number=${encodeURIComponent(String(typed).trim())}`);
    }}
  >
    <input
      class="input"
      name="number"
      defaultValue={data.number}
      aria-label="Number of the tool"
      placeholder="scan or type a number"
      autocomplete="off"
    />
    <button class="btn">Take it</button>
  </form>
</div>

{#if !assembly}
  {#if data.number}<p class="caution mt-4 text-lg">No assembly has the number “{data.number}”.</p>{/if}
  <h2 class="heading mt-6">Loose tools not measured since they were built or indexed</h2>
  <ul class="ruled-list mt-1">
    {#each data.waiting as tool (tool.id)}
      <li>
        <a class="flex min-h-12 items-center gap-4 hover:bg-base-300" href="?number={tool.number}"
          ><Silhouette shape={tool} height={40} /><b class="w-20">{tool.number}</b> {tool.name}</a
        >
      </li>
    {:else}<li class="py-3">All loose tools are measured.</li>{/each}
  </ul>
{:else}
  <div class="mt-4 grid gap-8 md:grid-cols-[auto_1fr] xl:grid-cols-[auto_1fr_1.1fr]">
    <div>
      <p class="text-xl">
        <a class="underline" href="/tools/{assembly.id}">{assembly.number}</a>
        {assembly.name}
      </p>
      <Silhouette shape={assembly} dimensioned height={380} />
      <p>
        Its pieces give <b>{formatWithUnit(expected!.gaugeLength, 'mm')}</b> and
        <b>⌀ {formatWithUnit(expected!.diameter, 'mm')}</b>
      </p>
      {#if assembly.machine}<p class="caution">It stands in {assembly.machine} as T{assembly.tool}.</p>{/if}
    </div>
    <section class="plate self-start" aria-label="Measurement">
      {#if data.mayMeasure}
        {#if data.connected}
          <ActionForm action="?/ask" label="Ask the presetter" keep onDone={came}>
            {#snippet children({ busy })}
              <input type="hidden" name="number" value={assembly.number} />
              <button class="btn h-14 w-full text-lg btn-primary" disabled={busy} data-key="m"
                >Measure now <span class="key-hint" aria-hidden="true">m</span></button
              >
            {/snippet}
          </ActionForm>
        {:else}<p class="small-words">No presetter is connected here. Type what it shows.</p>{/if}
        <ActionForm action="?/record" class="mt-3 grid gap-3" label="Record it" keep onDone={recorded}>
          {#snippet children({ busy })}
            <input type="hidden" name="assembly" value={assembly.id} />
            <input type="hidden" name="instrument" value={values.instrument} />
            {#each FIELDS as [name, label] (name)}
              <label class="grid gap-1"
                ><span>{label}</span><input
                  class="input h-12 text-xl"
                  data-pad="length"
                  {name}
                  bind:value={values[name]}
                  oninput={() => {
                    values.instrument = 'typed';
                    faults = [];
                    kept = false;
                  }}
                  required={name === 'gaugeLength'}
                  autocomplete="off"
                /></label
              >
            {/each}
            {#if faults.length > 0}
              <div class="caution" role="alert">
                {#each faults as fault (fault.value)}<p class="font-semibold">{fault.reason}</p>{/each}
                <label class="mt-1 flex min-h-11 items-center gap-2"
                  ><input class="checkbox" type="checkbox" name="confirmed" value="yes" /> I measured again and
                  got the same</label
                >
              </div>
            {/if}
            <button class="btn h-14 text-lg btn-primary" disabled={busy}>Record it</button>
            {#if kept}<p class="text-lg font-semibold" role="status">Recorded.</p>{/if}
          {/snippet}
        </ActionForm>
      {:else}<p>Setters and the crib measure tools.</p>{/if}
    </section>
    <Presettings spread={data.spread} history={data.history} now={data.now} {zone} />
  </div>
{/if}
