<script lang="ts">
  import { invalidateAll } from '$app/navigation';
  import ActionForm from '$lib/ActionForm.svelte';
  import Disc from '$lib/Disc.svelte';
  import { minutesAndSeconds } from '$lib/time';
  import { onMount } from 'svelte';

  let { data } = $props();
  let parts = $state(1);
  let expired = $state<string[]>([]);
  const ahead = $derived(data.control?.ok && data.job ? data.control.count - data.job.made : 0);

  // the control's count is asked for again now and then, as long as the page is looked at
  onMount(() => {
    const timer = setInterval(
      () => document.visibilityState === 'visible' && data.control && void invalidateAll(),
      15_000,
    );
    return () => clearInterval(timer);
  });
  const told = (done: { expired: string[] } | null) => (expired = done?.expired ?? []);
</script>

<svelte:head><title>{data.machine.name} runs · Tin Almanac</title></svelte:head>

<div class="mt-4 grid gap-6 lg:grid-cols-[1fr_1.1fr]">
  <div class="grid content-start gap-5">
    {#if data.job}
      <section class="plate" aria-labelledby="job">
        <h2 id="job" class="text-xl">
          <a class="underline" href="/programs/{data.job.programId}">{data.job.number}</a>
          {data.job.title}
        </h2>
        <p class="mt-2 font-display text-5xl font-bold">
          {data.job.made} <span class="text-2xl font-normal">of {data.job.quantity}</span>
        </p>
        <progress
          class="progress mt-2 w-full"
          value={data.job.made}
          max={data.job.quantity}
          aria-label="Parts made"
        ></progress>
        <p class="small-words">
          One cycle takes {minutesAndSeconds(data.job.cycleMilliseconds)} and makes {data.job.partsPerCycle}
          {data.job.partsPerCycle === 1 ? 'part' : 'parts'}.
        </p>

        {#if data.mayRecord}
          {#if data.control?.ok && ahead > 0}
            <ActionForm action="?/parts" class="mt-4" label="Record the control's count" onDone={told}>
              {#snippet children({ busy })}
                <input type="hidden" name="job" value={data.job!.id} /><input
                  type="hidden"
                  name="before"
                  value={data.job!.made}
                /><input type="hidden" name="parts" value={ahead} /><input
                  type="hidden"
                  name="source"
                  value="from the control's count"
                />
                <p>
                  The control has counted {data.control?.ok ? data.control.count : ''}, the record {data.job!
                    .made}.
                </p>
                <button class="btn mt-1 h-14 w-full text-lg btn-primary" disabled={busy} data-key="r"
                  >Record {ahead}
                  {ahead === 1 ? 'part' : 'parts'} <span class="key-hint" aria-hidden="true">r</span></button
                >
              {/snippet}
            </ActionForm>
          {:else if data.control?.ok && ahead < 0}
            <p class="caution mt-4">
              The control has counted {data.control.count}, fewer than the record: was it reset? Write a
              question on the leaf if nobody knows.
            </p>
          {:else if data.control}
            <p class="small-words mt-4">
              {data.control.ok ? 'The control’s count agrees with the record.' : data.control.reason}
            </p>
          {/if}
          <ActionForm action="?/parts" class="mt-4" label="Record parts" onDone={told}>
            {#snippet children({ busy })}
              <input type="hidden" name="job" value={data.job!.id} /><input
                type="hidden"
                name="before"
                value={data.job!.made}
              /><input type="hidden" name="source" value="typed" />
              <div class="grid grid-cols-[3.5rem_1fr_3.5rem_auto] gap-2">
                <button
                  type="button"
                  class="btn h-14 text-2xl"
                  aria-label="One fewer"
                  onclick={() => (parts = Math.max(1, Number(parts) - 1))}>−</button
                >
                <input
                  class="input h-14 text-center text-2xl"
                  name="parts"
                  inputmode="numeric"
                  aria-label="Parts made"
                  bind:value={parts}
                  required
                />
                <button
                  type="button"
                  class="btn h-14 text-2xl"
                  aria-label="One more"
                  onclick={() => (parts = Number(parts) + 1)}>+</button
                >
                <button class="btn h-14" disabled={busy}>Record</button>
              </div>
            {/snippet}
          </ActionForm>
          {#if expired.length > 0}
            <p role="alert" class="caution mt-3 text-lg font-semibold">
              {expired.join(', ')}
              {expired.length === 1 ? 'is' : 'are'} expired now. The part in the machine is finished with it; renew
              it before the next.
            </p>
          {/if}
        {/if}
        {#if data.mayRun}
          <ActionForm action="?/move" class="mt-4" label="Finish the job">
            {#snippet children({ busy })}
              <input type="hidden" name="job" value={data.job!.id} /><input
                type="hidden"
                name="to"
                value="done"
              />
              <button class="btn" disabled={busy}>This job is finished</button>
            {/snippet}
          </ActionForm>
        {/if}
      </section>
    {:else}<p class="text-lg">No job is running.</p>{/if}

    <section aria-labelledby="next">
      <h2 id="next" class="heading">Next on the list</h2>
      <ul class="mt-1 border-t-[3px] border-double border-base-content">
        {#if data.waiting.length === 0}<li class="py-2">Nothing.</li>{/if}
        {#each data.waiting as job (job.id)}
          <li class="flex flex-wrap items-center gap-3 border-b border-base-300 py-2">
            <span class="flex-1"><b>{job.number}</b> {job.title}, {job.quantity} parts</span>
            <a class="btn" href="/programs/{job.programId}?quantity={job.quantity}">Is it ready?</a>
            {#if data.mayRun && !data.job}
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
      {#if data.mayRun && data.programs.length > 0}
        <details class="mt-2">
          <summary class="inline-flex min-h-11 cursor-pointer items-center font-semibold underline"
            >Add a job to the list</summary
          >
          <ActionForm action="?/job" class="mt-2 grid gap-2 sm:grid-cols-[2fr_1fr_1fr_auto]" label="New job">
            {#snippet children({ busy })}
              <select class="select" name="program" aria-label="Program" required
                >{#each data.programs as program (program.id)}<option value={program.id}
                    >{program.number} {program.title}</option
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
            {/snippet}
          </ActionForm>
        </details>
      {/if}
    </section>
  </div>

  <section aria-labelledby="lives">
    <h2 id="lives" class="heading">Life left, soonest first</h2>
    <div class="mt-1 overflow-x-auto">
      <table class="ruled">
        <thead
          ><tr
            ><th scope="col">T</th><th scope="col">Tool</th><th scope="col">Left</th><th
              scope="col"
              class="number">Parts</th
            ></tr
          ></thead
        >
        <tbody>
          {#each data.tools as tool (tool.assemblyId)}
            <tr>
              <th scope="row">{tool.tool}</th>
              <td><a class="underline" href="/tools/{tool.assemblyId}">{tool.number}</a> {tool.name}</td>
              <td
                ><Disc
                  remaining={tool.remaining}
                  fullLife={tool.fullLife}
                  basis={tool.basis}
                  flag={tool.flag}
                /></td
              >
              <td class={['number font-display text-lg font-semibold', tool.parts === 0 && 'text-accent']}
                >{tool.parts}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
    <p class="small-words mt-2">
      {data.machine.expiry === 'atZero'
        ? 'On this machine a counter expires when it reaches zero.'
        : 'On this machine a counter expires below zero: to get N uses, N − 1 is keyed.'} A tool that expires in
      the cut finishes its part.
    </p>
  </section>
</div>
