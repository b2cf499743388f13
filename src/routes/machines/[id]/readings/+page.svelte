<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { FEATURE_WORDS } from '$core/inspection/feature';
  import { formatLength } from '$core/units/format-length';
  import { nanometres } from '$core/units/length';
  import ActionForm from '$lib/ActionForm.svelte';
  import Ladder from '$lib/Ladder.svelte';
  import ReadingAnswer from '$lib/machine/ReadingAnswer.svelte';
  import RunChart from '$lib/machine/RunChart.svelte';
  import type { Answered } from '$lib/machine/answered';

  let { data } = $props();
  const { unit } = $derived(data.machine);
  const wanted = $derived(Number(page.url.searchParams.get('feature')));
  let picked = $state<number | null>(null);
  const feature = $derived(
    data.features.find((each) => each.id === (picked ?? wanted)) ?? data.features[0] ?? null,
  );
  let answer = $state<Answered | null>(null);
  let typed = $state('');
  let field = $state<HTMLInputElement>();
  const last = $derived(feature?.readings.at(-1)?.measured ?? null);

  function choose(id: number) {
    picked = id;
    answer = null;
    typed = '';
    field?.focus();
  }
  function answered(done: Answered) {
    answer = done;
    if (done.readingId !== null) typed = '';
  }
</script>

<svelte:head><title>Readings on {data.machine.name} · Tin Almanac</title></svelte:head>

{#if !feature || !data.program}
  <p class="mt-6 text-lg">
    There is no measuring plan for what runs on {data.machine.name}.
    <a class="underline" href="/programs">Bring one in</a> with the program.
  </p>
{:else}
  <div class="mt-4 grid gap-6 lg:grid-cols-[0.8fr_1.2fr]">
    <section aria-labelledby="features">
      <h2 id="features" class="heading">{data.program.number} {data.program.title}</h2>
      {#if data.programs.length > 1}
        <select
          class="select mt-1"
          aria-label="Program"
          value={data.program.id}
          onchange={(event) => void goto(`?program=${event.currentTarget.value}`)}
        >
          {#each data.programs as program (program.id)}<option value={program.id}
              >{program.number} {program.title}</option
            >{/each}
        </select>
      {/if}
      <select
        class="select mt-1 md:hidden"
        aria-label="Feature"
        value={feature.id}
        onchange={(event) => choose(Number(event.currentTarget.value))}
      >
        {#each data.features as each (each.id)}<option value={each.id}>{each.name}</option>{/each}
      </select>
      <ul class="mt-2 border-t-[3px] border-double border-base-content max-md:hidden">
        {#each data.features as each (each.id)}
          <li class="border-b border-base-300">
            <button
              type="button"
              class={[
                'flex min-h-12 w-full items-center gap-3 px-2 text-left',
                each.id === feature.id ? 'bg-primary text-primary-content' : 'hover:bg-base-300',
              ]}
              aria-pressed={each.id === feature.id}
              onclick={() => choose(each.id)}
            >
              <span class="flex-1 font-semibold">{each.name}</span>
              <span class="font-narrow text-sm"
                >{formatLength(each.nominal, unit)}
                {formatLength(each.upper, unit, { sign: 'always' })}/{formatLength(each.lower, unit, {
                  sign: 'always',
                })}</span
              >
            </button>
          </li>
        {/each}
      </ul>
    </section>

    <section aria-labelledby="feature" class="grid content-start gap-4">
      <div class="grid gap-4 sm:grid-cols-[1fr_auto]">
        <div>
          <h2 id="feature" class="text-2xl">{feature.name}</h2>
          <p class="small-words">
            {FEATURE_WORDS[feature.kind]}, T{feature.tool} row {feature.row}{feature.gauge
              ? `, with ${feature.gauge}`
              : ''}
          </p>
          {#key feature.id}
            <ActionForm action="?/take" class="mt-3 grid gap-3" label="Type a reading" keep onDone={answered}>
              {#snippet children({ busy })}
                <input type="hidden" name="feature" value={feature.id} /><input
                  type="hidden"
                  name="program"
                  value={data.program!.id}
                /><input
                  type="hidden"
                  name="job"
                  value={data.job?.programId === data.program!.id ? data.job.id : ''}
                />
                <label class="grid gap-1">
                  <span class="font-semibold">Reading, {unit}</span>
                  <input
                    bind:this={field}
                    class="input h-16 font-display text-3xl"
                    name="measured"
                    inputmode="text"
                    autocomplete="off"
                    bind:value={typed}
                    oninput={() => (answer = null)}
                    required
                  />
                  <span class="small-words"
                    >Or with mm, in or thou behind it; sums such as 1.3791-0.0004 too.</span
                  >
                </label>
                <div class="flex flex-wrap items-end gap-4">
                  <label class="grid w-28 gap-1"
                    ><span class="font-semibold">Part</span><input
                      class="input"
                      name="part"
                      inputmode="numeric"
                      value={data.job?.made ?? 0}
                      required
                    /></label
                  >
                  <label class="flex min-h-11 items-center gap-2"
                    ><input class="checkbox" type="checkbox" name="firstOff" /> after a set-up (first-off)</label
                  >
                </div>
                {#if answer?.answer.verdict === 'measureAgain'}
                  <label class="caution flex min-h-11 items-center gap-3"
                    ><input class="checkbox" type="checkbox" name="confirmed" /> I measured again and got the same.</label
                  >
                {/if}
                <button class="btn h-14 text-lg btn-primary" disabled={busy}>What do I do?</button>
              {/snippet}
            </ActionForm>
          {/key}
        </div>
        <div class="w-64 max-w-full">
          <Ladder
            {...feature}
            {unit}
            reading={last}
            uncertainty={nanometres(Math.round(feature.deadBand / 2))}
            expected={answer?.answer.verdict === 'change' ? answer.answer.expectedSize : null}
            height={250}
          />
        </div>
      </div>
      {#if answer}<ReadingAnswer {answer} {unit} row={feature.row} machine={data.machine.name} />{/if}
      {#if feature.readings.length > 1}<RunChart {feature} {unit} />{/if}
    </section>
  </div>
{/if}
