<script lang="ts">
  import { METHOD_WORDS } from '$core/breakage/tool-check';
  import ActionForm from '$lib/ActionForm.svelte';
  import Callers from '$lib/breakage/Callers.svelte';
  import PartAnswers from '$lib/breakage/PartAnswers.svelte';
  import { checkWords } from '$lib/breakage/shown';
  import { shortTime } from '$lib/time';

  let { data } = $props();
  const { of, assembly, machine } = $derived(data);
  const zone = $derived(data.cell!.timeZone);
  const when = (at: Date) => shortTime(at, data.now, zone);
  const closed = $derived(of.closedAt !== null);
  const name = $derived(of.tool === null ? assembly.number : `T${of.tool} (${assembly.number})`);
  const steps = $derived([
    {
      done: data.open === 0,
      words: 'Parts inspected',
      by: data.held === 0 ? 'none is suspect' : `${data.held - data.open} of ${data.held}`,
    },
    {
      done: data.replaced !== null,
      words: 'Tool replaced',
      by: data.replaced && `${data.replaced.person}, ${when(data.replaced.at)}`,
    },
    {
      done: data.measured !== null,
      words: 'Measured',
      by: data.measured && `${data.measured.person}, ${when(data.measured.at)}`,
    },
    { done: closed, words: 'Cleared', by: of.closedBy && `${of.closedBy}, ${when(of.closedAt!)}` },
  ]);
</script>

<svelte:head><title>{assembly.number} broken · Tin Almanac</title></svelte:head>

<header class="mt-4 flex flex-wrap items-end gap-x-5 border-b-[3px] border-double border-base-content pb-2">
  <h1 class="text-3xl">{assembly.number} {of.verdict === 'broken' ? 'broke' : 'pulled out'}</h1>
  <p class="text-xl">{assembly.name}</p>
  <p class="ml-auto flex gap-4">
    {#if machine}<a
        class="inline-flex min-h-11 items-center underline"
        href="/machines/{machine.id}/checks?tool={of.tool}">{machine.name} T{of.tool}</a
      >{/if}
    <a class="inline-flex min-h-11 items-center underline" href="/tools/{assembly.id}">The tool</a>
  </p>
</header>

{#if closed}
  <p class="mt-3 text-lg font-semibold">
    {of.outcome === 'cleared' ? 'Cleared' : 'It was a mistake'}: {of.closedBy}, {when(of.closedAt!)}.
  </p>
{:else}
  <p class="caution mt-3 text-lg font-semibold" role="status">
    {data.open > 0
      ? `${data.open} ${data.open === 1 ? 'part is' : 'parts are'} held back. No sister of ${name} takes over.`
      : data.lacks.length > 0
        ? data.lacks.join(' ')
        : 'All is done: clear it, and it may cut again.'}
  </p>
{/if}
<p class="mt-1">{of.openedBy}, {when(of.openedAt)}: {of.why}</p>
<p class="small-words">
  {#if data.lastGood}
    Last known to be whole: {data.lastGood.how === 'measured'
      ? 'measured before it cut'
      : `checked ${METHOD_WORDS[data.lastGood.how as keyof typeof METHOD_WORDS]}`}{data.lastGood.afterPart !==
    null
      ? ` after part ${data.lastGood.afterPart}`
      : ''}, {when(data.lastGood.at)}.
  {:else}No good check of it is on record: every part that it cut is held back.{/if}
</p>

<ol class="mt-3 grid gap-x-4 gap-y-1 sm:grid-cols-4">
  {#each steps as step, i (step.words)}
    <li class="border-t-[3px] pt-1 {step.done ? 'border-base-content' : 'border-base-300'}">
      <span class="font-display text-lg font-semibold">{step.done ? '●' : i + 1} {step.words}</span>
      <span class="small-words block">{step.by ?? 'not yet'}</span>
    </li>
  {/each}
</ol>

<div class="mt-5 grid gap-8 lg:grid-cols-[1.7fr_1fr]">
  <section aria-labelledby="parts">
    <h2 id="parts" class="heading">Parts since then</h2>
    {#if data.held === 0}<p class="mt-1">It cut nothing since: no part is suspect.</p>{/if}
    <PartAnswers
      parts={data.listed}
      jobs={data.jobs}
      open={data.open}
      next={data.next}
      mayInspect={data.mayInspect}
      {closed}
      now={data.now}
      {zone}
    />
    {#each data.scrap as job (job.id)}
      {@const one = job.here === 1}
      <p class="caution mt-2">
        {job.here} of {job.number}
        {one ? 'is' : 'are'} scrap here, and {job.scrapped === 0 ? 'none' : job.scrapped} on record with its job:
        <a class="underline" href="/machines/{job.machineId}/now"
          >write {one ? 'it' : 'them'} down at its parts</a
        >, and {one ? 'it is' : 'they are'} made again.
      </p>
    {/each}
    {#if !closed}
      <div class="mt-5 flex flex-wrap items-center gap-3">
        {#if !data.replaced && data.mayRenew}<a class="btn" href="/tools/{assembly.id}#renewal"
            >{data.renewing ? 'Go on with its renewal' : 'Replace it'}</a
          >{:else if data.replaced && !data.measured}<a class="btn" href="/tools/{assembly.id}#renewal"
            >Measure it</a
          >{/if}
        {#if data.mayClear}
          <ActionForm action="?/clear" label="Clear it">
            {#snippet children({ busy })}<button
                class={['btn', data.lacks.length === 0 && 'btn-primary']}
                disabled={busy || data.lacks.length > 0}>Clear it</button
              >{/snippet}
          </ActionForm>
          {#if data.lacks.length > 0}<span class="small-words">{data.lacks.join(' ')}</span>{/if}
        {/if}
      </div>
      {#if data.mayClear && !data.replaced}
        <details class="mt-2">
          <summary class="inline-flex min-h-11 cursor-pointer items-center underline"
            >It was not broken</summary
          >
          {#if data.mayWithdraw}
            <ActionForm
              action="?/withdraw"
              class="grid gap-2 sm:grid-cols-[1fr_auto]"
              label="It was not broken"
            >
              {#snippet children({ busy })}
                <input
                  class="input w-full"
                  name="why"
                  required
                  maxlength="300"
                  aria-label="What it was"
                  placeholder="a chip on the setter, the wrong tool in the spindle …"
                />
                <button class="btn" disabled={busy}>Let the parts go</button>
              {/snippet}
            </ActionForm>
          {:else}<p>
              Check it again first{#if machine}, <a
                  class="underline"
                  href="/machines/{machine.id}/checks?tool={of.tool}">here</a
                >{/if}: only a check that finds it whole shows that it was a mistake.
            </p>{/if}
        </details>
      {/if}
    {/if}
  </section>
  <div class="grid content-start gap-6">
    <section aria-labelledby="inspect">
      <h2 id="inspect" class="heading">What to look for</h2>
      <ul class="mt-1 list-disc pl-5">
        {#each data.inspect as each (each)}<li>{each}</li>{/each}
      </ul>
    </section>
    {#each data.later as { program, cuts } (program)}
      <section aria-label="After it in {program}">
        <h2 class="heading">After it in {program}</h2>
        <ul class="ruled-list mt-1">
          {#each cuts as cut (cut.tool)}<li class={['py-1', cut.hurt && 'font-semibold']}>
              {cut.sentence}
            </li>{:else}<li class="py-1">Nothing cut the part after it.</li>{/each}
        </ul>
      </section>
    {/each}
    <section aria-labelledby="callers">
      <h2 id="callers" class="heading">{closed ? 'Who calls it' : 'Stopped by it'}</h2>
      <Callers programs={data.callers.programs} plans={data.callers.plans} {closed} />
    </section>
    {#if data.checks.length > 0}
      <section aria-labelledby="checks">
        <h2 id="checks" class="heading">Its checks</h2>
        <ol class="ruled-list mt-1 font-narrow">
          {#each data.checks as check (check.id)}<li class="py-1">
              {METHOD_WORDS[check.method]}: {checkWords(check, machine?.unit ?? 'mm')}
              <span class="small-words"
                >{check.part === null ? '' : `after part ${check.part}, `}{check.person}, {when(
                  check.at,
                )}</span
              >
            </li>{/each}
        </ol>
      </section>
    {/if}
  </div>
</div>
