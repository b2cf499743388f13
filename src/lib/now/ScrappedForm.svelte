<script lang="ts">
  import ActionForm from '../ActionForm.svelte';
  import NumberField from '../NumberField.svelte';
  import { Proposed } from '../proposed.svelte';

  interface Props {
    job: { id: number; number: string; made: number; scrapped: number };
  }
  /** How many of a job's parts are scrap. */
  let { job }: Props = $props();
  const scrapped = new Proposed(() => String(job.scrapped));
</script>

<ActionForm
  action="?/scrapped"
  class="flex flex-wrap items-end gap-2"
  label="Parts that are scrap"
  keptAs={() => `${scrapped.value} of ${job.number} scrap`}
  onDone={() => scrapped.release()}
  onKept={() => scrapped.release()}
>
  {#snippet children({ busy })}
    <input type="hidden" name="job" value={job.id} />
    <input type="hidden" name="shown" value={job.scrapped} />
    <NumberField
      name="scrapped"
      label="Scrap, of the {job.made} made"
      whole
      required
      class="h-14 max-w-28 text-center text-2xl"
      bind:value={scrapped.value}
    />
    <input
      class="input h-14 min-w-52 flex-1"
      name="why"
      maxlength="200"
      aria-label="What is wrong with them"
      placeholder="which parts, and what is wrong with them"
      required
    />
    <label class="flex min-h-14 items-center gap-2"
      ><input class="checkbox" type="checkbox" name="again" checked /> make them again</label
    >
    <button class="btn h-14" disabled={busy}>Write it down</button>
  {/snippet}
</ActionForm>
<p class="small-words">
  All in this job. Bad parts are counted as made like the others: they were cut, and their tools were used.
</p>
