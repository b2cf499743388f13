<script lang="ts">
  import ActionForm from '../ActionForm.svelte';

  interface Props {
    machine: { armSeconds: number; pocketSeconds: number; heavyFactor: number };
    mayTime: boolean;
  }
  let { machine, mayTime }: Props = $props();
</script>

{#snippet field(name: string, words: string, inputmode: 'numeric' | 'decimal')}
  <label class="grid gap-1"
    ><span class="small-words">{words}</span><input class="input w-full" {name} {inputmode} required /></label
  >
{/snippet}

<h2 class="heading">How long a change takes</h2>
<dl class="grid grid-cols-[1fr_auto] gap-x-4 border-t-[3px] border-double border-base-content text-lg">
  {#each [['arm, without indexing', `${machine.armSeconds.toFixed(2)} s`], ['each pocket indexed', `${machine.pocketSeconds.toFixed(3)} s`], ['heavy or wide', `${machine.heavyFactor} times as long`]] as const as [words, value] (words)}
    <dt class="border-b border-base-300 py-1.5">{words}</dt>
    <dd class="border-b border-base-300 py-1.5 text-right font-semibold">{value}</dd>
  {/each}
</dl>
{#if mayTime}
  <ActionForm action="?/times" class="mt-3 grid gap-2" label="Two timed changes">
    {#snippet children({ busy })}
      <p class="small-words">
        Time two changes from chip to chip, one to a pocket near by and one far off: the line through both
        gives the arm and the indexing.
      </p>
      {#each [['A', 'A short change'], ['B', 'A long change']] as const as [letter, words] (letter)}
        <fieldset class="grid grid-cols-[1fr_6rem_6rem] items-end gap-2">
          <legend class="sr-only">{words}</legend>
          <span class="pb-2" aria-hidden="true">{words}</span>
          {@render field(`pockets${letter}`, 'pockets', 'numeric')}
          {@render field(`seconds${letter}`, 'seconds', 'decimal')}
        </fieldset>
      {/each}
      <label class="grid grid-cols-[1fr_6rem] items-center gap-2"
        ><span>A heavy tool takes this many times as long</span><input
          class="input w-full"
          name="heavyFactor"
          inputmode="decimal"
          defaultValue={machine.heavyFactor}
          required
        /></label
      >
      <button class="btn justify-self-start" disabled={busy}>Set the times</button>
    {/snippet}
  </ActionForm>
{/if}
