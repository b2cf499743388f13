<script lang="ts">
  import type { CutByNow } from '$core/shift/likely-made';
  import ActionForm from '../ActionForm.svelte';
  import FirstPart from '../correction/FirstPart.svelte';
  import SetUpOff from './SetUpOff.svelte';

  interface Props {
    machine: number;
    /** The job that runs, and the last of its parts that is counted or measured. */
    cut: CutByNow;
    /** All rows of the set-up need the same, in words; null: nothing speaks for it. */
    off: { found: string; look: string } | null;
    mayRun: boolean;
  }
  let { machine, cut, off, mayRun }: Props = $props();
  const list = $props.id();
  // whoever opened it has it open, whatever data come anew meanwhile
  let open = $state(false);
  /** What is changed while a job runs (common practice, no source). */
  const CHANGED = [
    'work offset moved',
    'part sat otherwise',
    'jaws changed or bored again',
    'fixture changed',
    'stop moved',
  ];
</script>

{#if off}<SetUpOff {...off} />{/if}
{#if mayRun}
  <details class="mt-2" bind:open>
    <summary class="inline-flex min-h-11 cursor-pointer items-center font-semibold"
      >Work offset, jaws or fixture changed</summary
    >
    <p class="small-words">
      What was measured before then says nothing of the parts to come: corrections that wait are withdrawn,
      and the next part is measured as a first-off.
    </p>
    <ActionForm
      action="/machines/{machine}/now?/setUp"
      class="mt-2 grid gap-2"
      label="Say that it was set up anew"
    >
      {#snippet children({ busy })}
        <datalist id={list}>
          {#each CHANGED as each (each)}<option value={each}></option>{/each}
        </datalist>
        <label class="grid gap-1"
          ><span class="font-semibold">What was changed</span><input
            class="input w-full"
            name="why"
            maxlength="200"
            {list}
          /></label
        >
        <!-- what is proposed is what was cut by the time somebody asks -->
        {#if open}<FirstPart
            {cut}
            label="First part cut so"
            before="What was cut before it was changed is of the set-up before."
          />{/if}
        <button class="btn justify-self-start" disabled={busy}>It was set up anew</button>
      {/snippet}
    </ActionForm>
  </details>
{/if}
