<script lang="ts">
  import ActionForm from '../ActionForm.svelte';

  interface Props {
    job: { id: number; made: number };
    counted: { id: number; parts: number };
  }
  /** Takes the last count of a job back. */
  let { job, counted }: Props = $props();
</script>

<ActionForm action="?/takeBack" class="flex flex-wrap gap-2" label="Take the last count back">
  {#snippet children({ busy })}
    <input type="hidden" name="job" value={job.id} />
    <input type="hidden" name="count" value={counted.id} />
    <input type="hidden" name="before" value={job.made} />
    <input
      class="input h-14 min-w-52 flex-1"
      name="why"
      maxlength="200"
      aria-label="What was wrong with the count"
      placeholder="what was wrong with it"
      required
    />
    <button class="btn h-14" disabled={busy}>Take {counted.parts === 0 ? 'it' : counted.parts} back</button>
  {/snippet}
</ActionForm>
<p class="small-words">
  It stays in the ledger beside a counter-entry; the tools get their life back, but for those renewed since.
</p>
