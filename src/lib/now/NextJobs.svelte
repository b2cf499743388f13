<script lang="ts">
  import Field from '$lib/Field.svelte';
  import ArrowUp from '@lucide/svelte/icons/arrow-up';
  import { minutesAndSeconds } from '$core/shift/clock';
  import type { JobState } from '$core/shift/job';
  import ActionForm from '../ActionForm.svelte';
  import NumberField from '../NumberField.svelte';
  import ReasonForm from './ReasonForm.svelte';

  interface Waiting {
    id: number;
    programId: number;
    number: string;
    title: string;
    quantity: number;
    made: number;
    cycleMilliseconds: number;
    state: JobState;
    why: string;
  }
  interface Props {
    waiting: Waiting[];
    programs: {
      id: number;
      number: string;
      title: string;
      cutMilliseconds: number;
      lastCycle: number | null;
    }[];
    running: string | null;
    mayRun: boolean;
  }
  let { waiting, programs, running, mayRun }: Props = $props();
  // the first of them until another is chosen; what was chosen and typed stays when the page learns something
  let picked = $state<number | null>(null);
  const program = $derived(programs.some(({ id }) => id === picked) ? picked : (programs[0]?.id ?? null));
  const chosen = $derived(programs.find((each) => each.id === program) ?? programs[0]);
  /** Why a job is started that is not ready (common practice, no source). */
  const STARTED = [
    'tool is built during the first parts',
    'looked at with the programmer',
    'dry run, nothing is cut',
  ];
  let quantity = $state('');
  // how long it took the last time, until something else is typed
  let typed = $state<string | null>(null);
  const cycle = $derived(typed ?? (chosen?.lastCycle ? minutesAndSeconds(chosen.lastCycle) : ''));
  function pick(id: number | null) {
    picked = id;
    typed = null;
  }
</script>

<section aria-labelledby="next">
  <h2 id="next" class="heading">Next on the list</h2>
  <ol class="ruled-list mt-1">
    {#if waiting.length === 0}<li class="py-2">
        Nothing{#if mayRun && programs.length > 0}: add the next job below{/if}.
      </li>{/if}
    {#each waiting as job, i (job.id)}
      <li class="py-2">
        <div class="flex flex-wrap items-center gap-2">
          <span class="min-w-52 flex-1"
            ><b>{job.number}</b>
            {job.title}, {job.quantity} parts at {minutesAndSeconds(
              job.cycleMilliseconds,
            )}{#if job.state === 'paused'}<span class="block font-semibold text-accent"
                >paused at {job.made} of {job.quantity}: {job.why}</span
              >{/if}</span
          >
          <a class="btn" href="/programs/{job.programId}?quantity={Math.max(1, job.quantity - job.made)}"
            >Is it ready?</a
          >
          {#if mayRun && i > 0}
            <ActionForm action="?/ahead" label="Move {job.number} up">
              {#snippet children({ busy })}<input type="hidden" name="job" value={job.id} /><input
                  type="hidden"
                  name="of"
                  value={waiting[i - 1]!.id}
                /><button
                  class="btn btn-square"
                  disabled={busy}
                  title="Ahead of {waiting[i - 1]!.number}"
                  aria-label="{job.number} ahead of {waiting[i - 1]!.number}"><ArrowUp size={20} /></button
                >{/snippet}
            </ActionForm>
          {/if}
          {#if mayRun && !running}
            <ActionForm action="?/move" label="{job.state === 'paused' ? 'Take up' : 'Start'} {job.number}">
              {#snippet children({ busy })}<input type="hidden" name="job" value={job.id} /><input
                  type="hidden"
                  name="move"
                  value="start"
                /><button class="btn btn-primary" disabled={busy}
                  >{job.state === 'paused' ? 'Take up again' : 'Start'}</button
                >{/snippet}
            </ActionForm>
          {/if}
        </div>
        {#if mayRun && !running}
          <details>
            <summary class="inline-flex min-h-11 cursor-pointer items-center underline"
              >Start {job.number} though it is not ready</summary
            >
            <ReasonForm
              action="?/move"
              fields={{ job: job.id, move: 'start' }}
              label="Start {job.number} though it is not ready"
              button="Start it all the same"
              reasons={STARTED}
            />
          </details>
        {/if}
        {#if mayRun}
          <details>
            <summary class="inline-flex min-h-11 cursor-pointer items-center underline"
              >Change or {job.made > 0 ? 'stop' : 'remove'} {job.number}</summary
            >
            <ActionForm
              action="?/change"
              keep
              class="flex flex-wrap items-end gap-2"
              label="Change {job.number}"
            >
              {#snippet children({ busy })}
                <input type="hidden" name="job" value={job.id} />
                <input type="hidden" name="shownQuantity" value={job.quantity} />
                <input type="hidden" name="shownCycle" value={job.cycleMilliseconds} />
                <NumberField name="quantity" label="Parts" whole value={String(job.quantity)} class="w-28" />
                <Field label="Cycle, min:s"
                  ><input
                    class="input w-28"
                    name="cycle"
                    defaultValue={minutesAndSeconds(job.cycleMilliseconds)}
                  /></Field
                >
                <button class="btn" disabled={busy}>Change</button>
              {/snippet}
            </ActionForm>
            <ReasonForm
              action="?/move"
              fields={{ job: job.id, move: job.made > 0 ? 'finish' : 'remove' }}
              label={job.made > 0 ? `Stop ${job.number} at ${job.made}` : `Take ${job.number} off the list`}
              button={job.made > 0 ? `Stop at ${job.made}` : 'Take off the list'}
            />
          </details>
        {/if}
      </li>
    {/each}
  </ol>
  {#if running && waiting.length > 0 && mayRun}<p class="small-words mt-1">
      The next one is started once {running} is finished or paused.
    </p>{/if}
  {#if mayRun && programs.length > 0}
    <details class="mt-2">
      <summary class="inline-flex min-h-11 cursor-pointer items-center font-semibold underline"
        >Add a job to the list</summary
      >
      <ActionForm
        action="?/job"
        class="mt-2 grid items-end gap-2 sm:grid-cols-[2fr_1fr_1fr_auto]"
        label="New job"
        onDone={() => {
          quantity = '';
          typed = null;
        }}
      >
        {#snippet children({ busy })}
          <Field label="Program"
            ><select class="select" name="program" bind:value={() => program, pick} required
              >{#each programs as each (each.id)}<option value={each.id}>{each.number} {each.title}</option
                >{/each}</select
            ></Field
          >
          <NumberField name="quantity" label="Parts" whole bind:value={quantity} />
          <Field label="Cycle, min:s"
            ><input
              class="input"
              name="cycle"
              placeholder="9:30"
              bind:value={() => cycle, (now) => (typed = now)}
            /></Field
          >
          <button class="btn" disabled={busy}>Add</button>
          {#if chosen}<p class="small-words sm:col-span-4">
              Its tools cut for {minutesAndSeconds(chosen.cutMilliseconds)}; the cycle adds rapids, changes
              and handling to that{chosen.lastCycle
                ? `. It took ${minutesAndSeconds(chosen.lastCycle)} the last time`
                : ''}. The leaf foretells by cycles when tools run out.
            </p>{/if}
        {/snippet}
      </ActionForm>
    </details>
  {/if}
</section>
