<script lang="ts">
  import type { RepeatStudy } from '$core/inspection/gauge';
  import { formatLength, plainDecimal } from '$core/units/format-length';
  import { nanometres, type Length } from '$core/units/length';
  import ActionForm from '$lib/ActionForm.svelte';
  import Field from '$lib/Field.svelte';

  import type { Begun } from './begun';

  /** Puts a gauge on the list or changes one, and works out from repeats how sure it is. */
  let { begun }: { begun: Begun | null } = $props();
  const show = (value: number) => formatLength(nanometres(Math.round(value)), 'mm', { decimals: 4 });
  const plain = (value: Length | null | undefined) =>
    value === null || value === undefined ? '' : plainDecimal(value, 'mm');
  // svelte-ignore state_referenced_locally
  const first = begun;
  let name = $state(first?.name ?? '');
  let resolution = $state(plain(first?.resolution));
  let uncertainty = $state(plain(first?.uncertainty));
  let due = $state(first?.due ?? '');
  let study = $state<RepeatStudy | null>(null);
</script>

<section id="write" class="grid content-start gap-6" aria-label="One gauge">
  <ActionForm
    action="?/write"
    class="plate grid gap-3"
    label="A gauge"
    onDone={() => (name = resolution = uncertainty = due = '')}
  >
    {#snippet children({ busy })}
      <h2 class="text-xl">Put on the list, or change</h2>
      <Field label="What measuring plans call it"
        ><input class="input" name="name" maxlength="60" bind:value={name} required /></Field
      >
      <Field label="Step it shows, mm"
        ><input class="input" name="resolution" data-pad="length" bind:value={resolution} required /></Field
      >
      <Field label="Sure to ±, mm (expanded, k = 2), if known"
        ><input class="input" name="uncertainty" data-pad="length" bind:value={uncertainty} /></Field
      >
      <Field label="Calibrated until"><input class="input" type="date" name="due" bind:value={due} /></Field>
      <button class="btn btn-primary" disabled={busy}>Save it</button>
    {/snippet}
  </ActionForm>
  <ActionForm
    action="?/study"
    class="grid gap-2"
    label="Repeat study"
    keep
    onDone={(done: RepeatStudy) => (study = done)}
  >
    {#snippet children({ busy })}
      <h2 class="heading">How well does it repeat?</h2>
      <p class="small-words">
        Measure one size of one part ten times or more, lifting the gauge off each time, and type what it
        showed.
      </p>
      <input type="hidden" name="resolution" value={resolution || '0.001'} />
      <textarea class="textarea w-full font-mono" name="readings" rows="3" aria-label="Readings" required
      ></textarea>
      <button class="btn" disabled={busy}>Work it out</button>
      {#if study}<p role="status">
          It repeats to ±{show(2 * study.spread)} mm; with its step it is sure to
          <b>±{show(study.uncertainty)} mm</b>, its calibration not counted.
          <button
            type="button"
            class="underline"
            onclick={() =>
              (uncertainty = plainDecimal(nanometres(Math.ceil(study!.uncertainty / 100) * 100), 'mm'))}
            >Take this</button
          >
        </p>{/if}
    {/snippet}
  </ActionForm>
</section>
