<script lang="ts">
  import ReasonForm from './ReasonForm.svelte';
  import SetUpOff from './SetUpOff.svelte';

  interface Props {
    machine: number;
    job: number;
    /** All rows of the set-up need the same, in words; null: nothing speaks for it. */
    off: { found: string; look: string } | null;
    mayRun: boolean;
  }
  let { machine, job, off, mayRun }: Props = $props();
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
  <details class="mt-2" open={off !== null}>
    <summary class="inline-flex min-h-11 cursor-pointer items-center font-semibold"
      >Work offset, jaws or fixture changed</summary
    >
    <p class="small-words">
      What was measured before then says nothing of the parts to come: corrections that wait are withdrawn,
      and the next part is measured as a first-off.
    </p>
    <ReasonForm
      action="/machines/{machine}/now?/setUp"
      fields={{ job }}
      label="Say that it was set up anew"
      button="It was set up anew"
      reasons={CHANGED}
    />
  </details>
{/if}
