<script lang="ts">
  import ActionForm from '$lib/ActionForm.svelte';
  import BoreFromAbove from '$lib/program/BoreFromAbove.svelte';
  import { SHIFTS, shiftWords, tipFor } from '$core/program/boring-shift';
  import { formatWithUnit } from '$core/units/format-length';

  let { data } = $props();
  const { program, machine } = $derived(data);
  const show = (length: NonNullable<(typeof data.bores)[number]['clears']>) =>
    formatWithUnit(length, machine.unit);
  const VERDICT = {
    safe: 'Comes off the wall',
    wall: 'Into the wall',
    unknown: 'Nobody has looked',
  } as const;
  const sentence = (bore: (typeof data.bores)[number]) => {
    if (!bore.shift) return 'It is shifted along both axes, or not at all: no tip can be set to that.';
    const shifted = `Shifted ${shiftWords(bore.shift)} by ${show(bore.length)} at the bottom`;
    if (!bore.tip) return `${shifted}: the tip must point ${shiftWords(tipFor(bore.shift))}.`;
    const clear =
      bore.clears === null
        ? ''
        : bore.clears > 0
          ? ` It clears by ${show(bore.clears)}.`
          : ` It goes ${show(-bore.clears as typeof bore.clears)} into the wall.`;
    return `${shifted}; the tip points ${shiftWords(bore.tip)} (${bore.person}).${clear}`;
  };
</script>

<svelte:head><title>{program.number}, bores from above · Tin Almanac</title></svelte:head>

<header class="mt-4 flex flex-wrap items-end gap-x-5 border-b-[3px] border-double border-base-content pb-2">
  <h1 class="text-3xl">Bores from above</h1>
  <p class="text-lg">
    <a class="underline" href="/programs/{program.id}">{program.number}</a>
    {program.title}, {machine.name}
  </p>
</header>
<p class="small-words mt-2">
  As seen along the spindle towards the table, with X+ to the right and Y+ up. The shift is drawn so that it
  can be seen, not to scale.
</p>

{#if data.bores.length === 0}<p class="mt-4" role="status">
    No bore of {program.number} is shifted off its wall.
  </p>{/if}
<ul class="ruled-list mt-4">
  {#each data.bores as bore (bore.line)}
    <li class="flex flex-wrap gap-x-8 gap-y-3 py-4">
      <BoreFromAbove view={bore} words="T{bore.tool}, line {bore.line}: {sentence(bore)}" />
      <div class="grid min-w-0 flex-1 basis-80 content-start gap-2">
        <h2 class="heading">
          T{bore.tool}{bore.assembly ? `, ${bore.assembly.number}` : ', not in the machine'}, line {bore.line}
        </h2>
        <p class={['text-lg font-semibold', bore.verdict !== 'safe' && 'text-accent']}>
          {VERDICT[bore.verdict]}
        </p>
        <p>{sentence(bore)}</p>
        {#if bore.overridden}<p class="caution">I or J in this block has no effect: Q overrides it.</p>{/if}
        <pre class="overflow-x-auto font-mono text-sm">{bore.block}</pre>
        {#if bore.corrected}
          <p class="small-words">With the tip as it is, the block would have to be:</p>
          <pre
            class="overflow-x-auto border border-base-content p-2 font-mono text-sm font-bold">{bore.corrected}</pre>
          <p class="caution">
            Put the bar in the other way round, or give the program back to its programmer. Whoever loads it
            answers for it; the machine’s manual comes first.
          </p>
        {/if}
        {#if bore.assembly && data.mayLook}
          <ActionForm
            action="?/look"
            class="flex flex-wrap items-center gap-2"
            label="The tip of T{bore.tool}, line {bore.line}"
          >
            {#snippet children({ busy })}
              <input type="hidden" name="assembly" value={bore.assembly!.id} />
              <span class="small-words w-full"
                >Orient the spindle, watch it stop, keep your hands away, then look. The tip points</span
              >
              {#each SHIFTS as way (way)}<button
                  class={['btn min-w-16', bore.tip === way && 'btn-primary']}
                  name="way"
                  value={way}
                  aria-pressed={bore.tip === way}
                  disabled={busy}>{shiftWords(way)}</button
                >{/each}
            {/snippet}
          </ActionForm>
        {/if}
      </div>
    </li>
  {/each}
</ul>
