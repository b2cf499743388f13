<script lang="ts">
  import { EXACT_JOBS, loadings, sisterOf, type bestOrder } from '$core/changer/switching';
  import type { SwitchAsk, SwitchNews } from '$lib/planner/switch-news';
  import ProgramChooser from '$lib/program/ProgramChooser.svelte';
  import SwitchWorker from '$lib/planner/switch.worker?worker';

  let { data } = $props();
  const word = (number: number) => {
    const { tool, sister } = sisterOf(number);
    return sister === 0 ? `T${tool}` : `a sister of T${tool}${sister > 1 ? ` (${sister})` : ''}`;
  };
  const listed = (tools: number[]) => (tools.length === 0 ? 'nothing' : tools.map(word).join(', '));

  /** What was typed stays when an answer to a choice before comes in late. */
  let places = $state<string | null>(null);
  let worked = $state.raw<ReturnType<typeof bestOrder> | null>(null);
  let share = $state<number | null>(null);
  let worker: Worker | null = null;
  const stop = () => {
    worker?.terminate();
    worker = null;
    share = null;
  };
  // many jobs: the order is looked for here, again only when what is asked is another
  const asked = $derived(
    data.jobs.length > EXACT_JOBS
      ? JSON.stringify({ jobs: data.jobs, room: data.room } satisfies SwitchAsk)
      : null,
  );
  $effect(() => {
    if (asked === null) return;
    worked = null;
    share = 0;
    worker = new SwitchWorker();
    worker.onmessage = ({ data: news }: MessageEvent<SwitchNews>) => {
      if (news.kind === 'progress') [share, worked] = [news.share, { ok: true, answer: news.best }];
      else [share, worked] = [null, news.answer];
    };
    worker.postMessage(JSON.parse(asked));
    return stop;
  });
  const best = $derived(data.best ?? worked);
</script>

<svelte:head><title>Jobs and tools · {data.machine.name} · Tin Almanac</title></svelte:head>

<form
  class="no-print mt-4 grid gap-x-8 gap-y-3 lg:grid-cols-[1fr_auto]"
  data-sveltekit-keepfocus
  data-sveltekit-noscroll
>
  <ProgramChooser
    programs={data.programs}
    chosen={data.chosen}
    legend="Which jobs are to run"
    machine={data.machine.name}
  />
  <div class="flex flex-wrap items-end gap-3">
    <label class="grid gap-1"
      ><span>Places for tools, of {data.places}</span><input
        class="input w-28"
        name="places"
        inputmode="numeric"
        value={places ?? data.count}
        oninput={(event) => (places = event.currentTarget.value)}
      /></label
    >
    <label class="flex min-h-11 items-center gap-2"
      ><input class="checkbox" type="checkbox" name="sisters" value="yes" defaultChecked={data.sisters} /> a sister
      for each that would not last</label
    >
    <button class="btn btn-primary">Work it out</button>
  </div>
</form>

{#if share !== null}
  <p class="mt-4 flex items-center gap-3">
    <progress class="progress w-48" value={share} max="1" aria-label="Looking for the best order"></progress>
    <button class="btn" onclick={stop}>Stop</button>
  </p>
{/if}
{#if best && !best.ok}
  <p class="caution mt-4 text-xl" role="status">{best.reason}</p>
{:else if best && data.given}
  {@const { plan, bound, proven } = best.answer}
  <p class="mt-5 text-xl" role="status">
    {#if data.share}All of them share one loading: {data.together} tools in {data.count} places.
    {:else}They call {data.together} tools, and there are {data.count} places.{/if}
    {plan.switches}
    {plan.switches === 1 ? 'tool comes' : 'tools come'} in by hand in this order{data.given.ok &&
    data.given.plan.switches > plan.switches
      ? `, against ${data.given.plan.switches} in the order of the list`
      : ''}:
    {proven ? 'proven best.' : `no order can do with fewer than ${bound}.`}
  </p>
  <ol class="mt-4 grid gap-4">
    {#each loadings(plan.steps) as { jobs, out, in: coming }, i (jobs[0])}
      <li class="border-t-[3px] border-double border-base-content pt-2">
        <h2 class="heading">Loading {i + 1}</h2>
        <dl class="grid gap-x-6 text-lg sm:grid-cols-[7rem_1fr]">
          {#if out.length > 0}<dt class="small-words">take out</dt>
            <dd>{listed(out)}</dd>{/if}
          {#if coming.length > 0}<dt class="small-words">bring in</dt>
            <dd class="font-semibold">{listed(coming)}</dd>{/if}
          {#if coming.length === 0 && out.length === 0}<dt class="small-words">by hand</dt>
            <dd>nothing: already loaded</dd>{/if}
          <dt class="small-words">then run</dt>
          <dd>
            {#each jobs as job, k (job)}{k > 0 ? ', ' : ''}<b>{job}</b>{/each}{jobs.length > 1
              ? ': they share this loading'
              : ''}
          </dd>
        </dl>
      </li>
    {/each}
  </ol>
  <p class="small-words mt-2">
    {data.locked.length > 0
      ? `${listed(data.locked)} stay: kept in a reserved pocket, or tied to a wide one.`
      : ''}
    {data.room.wide.length > 0
      ? `${listed([...data.room.wide])} ${data.room.wide.length === 1 ? 'is wide and takes' : 'are wide and take'} the pockets beside too: three places for one, five for two that share the gap.`
      : ''}
    What is needed soonest is kept. Pockets out of service or beside a declared wide tool are not counted.
  </p>
{:else if share === null}<p class="mt-5 text-lg">
    {data.programs.length === 0
      ? 'Bring a program in first.'
      : 'No job is open here: tick those of a shift or a week.'}
  </p>{/if}
