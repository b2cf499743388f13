<script lang="ts">
  import ActionForm from '../ActionForm.svelte';

  interface Props {
    job: { id: number; made: number };
    /** T in the order in which the program calls them. */
    called: readonly number[];
  }
  /** Counts what a cycle cut that made no part. */
  let { job, called }: Props = $props();
</script>

<ActionForm action="?/brokenOff" class="flex flex-wrap gap-2" label="A cycle was broken off">
  {#snippet children({ busy })}
    <input type="hidden" name="job" value={job.id} /><input type="hidden" name="before" value={job.made} />
    <label class="flex items-center gap-2"
      >at <select class="select h-14" name="tool"
        >{#each called as tool (tool)}<option value={tool}>T{tool}</option>{/each}</select
      ></label
    >
    <input
      class="input h-14 min-w-52 flex-1"
      name="why"
      maxlength="200"
      aria-label="Why it was broken off"
      placeholder="why, and what became of the part"
      required
    />
    <button class="btn h-14" disabled={busy}>Count what it cut</button>
  {/snippet}
</ActionForm>
<p class="small-words">
  No part is recorded. What the tools had cut by then goes off their lives; the one at which it stopped counts
  whole.
</p>
