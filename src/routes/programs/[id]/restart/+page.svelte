<script lang="ts">
  import { capital } from '$core/words/capital';
  import { DANGERS } from '$core/program/restart';
  import { minutesAndSeconds } from '$core/shift/clock';
  import Interruptions from '$lib/program/Interruptions.svelte';
  import Lines from '$lib/program/Lines.svelte';
  import Stood from './Stood.svelte';

  let { data } = $props();
  const { program, machine } = $derived(data);
  const restart = $derived(data.answer?.ok ? data.answer.restart : null);
  const again = $derived(restart?.back ? minutesAndSeconds(Math.round(restart.back.seconds * 1000)) : '');
  /** Behind the title: what no word brings back. */
  const byHand = $derived(restart?.back?.text.slice(1).some((line) => line.startsWith('(')) ?? false);
</script>

<svelte:head><title>{program.number} again · Tin Almanac</title></svelte:head>

<header class="mt-4 flex flex-wrap items-end gap-x-5 border-b-[3px] border-double border-base-content pb-2">
  <h1 class="text-3xl">Begin again</h1>
  <p class="text-lg">
    <a class="underline" href="/programs/{program.id}">{program.number}</a>
    {program.title}, {machine.name}
  </p>
</header>

<form method="GET" class="mt-3 flex flex-wrap items-end gap-3" aria-label="Where it stopped">
  <label class="grid gap-1"
    ><span class="small-words">It stopped before line</span><input
      class="input w-28 text-lg"
      name="line"
      inputmode="numeric"
      autocomplete="off"
      required
      defaultValue={data.typed}
      aria-invalid={data.problem ? 'true' : undefined}
    /></label
  >
  <button class="btn btn-primary">How may it go on?</button>
  {#if data.problem}<p role="alert" class="font-semibold text-accent">{data.problem}</p>{/if}
</form>

{#if data.answer && !data.answer.ok}
  <p class="caution mt-4 font-semibold" role="status">{data.answer.reason}</p>
{:else if restart}
  <p class="mt-4 text-xl font-semibold" role="status">
    {#if restart.back}
      Begin again at line {restart.back.line}, the call of T{restart.tool}: {again} of cutting is done again{restart
        .back.holes > 0
        ? `, ${restart.back.holes} holes among them`
        : ''}.
    {:else}
      There is no safe place but the top of the program: {restart.notBack}.
    {/if}
    {restart.here
      ? `Line ${restart.line} itself is possible too, see below.`
      : `Not from line ${restart.line} itself.`}
  </p>
  <div class="mt-4 grid gap-x-8 gap-y-6 lg:grid-cols-2">
    <div class="grid content-start gap-6">
      {#if restart.dangers.length > 0}
        <section aria-labelledby="why">
          <h2 id="why" class="heading">Why not from line {restart.line}</h2>
          <ul class="ruled-list mt-1">
            {#each restart.dangers as danger (danger)}<li class="py-1.5">
                {capital(DANGERS[danger])}.
                {#if danger === 'unknown'}{#each restart.doubts.slice(0, 3) as doubt, i (i)}<span
                      class="small-words block">Line {doubt.line}: {doubt.text}</span
                    >{/each}{/if}
                {#if danger === 'frame'}{#each restart.stand.frames as { code, line } (code)}<span
                      class="small-words block">G{code} on line {line}.</span
                    >{/each}{/if}
                {#if danger === 'writes'}<span class="small-words"
                    >Line {restart.writes.slice(0, 5).join(', ')}.</span
                  >{/if}
              </li>{/each}
          </ul>
        </section>
      {/if}
      {#if restart.back}<Lines
          title="To have in force at line {restart.back.line}"
          lines={restart.back.text}
          words="Enter it by hand, or as a program of its own; then search for the line and start there.{byHand
            ? ' What stands in brackets no control does: see to it yourself, before.'
            : ''}"
        />{/if}
      {#if restart.here}<Lines
          title="To come to line {restart.line} itself"
          lines={restart.here}
          words="It calls the tool, starts the spindle, goes over the place high up, then down by feed. The path to the place must be free; nobody but you can see that."
        />{/if}
      <section aria-labelledby="order">
        <h2 id="order" class="heading">In this order</h2>
        <ol class="mt-1 list-decimal pl-6">
          <li>Spindle: the tool clear of the part, then turning as it should.</li>
          <li>{machine.kind === 'mill' ? 'X and Y, with Z high up' : 'X, well clear of the part'}.</li>
          <li>Z, in single block, rapids low, a hand on feed hold; distance to go against a scale.</li>
        </ol>
        <p class="caution mt-2">
          Look at the part first: what stopped it may have moved it, or broken the tool. The machine’s manual
          and the site’s rules come first. If T{restart.tool} is replaced, measure it: its own length{restart
            .stand.radius.on
            ? ', and its radius, since compensation is on,'
            : ''} and its own row, a sister’s too.
        </p>
        <p class="mt-2">
          <a class="underline" href="/machines/{machine.id}/now">Record the cycle as broken off</a>: what was
          cut comes off the tools, and no part is counted.
        </p>
      </section>
    </div>
    <div class="grid content-start gap-6">
      <Interruptions
        line={restart.line}
        known={data.before}
        mayLog={data.mayLog}
        zone={data.cell!.timeZone}
      />
      <Stood stand={restart.stand} tool={restart.tool} line={restart.line} />
      <section aria-labelledby="text">
        <h2 id="text" class="heading">The text there</h2>
        <pre
          class="mt-1 overflow-x-auto border border-base-content p-2 font-mono text-sm">{#each data.around as { line, text } (line)}<span
              class={line === restart.line ? 'bg-base-300 font-bold' : ''}
              >{String(line).padStart(5)}  {text}
</span>{/each}</pre>
      </section>
    </div>
  </div>
{:else if data.before.length > 0}
  <div class="mt-6">
    <Interruptions line={null} known={data.before} mayLog={false} zone={data.cell!.timeZone} />
  </div>
{/if}
