<script lang="ts">
  import { capital } from '$core/words/capital';
  import { POLICIES, POLICY_WORDS } from '$core/correction/policies';
  import Scroll from '$lib/Scroll.svelte';
  import { formatLength } from '$core/units/format-length';
  import { nanometres } from '$core/units/length';
  import { SCHOOLS } from './schools';
  import SchoolChart from './SchoolChart.svelte';

  let { data } = $props();
  const unit = $derived(data.machine.unit);
  const written = (value: number, sign?: 'always') =>
    formatLength(nanometres(Math.round(value)), unit, { decimals: unit === 'mm' ? 4 : 5, sign });
  const signed = (value: number) => written(value, 'always');
  const tells = $derived(SCHOOLS[data.policy]);
  const walked = $derived(data.walked ?? []);
  const partAt = $derived(new Map(data.points.map(({ at, part }) => [at, part])));
  const rms = (values: number[]) => Math.hypot(...values) / Math.sqrt(Math.max(1, values.length));
  const out = (value: number) => value < data.limits!.lower || value > data.limits!.upper;
  /** A new edge, or a change: nothing else is worth a line of the table. */
  const lines = $derived(
    walked
      .map((each, i) => ({ ...each, begins: i > 0 && each.edge !== walked[i - 1]!.edge }))
      .filter(({ change, begins, measured }) => change !== 0 || begins || out(measured))
      .reverse(),
  );
  const LONGEST = 60;
</script>

<svelte:head
  ><title>Correct {POLICY_WORDS[data.policy]}, {data.program.number} · Tin Almanac</title></svelte:head
>

<header
  class="mt-4 flex flex-wrap items-end gap-x-5 gap-y-2 border-b-[3px] border-double border-base-content pb-2"
>
  <h1 class="text-3xl">{capital(POLICY_WORDS[data.policy])}</h1>
  {#if data.feature}<p class="text-xl">
      on the past of <a
        class="underline"
        href="/programs/{data.program.id}/drift?feature={data.feature.id}#lab">{data.feature.name}</a
      >, {data.program.number}
    </p>{/if}
</header>
<nav class="mt-2 flex flex-wrap gap-x-4" aria-label="Schools">
  {#each POLICIES as policy (policy)}<a
      class={['inline-flex min-h-11 items-center', policy === data.policy ? 'font-semibold' : 'underline']}
      aria-current={policy === data.policy ? 'page' : undefined}
      href="/programs/{data.program.id}/drift/{policy}?feature={data.feature?.id ?? ''}"
      >{POLICY_WORDS[policy]}{policy === data.feature?.policy ? ' (in use)' : ''}</a
    >{/each}
</nav>

<p class="mt-2 text-lg">{tells.does}</p>
<p class="mt-1"><b>Right:</b> {tells.right}</p>
<p class="mt-1"><b>Wrong:</b> {tells.wrong}</p>

{#if !data.feature || walked.length < 2}
  <p class="mt-4">
    It is tried on sizes that answer to one row of their own, with two readings or more: this one does not, or
    was measured too little.
  </p>
{:else}
  <div class="mt-4 grid gap-6 lg:grid-cols-[1fr_20rem]">
    <SchoolChart
      {walked}
      points={data.points}
      limits={data.limits!}
      feature={data.feature}
      {unit}
      words="{walked.length} parts of {data.feature.name} as they were and as they would have been"
    />
    <dl class="grid content-start gap-x-4 gap-y-1">
      <dt class="small-words">Off the aim, as they were</dt>
      <dd class="font-display text-2xl">
        {written(rms(data.points.map(({ deviation }) => deviation)))}
        {unit}
      </dd>
      <dt class="small-words">Off the aim, by this school</dt>
      <dd class="font-display text-2xl">{written(rms(walked.map(({ measured }) => measured)))} {unit}</dd>
      <dt class="small-words">Out of limits</dt>
      <dd class="text-lg">
        {walked.filter(({ measured }) => out(measured)).length} of {walked.length}, where
        {data.points.filter(({ deviation }) => out(deviation)).length} were
      </dd>
      <dt class="small-words">Corrections keyed</dt>
      <dd class="text-lg">{walked.filter(({ change }) => change !== 0).length}</dd>
      {#if ['average', 'ewma', 'trend'].includes(data.policy)}
        <dt class="small-words">Remembers</dt>
        <dd class="text-lg">{data.averageOf} parts</dd>
      {/if}
      {#if !['model', 'everyPart', 'harmonic'].includes(data.policy)}
        <dt class="small-words">Dead band</dt>
        <dd class="text-lg">± {written(data.deadBand!)} {unit}</dd>
      {/if}
    </dl>
  </div>
  <section class="mt-6" aria-labelledby="sums">
    <h2 id="sums" class="text-2xl">Its corrections, with the sum</h2>
    {#if lines.length === 0}<p class="mt-1">It would have keyed nothing.</p>{:else}
      <Scroll label="Corrections of this school">
        <table class="ruled mt-2">
          <thead
            ><tr
              ><th scope="col">Part</th><th scope="col" class="number">Measured off, {unit}</th><th
                scope="col">It takes</th
              ><th scope="col" class="number">to be off</th><th scope="col" class="number">Row holds</th><th
                scope="col"
                class="number">and is keyed by</th
              ></tr
            ></thead
          >
          <tbody>
            {#each lines.slice(0, LONGEST) as each (each.at)}
              <tr>
                <th scope="row">{partAt.get(each.at) ?? ''}{each.begins ? ', new edge' : ''}</th>
                <td class="number">{signed(each.measured)}{out(each.measured) ? ', out' : ''}</td>
                <td
                  >{each.wait && each.change === 0 ? `nothing: ${each.wait}` : each.words.replace(/,$/, '')}
                  {#each each.sums as sum, i (i)}<span class="small-words block">{sum}</span>{/each}</td
                >
                <td class="number">{signed(each.deviation)}</td>
                <td class="number">{signed(each.held)}</td>
                <td class="number"><b>{each.change === 0 ? 'nothing' : signed(each.change)}</b></td>
              </tr>
            {/each}
          </tbody>
        </table>
      </Scroll>
      {#if lines.length > LONGEST}<p class="small-words mt-1">
          The newest {LONGEST} of {lines.length} are shown.
        </p>{/if}
    {/if}
  </section>
{/if}
