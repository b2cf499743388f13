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
    <label class="grid gap-1"
      ><span class="small-words">Suppose nobody is here from</span><input
        class="input w-40"
        type="time"
        name="from"
        defaultValue={alone?.from ?? '22:00'}
        required
      /></label
    >
    <label class="grid gap-1"
      ><span class="small-words">to</span><input
        class="input w-40"
        type="time"
        name="to"
        defaultValue={alone?.to ?? '06:00'}
        required
      /></label
    >
    <button class="btn">Ask</button>
    {#if alone}<a class="btn btn-ghost" href="?">By the shifts again</a>{/if}
  </form>
  {#if !alone}<p class="small-words mt-1 max-w-prose">
      {always
        ? 'By the shifts somebody is always here, but a shift need not be at this machine.'
        : 'Without this the hours between the shifts are meant.'}
    </p>{/if}
</section>
