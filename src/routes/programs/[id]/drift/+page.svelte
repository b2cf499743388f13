<script lang="ts">
  import { goto } from '$app/navigation';
  import { formatLength } from '$core/units/format-length';
  import { nanometres } from '$core/units/length';
  import ControlChart from './ControlChart.svelte';
  import DriftChart from './DriftChart.svelte';
  import Lab from './Lab.svelte';
  import Standing from './Standing.svelte';
  import Suspects from './Suspects.svelte';

  let { data } = $props();
  const unit = $derived(data.machine.unit);
  const written = (value: number, sign?: 'always') =>
    formatLength(nanometres(Math.round(value)), unit, { decimals: unit === 'mm' ? 4 : 5, sign });
  const show = (value: number) => written(value);
  const signed = (value: number) => written(value, 'always');
  /** As time at the machine, where a job of it runs. */
  const lasting = (parts: number) => {
    if (data.perPart === null) return '';
    const minutes = Math.round((parts * data.perPart) / 60_000);
    return minutes < 120 ? `, ${minutes} min` : `, ${(minutes / 60).toFixed(1)} h`;
  };
  const inParts = (parts: number | null) =>
    parts === null ? 'not in sight' : parts === 0 ? 'now' : `in ${parts} parts${lasting(parts)}`;
  const ask = (feature: number, risk: number, place: number | null = null) =>
    void goto(`?feature=${feature}&risk=${risk}${place === null ? '' : `&place=${place}`}`, {
      noScroll: true,
      keepFocus: true,
    });
</script>

<svelte:head><title>{data.feature?.name ?? 'Drift'}, {data.program.number} · Tin Almanac</title></svelte:head>

<header
  class="mt-4 flex flex-wrap items-end gap-x-5 gap-y-2 border-b-[3px] border-double border-base-content pb-2"
>
  <h1 class="text-3xl">{data.feature?.name ?? 'Drift'}</h1>
  <p class="text-xl">
    <a class="underline" href="/programs/{data.program.id}">{data.program.number}</a>, {data.machine.name}
  </p>
  <div class="ml-auto flex flex-wrap justify-end gap-3">
    {#if data.feature && data.page && data.page.place !== null}
      {@const { places, place } = data.page}
      <select
        class="select w-auto max-w-full"
        aria-label="Place it was cut in"
        value={place}
        onchange={(event) => ask(data.feature!.id, data.risk, Number(event.currentTarget.value))}
        >{#each places as words, i (words)}<option value={i}>{words}</option>{/each}</select
      >
    {/if}
    {#if data.feature}<select
        class="select w-auto max-w-full"
        aria-label="Feature"
        value={data.feature.id}
        onchange={(event) => ask(Number(event.currentTarget.value), data.risk)}
        >{#each data.features as each (each.id)}<option value={each.id}>{each.name}</option>{/each}</select
      >{/if}
  </div>
</header>

{#if !data.feature}
  <p class="mt-4">{data.program.number} has no measuring plan yet.</p>
{:else if !data.page}
  <p class="mt-4">
    Nothing to draw: {data.feature.name} was not measured yet, or no offset moves it.
    <a class="underline" href="/machines/{data.machine.id}/now?feature={data.feature.id}">Type a reading</a>
  </p>
{:else}
  {@const { page } = data}
  {#each new Set(page.suspects.map(({ part }) => part)) as part (part)}
    <Suspects suspects={page.suspects.filter((each) => each.part === part)} {unit} />
  {/each}
  <div class="mt-3 grid gap-6 lg:grid-cols-[1fr_20rem]">
    <DriftChart
      {page}
      feature={data.feature}
      {unit}
      words="{page.points.length} readings of {data.feature.name} and where it goes"
    />
    <Standing
      {page}
      endsWith={data.endsWith}
      {unit}
      {inParts}
      {show}
      {signed}
      risk={data.risk}
      risks={data.risks}
      choose={(risk) => ask(data.feature!.id, risk, page.place)}
    />
  </div>

  <p class="mt-4">
    <a
      class="inline-flex min-h-11 items-center underline"
      href="/programs/{data.program.id}/second-row?feature={data.feature!.id}">Give it a row of its own</a
    >, where another size that the row cuts wants something else.
  </p>

  <section class="mt-8" aria-labelledby="charts">
    <h2 id="charts" class="text-2xl">Charts</h2>
    {#if page.charts}
      <div class="mt-2 grid gap-6 md:grid-cols-2 xl:grid-cols-4">
        <ControlChart chart={page.charts.x} title="Single parts off the aim" show={signed} />
        <ControlChart chart={page.charts.ranges} title="Moving ranges, corrections taken out" {show} />
        <ControlChart chart={page.charts.ewma} title="EWMA, newest by 0.3" show={signed} />
        {#if page.charts.groups}<ControlChart
            chart={page.charts.groups.x}
            title="Averages of five"
            show={signed}
          />{/if}
      </div>
      <p class="mt-3">
        {#if page.within}With corrections taken out: <b>Cp {page.within.cp.toFixed(2)}</b>, Cpk {page.within.cpk.toFixed(
            2,
          )}.{/if}
        {#if page.cut}As cut: <b>Pp {page.cut.cp.toFixed(2)}</b> ({page.cut.cpBetween
            .map((each) => each.toFixed(2))
            .join(' to ')}), Ppk {page.cut.cpk.toFixed(2)} ({page.cut.cpkBetween
            .map((each) => each.toFixed(2))
            .join(' to ')}), of {page.points.length} parts.{:else}Fewer than 25 parts say too little of what
          was cut.{/if}
      </p>
    {:else}<p class="mt-1">A chart takes five readings.</p>{/if}
  </section>

  <Lab
    feature={{ ...data.feature, programId: data.program.id }}
    able={page.lab !== null && page.points.length > 1}
    mayAdopt={data.mayAdopt}
    {show}
    {unit}
  />
{/if}
