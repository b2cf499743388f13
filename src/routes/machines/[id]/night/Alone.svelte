<script lang="ts">
  interface Props {
    /** The hours that are asked about; null: those between the shifts. */
    alone: { from: string; to: string } | null;
    /** By the shifts somebody is always here. */
    always: boolean;
    machine: string;
  }
  /** Asks the night for other hours: a shift that is on need not be at this machine. */
  let { alone, always, machine }: Props = $props();
</script>

<section class="mt-6" aria-labelledby="alone">
  <h3 id="alone" class="text-xl">Hours with nobody at {machine}</h3>
  <form method="GET" class="mt-2 flex flex-wrap items-end gap-3" aria-label="Hours with nobody at it">
    {#each [['from', 'Suppose nobody is here from', '22:00'], ['to', 'to', '06:00']] as const as [name, words, usual] (name)}
      <label class="grid gap-1"
        ><span class="small-words">{words}</span><input
          class="input w-40"
          type="time"
          {name}
          defaultValue={alone?.[name] ?? usual}
          required
        /></label
      >
    {/each}
    <button class="btn">Ask</button>
    {#if alone}<a class="btn btn-ghost" href="?">By the shifts again</a>{/if}
  </form>
  {#if !alone}<p class="small-words mt-1 max-w-prose">
      {always
        ? 'By the shifts somebody is always here, but a shift need not be at this machine.'
        : 'Without this the hours between the shifts are meant.'}
    </p>{/if}
</section>
