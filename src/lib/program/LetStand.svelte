<script lang="ts">
  import ActionForm from '../ActionForm.svelte';

  let { code, sentence }: { code: string; sentence: string } = $props();
  const LENGTHS = [
    [1, 'to the end of today'],
    [7, 'a week'],
    [30, 'thirty days'],
    [90, 'ninety days'],
  ] as const;
</script>

<details class="min-w-0">
  <summary class="inline-flex min-h-11 cursor-pointer items-center underline"
    >Let it stand<span class="sr-only">: {sentence}</span></summary
  >
  <ActionForm action="?/waive" class="flex flex-wrap items-end gap-2" label="Let stand: {sentence}">
    {#snippet children({ busy })}
      <input type="hidden" name="code" value={code} />
      <input type="hidden" name="sentence" value={sentence} />
      <label class="grid w-full gap-1 sm:w-auto"
        ><span class="small-words">Why it may</span><input
          class="input w-full sm:w-64"
          name="why"
          maxlength="300"
          required
          autocomplete="off"
        /></label
      >
      <label class="grid gap-1"
        ><span class="small-words">For</span><select class="select max-w-full" name="days"
          >{#each LENGTHS as [days, words] (days)}<option value={days}>{words}</option>{/each}</select
        ></label
      >
      <button class="btn" disabled={busy}>Let it stand</button>
    {/snippet}
  </ActionForm>
  <p class="small-words">
    It stands here with your name each time, and comes back when a figure in it changes.
  </p>
</details>
