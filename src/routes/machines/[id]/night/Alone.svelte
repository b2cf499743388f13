<script lang="ts">
  interface Props {
    /** The hours that are asked about; null: those between the shifts. */
    alone: { from: string; to: string } | null;
    /** By the shifts somebody is always here. */
    always: boolean;
  }
  /** Asks the night for other hours: a shift that is on need not be at this machine. */
  let { alone, always }: Props = $props();
</script>

<form method="GET" class="mt-2 flex flex-wrap items-end gap-3" aria-label="Hours with nobody at it">
  <label class="grid gap-1"
    ><span class="small-words"
      >{always
        ? 'By its shifts somebody is always here. Suppose nobody is from'
        : 'Suppose nobody is here from'}</span
    ><input
      class="input w-36"
      type="time"
      name="from"
      defaultValue={alone?.from ?? '22:00'}
      required
    /></label
  >
  <label class="grid gap-1"
    ><span class="small-words">to</span><input
      class="input w-36"
      type="time"
      name="to"
      defaultValue={alone?.to ?? '06:00'}
      required
    /></label
  >
  <button class="btn">Ask</button>
  {#if alone}<a class="btn btn-ghost" href="?">By the shifts</a>{/if}
</form>
