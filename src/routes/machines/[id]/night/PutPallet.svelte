<script lang="ts">
  import ActionForm from '$lib/ActionForm.svelte';

  interface Props {
    programs: { id: number; words: string }[];
    /** What the last pallet of the queue runs: most likely the next one does too. */
    last: number | null;
  }
  let { programs, last }: Props = $props();
</script>

<ActionForm action="?/put" class="mt-5 flex flex-wrap items-end gap-2" label="Put a pallet into the queue">
  {#snippet children({ busy })}
    <label class="grid gap-1"
      ><span class="small-words">Pallet</span><input
        class="input w-20"
        name="number"
        inputmode="numeric"
        required
      /></label
    >
    <label class="grid gap-1"
      ><span class="small-words">Program</span><select class="select w-72" name="program" required
        >{#each programs as program (program.id)}<option value={program.id} selected={program.id === last}
            >{program.words}</option
          >{/each}</select
      ></label
    >
    <label class="grid gap-1"
      ><span class="small-words">Parts</span><input
        class="input w-24"
        name="parts"
        inputmode="numeric"
        required
      /></label
    >
    <button class="btn btn-primary" disabled={busy}>Put it in</button>
  {/snippet}
</ActionForm>
