<script lang="ts">
  import { countOf, leftOf, type BoardJob } from '$core/readiness/board';

  let { data } = $props();
  const { machines } = $derived(data);
  const HEADS = {
    stop: 'not ready',
    unknown: 'cannot tell',
    look: 'to be looked at',
    ready: 'ready',
  } as const;
  const MARKS = { stop: '■', unknown: '?', look: '□', settled: '✓' } as const;
  const hours = (milliseconds: number) => {
    const minutes = Math.round(milliseconds / 60_000);
    return minutes < 60
      ? `${minutes} min`
      : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}`;
  };
  const turn = ({ after }: BoardJob) => (after === 0 ? 'at once' : `after ${hours(after)} of running`);
  const few = $derived(
    (['stop', 'unknown', 'look', 'ready'] as const).flatMap((of) => {
      const count = countOf(machines, of);
      return count === 0 ? [] : [`${count} ${HEADS[of]}`];
    }),
  );
</script>

<svelte:head><title>Board · Tin Almanac</title></svelte:head>

<header class="mt-5 flex flex-wrap items-end gap-4">
  <h1 class="text-3xl">Board</h1>
  <p class="small-words pb-1">the next jobs of each machine, worst first</p>
  <a class="btn ml-auto" href="/today">Work now</a>
</header>
<p class="mt-1 text-lg font-semibold" role="status">
  {few.length === 0 ? 'No job waits.' : `Next jobs: ${few.join(', ')}.`}
</p>

<div class="mt-4 grid items-start gap-x-8 gap-y-7 lg:grid-cols-2">
  {#each machines as { machineId, machine, running, next, behind } (machineId)}
    <section aria-labelledby="m{machineId}">
      <h2 id="m{machineId}" class="heading flex flex-wrap items-baseline gap-x-4">
        <a class="underline" href="/machines/{machineId}/now">{machine}</a>
        <span class="small-words"
          >{running
            ? `${running.number} ${running.made} of ${running.quantity}, ${hours(leftOf(running))} left`
            : 'nothing runs'}</span
        >
      </h2>
      <ol class="ruled-list mt-1">
        {#if next.length === 0}<li class="py-2">Nothing on its list.</li>{/if}
        {#each next as job (job.jobId)}
          <li class="py-2">
            <a
              class="flex min-h-11 flex-wrap items-baseline gap-x-3 hover:bg-base-300"
              href="/programs/{job.programId}?quantity={Math.max(1, job.quantity - job.made)}"
            >
              <b class="font-display">{job.number}</b>
              <span class="min-w-0 flex-1">{job.title}, {job.quantity - job.made} parts, {turn(job)}</span>
              <span
                class={[
                  'font-display text-lg font-semibold',
                  (job.verdict === 'stop' || job.verdict === 'unknown') && 'text-accent',
                ]}>{HEADS[job.verdict]}</span
              >
            </a>
            {#if job.against.length > 0}
              <ul class="mt-1 grid gap-0.5">
                {#each job.against as finding, i (i)}
                  <li class="grid grid-cols-[1.2rem_1fr] gap-x-1">
                    <span
                      aria-hidden="true"
                      class={finding.weight === 'stop' || finding.weight === 'unknown' ? 'text-accent' : ''}
                      >{MARKS[finding.weight]}</span
                    ><span>{finding.sentence}</span>
                  </li>
                {/each}
                {#if job.more > 0}<li class="small-words pl-5">and {job.more} more</li>{/if}
              </ul>
            {/if}
          </li>
        {/each}
      </ol>
      {#if behind > 0}<p class="small-words mt-1">{behind} more on its list.</p>{/if}
    </section>
  {/each}
</div>
