<script lang="ts">
  import { EXACT_JOBS, sisterOf, type bestOrder } from '$core/changer/switching';
  import type { SwitchAsk, SwitchNews } from '$lib/planner/switch-news';
  import SwitchWorker from '$lib/planner/switch.worker?worker';

  let { data } = $props();
  const word = (number: number) => {
    const { tool, sister } = sisterOf(number);
    return sister === 0 ? `T${tool}` : `a sister of T${tool}${sister > 1 ? ` (${sister})` : ''}`;
  };
  const listed = (tools: number[]) => (tools.length === 0 ? 'nothing' : tools.map(word).join(', '));

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
      ? JSON.stringify({
          jobs: data.jobs,
          places: data.count,
          loaded: data.loaded,
          locked: data.locked,
        } satisfies SwitchAsk)
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

<form class="no-print mt-4 grid gap-3 lg:grid-cols-[1fr_auto]">
  <fieldset>
    <legend class="heading">Which jobs are to run</legend>
    {#each data.programs as program (program.id)}
      <label class="flex min-h-11 items-center gap-2 border-b border-base-300"
        ><input
          class="checkbox"
          type="checkbox"
          name="program"
          value={program.id}
          checked={data.chosen.includes(program.id)}
        />
        <b>{program.number}</b>
        <span class="flex-1">{program.title}</span>
        <span class="small-words">{program.tools?.length ?? 0} tools</span></label
      >
    {:else}<p class="py-2">No program of {data.machine.name} is known yet.</p>{/each}
  </fieldset>
  <div class="flex flex-wrap items-end gap-3">
    <label class="grid gap-1"
      ><span>Places for tools, of {data.places}</span><input
        class="input w-28"
        name="places"
        inputmode="numeric"
        value={data.count}
      /></label
    >
    <label class="flex min-h-11 items-center gap-2"
      ><input class="checkbox" type="checkbox" name="sisters" value="yes" checked={data.sisters} /> a sister for
      each that would not last</label
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
  <ol class="mt-3 border-t-[3px] border-double border-base-content">
    {#each plan.steps as step, i (step.job)}
      <li class="grid gap-x-4 border-b border-base-300 py-2 text-lg sm:grid-cols-[2rem_8rem_1fr_1fr]">
        <b class="font-display">{i + 1}</b>
        <b>{step.job}</b>
        <span>before it, take out {listed(step.out)}</span>
        <span>bring in {listed(step.in)}</span>
      </li>
    {/each}
  </ol>
  <p class="small-words mt-2">
    {data.locked.length > 0
      ? `${listed(data.locked)} stay: kept in a reserved pocket, or tied to a wide one.`
      : ''}
    What is needed soonest is kept. Pockets out of service or beside a wide tool are not counted.
  </p>
{:else if share === null}<p class="mt-5 text-lg">Choose the jobs of a shift or a week.</p>{/if}
