<script lang="ts">
  import ActionForm from '../ActionForm.svelte';

  interface Props {
    job: { id: number; made: number };
    counted: { id: number; parts: number };
  }
  /** Takes the last count of a job back. */
  let { job, counted }: Props = $props();
  let really = $state('');
  const right = $derived(Number(really));
</script>

<ActionForm action="?/takeBack" class="mt-2 flex flex-wrap gap-2" label="Take the last count back">
  {#snippet children({ busy })}
    <input type="hidden" name="job" value={job.id} />
    <input type="hidden" name="count" value={counted.id} />
    <input type="hidden" name="before" value={job.made} />
    {#if counted.parts > 0}
      <label class="input h-14 w-44">
        <span class="label">it was</span>
        <input
          class="text-lg"
          name="really"
          inputmode="numeric"
          pattern="[0-9]*"
          maxlength="6"
          aria-label="How many it really was; empty: count them anew"
          bind:value={really}
        />
      </label>
    {/if}
    <input
      class="input h-14 min-w-52 flex-1"
      name="why"
      maxlength="200"
      aria-label="What was wrong with the count"
      placeholder="what was wrong with it"
      required
    />
    <button class="btn h-14" disabled={busy}
      >{#if right > 0}Make it {right}, not {counted.parts}{:else}Take {counted.parts === 0
          ? 'it'
          : counted.parts} back{/if}</button
    >
  {/snippet}
</ActionForm>
<p class="small-words">
  {#if counted.parts > 0}Type the right number, and whatever was keyed or changed since stays between the
    right parts. Left empty, the whole count comes off: count again afterwards.{/if}
  It stays in the ledger beside a counter-entry; the tools get their life back, but for those renewed since.
</p>
