<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import MeasuringPlan from '$lib/program/MeasuringPlan.svelte';
  import ActionForm from '$lib/ActionForm.svelte';
  import Findings from '$lib/program/Findings.svelte';
  import Proof from '$lib/program/Proof.svelte';
  import NcText from '$lib/program/NcText.svelte';
  import ToolCalls from '$lib/program/ToolCalls.svelte';
  import { minutesAndSeconds } from '$core/shift/clock';
  import { dayAndClock } from '$lib/time';

  let { data } = $props();
  let line = $state<number | null>(null);
  const { unit } = $derived(data.machine);
  const marks = $derived(
    data.findings.map(({ line: at, weight, sentence }) => ({ line: at, weight, words: sentence })),
  );
  /** Shows a part of a long text, from a line on. */
  const showPart = (first: number) => {
    const to = new URL(page.url);
    to.searchParams.set('from', String(Math.max(1, first)));
    return goto(to, { keepFocus: true, noScroll: true, replaceState: true });
  };
  /** Goes to a line, wherever in the text it stands. */
  function showLine(at: number) {
    line = at;
    if (at < data.first || at >= data.first + data.lines.length) void showPart(at - 100);
  }
  /** From a line back to the first finding of it. */
  function showFinding(at: number) {
    const found = document.querySelector<HTMLElement>(`[data-finding="${at}"]`);
    found?.scrollIntoView({ block: 'center' });
    found?.focus();
  }
</script>

<svelte:head><title>{data.program.number} {data.program.title} · Tin Almanac</title></svelte:head>

<header class="mt-4 flex flex-wrap items-end gap-x-5 border-b-[3px] border-double border-base-content pb-2">
  <h1 class="text-3xl">{data.program.number}</h1>
  <p class="text-lg">{data.program.title}</p>
  <p class="small-words ml-auto">
    <a class="underline" href="/machines/{data.machine.id}">{data.machine.name}</a>, revision {data.program
      .revision}, {data.program.lines} lines, {minutesAndSeconds(data.program.cutMilliseconds)} in cut, brought
    in by {data.program.broughtInBy} on {dayAndClock(data.program.broughtInAt, data.cell!.timeZone)}
  </p>
</header>
{#if !data.program.newest}<p class="caution mt-3 font-semibold">This revision is not the newest.</p>{/if}

<div class="mt-3 flex flex-wrap items-center gap-4">
  <a class="btn" href="/programs/{data.program.id}/tools">What it asks for, and what will do</a>
  <a class="btn" href="/programs/{data.program.id}/elsewhere">Where else</a>
  {#if data.calls.length > 0}<a
      class="btn"
      href="/programs/{data.program.id}/restart{line === null ? '' : `?line=${line}`}"
      >It stopped: begin again</a
    >{/if}
  {#if data.calls.some(({ boringShifts }) => boringShifts.length > 0)}<a
      class="btn"
      href="/programs/{data.program.id}/boring">Bores from above</a
    >{/if}
  {#if data.machine.kind === 'mill'}
    <ActionForm
      action="?/cutter"
      class="flex flex-wrap items-center gap-2"
      label="Who knows the cutter's diameter"
      keep
    >
      {#snippet children({ busy })}
        <span class="small-words">The cutter’s diameter is</span>
        {#each [['cam', 'in the path (CAM): D is wear only'], ['control', 'the control’s: D is the cutter']] as const as [to, label] (to)}
          <button
            class={['btn', data.program.cutterBy === to && 'btn-primary']}
            name="to"
            value={to}
            aria-pressed={data.program.cutterBy === to}
            disabled={busy || !data.mayChange}>{label}</button
          >
        {/each}
      {/snippet}
    </ActionForm>
  {/if}
  <ActionForm action="?/material" class="flex flex-wrap items-center gap-2" label="What it cuts">
    {#snippet children({ busy })}
      <label class="flex items-center gap-2"
        ><span class="small-words">It cuts</span><input
          class="input w-44"
          name="material"
          list="materials"
          maxlength="60"
          required
          autocomplete="off"
          defaultValue={data.program.material ?? ''}
          disabled={!data.mayChange}
        /></label
      >
      <datalist id="materials"
        >{#each data.materials as material (material)}<option value={material}></option>{/each}</datalist
      >
      {#if data.mayChange}<button class="btn" disabled={busy}>Keep the material</button>{/if}
    {/snippet}
  </ActionForm>
</div>

<div class="mt-4 grid gap-8 xl:grid-cols-[1.5fr_1fr]">
  <div class="grid min-w-0 content-start gap-6">
    <Findings
      findings={data.findings}
      verdict={data.verdict}
      quantity={data.quantity}
      ahead={data.ahead}
      machine={data.machine}
      onLine={showLine}
      tools={data.calls.length}
      maySettle={data.mayChange}
      mayEdit={data.mayEdit}
      mayWaive={data.mayProve}
    />
    {#if data.proof}<Proof
        proof={data.proof}
        before={data.before}
        machine={data.machine.name}
        mayProve={data.mayProve && data.program.newest}
        onLine={showLine}
      />{/if}
    <ToolCalls
      calls={data.calls}
      remarks={data.program.remarks}
      kind={data.machine.kind}
      {unit}
      onLine={showLine}
    />
    {#if data.said.length > 0}<p class="small-words">
        Read with {#each data.said as { variable, value, person, said }, i (i)}{i > 0 ? '; ' : ''}#{variable} =
          {value}
          ({said}, {person}){/each}.
      </p>{/if}
    <MeasuringPlan
      features={data.features}
      doubts={data.doubts}
      calls={data.calls.map((call) => call.tool)}
      program={{ id: data.program.id, number: data.program.number }}
      machine={data.machine}
      {unit}
      mayPlan={data.mayPlan}
      month={data.now.toISOString().slice(0, 7)}
      inFiles={data.inFiles}
    />
  </div>
  {#key `${data.program.id} ${data.first}`}<NcText
      lines={data.lines}
      first={data.first}
      all={data.program.lines}
      {line}
      {marks}
      onMark={showFinding}
      onPart={(first) => void showPart(first)}
    />{/key}
</div>
