<script lang="ts">
  import { EDGE_ENDS, EDGE_END_WORDS, WEAR_SIGNS, type EdgeEnd } from '$core/life/edge-lives';

  /** How the old edge ended, with one tap: what limits are learnt from. */
  let { broke }: { broke: boolean } = $props();
  // svelte-ignore state_referenced_locally
  let end = $state<EdgeEnd>(broke ? 'broken' : 'unknown');
</script>

<fieldset>
  <legend class="small-words">How did the old edge end?</legend>
  <div class="mt-1 grid grid-cols-2 gap-1.5 sm:grid-cols-3">
    {#each EDGE_ENDS as each (each)}
      <label
        class={[
          'btn h-auto min-h-11 justify-start gap-2 py-1.5 text-left leading-tight',
          end === each && 'btn-primary',
        ]}
      >
        <input class="sr-only" type="radio" name="end" value={each} bind:group={end} />
        {EDGE_END_WORDS[each]}
      </label>
    {/each}
  </div>
  {#if end === 'worn'}
    <div class="mt-2 flex flex-wrap gap-3">
      <label class="grid gap-1"
        ><span class="small-words">What told of it</span><select class="select w-36" name="sign"
          ><option value="">not said</option>{#each WEAR_SIGNS as sign (sign)}<option value={sign}
              >{sign}</option
            >{/each}</select
        ></label
      >
      <label class="grid gap-1"
        ><span class="small-words">Flank wear, mm, if measured</span><input
          class="input w-36"
          name="flank"
          inputmode="decimal"
        /></label
      >
    </div>
  {/if}
</fieldset>
