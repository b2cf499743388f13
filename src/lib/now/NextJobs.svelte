<script lang="ts">
  import ActionForm from '../ActionForm.svelte';
  import { minutesAndSeconds } from '../time';

  interface Props {
    waiting: { id: number; programId: number; number: string; title: string; quantity: number }[];
    programs: { id: number; number: string; title: string; cutMilliseconds: number }[];
    running: boolean;
    mayRun: boolean;
  }
  let { waiting, programs, running, mayRun }: Props = $props();
  // the first of them until another is chosen
  let program = $derived(programs[0]?.id ?? null);
  const chosen = $derived(programs.find((each) => each.id === program) ?? programs[0]);
</script>

<section aria-labelledby="next">
  <h2 id="next" class="heading">Next on the list</h2>
  <ul class="mt-1 border-t-[3px] border-double border-base-content">
    {#if waiting.length === 0}<li class="py-2">Nothing.</li>{/if}
    {#each waiting as job (job.id)}
      <li class="flex flex-wrap items-center gap-3 border-b border-base-300 py-2">
        <span class="flex-1"><b>{job.number}</b> {job.title}, {job.quantity} parts</span>
        <a class="btn" href="/programs/{job.programId}?quantity={job.quantity}">Is it ready?</a>
        {#if mayRun && !running}
          <ActionForm action="?/move" label="Start {job.number}">
            {#snippet children({ busy })}<input type="hidden" name="job" value={job.id} /><input
                type="hidden"
                name="to"
                value="running"
              /><button class="btn btn-primary" disabled={busy}>Start</button>{/snippet}
          </ActionForm>
        {/if}
      </li>
    {/each}
  </ul>
  {#if mayRun && programs.length > 0}
    <details class="mt-2">
      <summary class="inline-flex min-h-11 cursor-pointer items-center font-semibold underline"
        >Add a job to the list</summary
      >
      <ActionForm action="?/job" class="mt-2 grid gap-2 sm:grid-cols-[2fr_1fr_1fr_auto]" label="New job">
        {#snippet children({ busy })}
          <select class="select" name="program" aria-label="Program" bind:value={program} required
            >{#each programs as each (each.id)}<option value={each.id}>{each.number} {each.title}</option
              >{/each}</select
          >
          <input
            class="input"
            name="quantity"
            inputmode="numeric"
            placeholder="parts"
            aria-label="Quantity"
            required
          />
          <input
            class="input"
            name="cycle"
            placeholder="cycle 9:30"
            aria-label="Cycle time, minutes:seconds"
            required
          />
          <button class="btn" disabled={busy}>Add</button>
          {#if chosen}<p class="small-words sm:col-span-4">
              Its tools cut for {minutesAndSeconds(chosen.cutMilliseconds)}; the cycle adds rapids, changes
              and handling to that. The forecast of the leaf counts in cycles.
            </p>{/if}
        {/snippet}
      </ActionForm>
    </details>
  {/if}
</section>
