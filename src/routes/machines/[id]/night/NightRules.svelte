<script lang="ts">
  import ActionForm from '$lib/ActionForm.svelte';
  import NumberField from '$lib/NumberField.svelte';
  import { Proposed } from '$lib/proposed.svelte';

  interface Props {
    machine: { name: string };
    school: 'stop' | 'isolate';
    /** Hours for which it runs on after the people have gone. */
    runsOn: number;
    mayChange: boolean;
  }
  /** What the machine does while nobody is there. */
  let { machine, school, runsOn, mayChange }: Props = $props();
  const hours = new Proposed(() => String(runsOn));
</script>

<section class="mt-6" aria-labelledby="rules">
  <h3 id="rules" class="text-xl">What {machine.name} does while nobody is here</h3>
  <ActionForm
    action="?/runsOn"
    class="mt-2 flex flex-wrap items-end gap-3"
    label="How long it runs on"
    keep
    onDone={() => hours.release()}
  >
    {#snippet children({ busy })}
      {#if mayChange}
        <NumberField
          name="hours"
          label="Hours it runs on after a shift"
          whole
          class="max-w-28"
          required
          bind:value={hours.value}
        />
        <button class="btn" disabled={busy}>Keep</button>
      {:else}<p>
          {runsOn === 0
            ? 'It stands between shifts.'
            : `It runs on for ${runsOn} ${runsOn === 1 ? 'hour' : 'hours'} after a shift.`}
        </p>{/if}
      <p class="small-words max-w-prose">
        As long as what is loaded lasts: pallets, the bars in its feeder. With 0 it stands between shifts.
        When its tools run out and its job ends is reckoned by it, on every page.
      </p>
    {/snippet}
  </ActionForm>
  <ActionForm
    action="?/school"
    class="mt-4 flex flex-wrap items-center gap-2"
    label="Where a tool cannot cut"
    keep
  >
    {#snippet children({ busy })}
      <span class="small-words">Where a tool cannot cut, it</span>
      {#each [['stop', 'stops'], ['isolate', 'sets the pallet aside and goes on']] as const as [each, word] (each)}
        <button
          class={['btn', school === each && 'btn-primary']}
          name="school"
          value={each}
          aria-pressed={school === each}
          disabled={busy || !mayChange}>{word}</button
        >
      {/each}
    {/snippet}
  </ActionForm>
</section>
