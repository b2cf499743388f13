<script lang="ts">
  import HeldBack from '$lib/breakage/HeldBack.svelte';
  import { invalidateAll } from '$app/navigation';
  import { page } from '$app/state';
  import BeforeNext from '$lib/now/BeforeNext.svelte';
  import KeyNow from '$lib/now/KeyNow.svelte';
  import MeasureNow from '$lib/now/MeasureNow.svelte';
  import NextJobs from '$lib/now/NextJobs.svelte';
  import PartsNow from '$lib/now/PartsNow.svelte';
  import ToolsNow from '$lib/now/ToolsNow.svelte';
  import TypedAside from '$lib/now/TypedAside.svelte';
  import { outbox } from '$lib/offline/outbox.svelte';
  import { partsThatWait, readBackWaits } from '$lib/offline/waits';
  import { states } from '$lib/machine/states.svelte';
  import { onMount } from 'svelte';

  let { data } = $props();
  const { job, measuring } = $derived(data);
  let aside = $state.raw<{ typed: string; name: string } | null>(null);
  const toKey = $derived(
    data.corrections.filter((each) => each.state === 'approved' && !readBackWaits(outbox.untold, each.id))
      .length,
  );
  const waits = $derived(job ? partsThatWait(outbox.untold, job.id) : 0);
  // what waits on this device, or the control has counted, was cut: an edge that is spent by it is spent, though no record knows it yet
  const uncounted = $derived(job ? Math.max(waits, data.made - job.made) : 0);
  const tools = $derived(
    data.tools
      .map((tool) =>
        tool.group && !tool.group.next ? tool : { ...tool, parts: Math.max(0, tool.parts - uncounted) },
      )
      .sort((a, b) => Number(b.flag === 'broken') - Number(a.flag === 'broken') || a.parts - b.parts),
  );
  const out = $derived(tools.filter((tool) => tool.parts === 0).length);
  const asked = $derived(Number(page.url.searchParams.get('feature')) || null);

  // on a phone one thing at a time: what is asked for, else what is most urgent
  const steps = $derived([
    { name: 'key', words: 'Key', note: data.corrections.length > 0 ? String(data.corrections.length) : '' },
    { name: 'measure', words: 'Measure', note: '' },
    {
      name: 'parts',
      words: 'Parts',
      note: job ? `${job.made + waits}/${job.quantity}` : '–',
    },
    { name: 'tools', words: 'Tools', note: out > 0 ? `${out} out` : '' },
  ]);
  let picked = $state<string | null>(null);
  const shown = $derived(
    picked ??
      (asked !== null || page.url.searchParams.get('do') === 'measure'
        ? 'measure'
        : toKey > 0
          ? 'key'
          : out > 0
            ? 'tools'
            : 'parts'),
  );
  const only = (name: string) => (shown === name ? '' : 'max-md:hidden');

  // a part more at the control, and its count is laid beside ours
  const counted = $derived(states[data.machine.id]?.state.parts ?? null);
  let before: number | null = null;
  $effect(() => {
    if (counted !== null && before !== null && counted !== before) void invalidateAll();
    before = counted;
  });

  // the control's count is asked for again now and then, as long as the page is looked at
  onMount(() => {
    const timer = setInterval(
      () => document.visibilityState === 'visible' && data.control && void invalidateAll(),
      15_000,
    );
    return () => clearInterval(timer);
  });
</script>

<svelte:head><title>{data.machine.name} now · Tin Almanac</title></svelte:head>

<div class="mt-3 grid grid-cols-4 gap-1.5 md:hidden" role="group" aria-label="What to do">
  {#each steps as step (step.name)}
    <button
      type="button"
      class={['btn h-14 flex-col gap-0 px-1 leading-tight', shown === step.name && 'btn-primary']}
      aria-pressed={shown === step.name}
      onclick={() => (picked = step.name)}
      >{step.words}{#if step.note}<b class="font-display text-sm">{step.note}</b>{/if}</button
    >
  {/each}
</div>

{#each data.held as held (held.assemblyId)}<div class="caution mt-4"><HeldBack {held} /></div>{/each}
<BeforeNext machineId={data.machine.id} against={data.against} />
{#if data.firstPart}<p class="caution mt-4">
    The first part of {data.firstPart.program} is being brought to size:
    <a class="underline" href="/machines/{data.machine.id}/first-part">take it up</a>. What is measured or
    keyed here meanwhile disturbs it.
  </p>{/if}
<!-- what somebody is at stays on the screen of a phone, whatever becomes urgent meanwhile -->
<div class="mt-4 grid items-start md:grid-cols-[1.2fr_1fr] md:gap-6" onfocusin={() => (picked ??= shown)}>
  <div class="grid gap-5">
    <div class={only('key')}><KeyNow corrections={data.corrections} machine={data.machine} /></div>
    <div class={only('measure')}>
      {#if aside}<TypedAside {aside} unit={data.machine.unit} onDone={() => (aside = null)} />{/if}
      {#if measuring && measuring.features.length > 0}
        <MeasureNow
          machine={data.machine}
          {...measuring}
          programs={data.programs.filter((program) => program.features > 0)}
          {asked}
          mayMeasure={data.may.measure}
          mayRun={data.may.run}
          onAside={(typed) => (aside = typed)}
        />
      {:else}
        <p class="text-lg">
          There is no measuring plan for what runs on {data.machine.name}.
          <a class="underline" href="/programs">Bring one in</a> with the program.
        </p>
      {/if}
    </div>
  </div>
  <div class="grid gap-6">
    <div class={['grid gap-6', only('parts')]}>
      <!-- a count that was typed for one job is none of the next -->
      {#if job}{#key job.id}<PartsNow
            {job}
            control={data.control}
            counted={data.counted}
            called={data.called}
            zone={data.cell!.timeZone}
            mayRecord={data.may.record}
            mayRun={data.may.run}
          />{/key}{:else}<p class="text-lg">No job is running.</p>{/if}
    </div>
    <div class={only('tools')}>
      <ToolsNow {...data} {tools} {uncounted} zone={data.cell!.timeZone} />
    </div>
    <div class={only('parts')}>
      <NextJobs
        waiting={data.waiting}
        programs={data.programs}
        running={job?.number ?? null}
        mayRun={data.may.run}
      />
    </div>
  </div>
</div>
