<script lang="ts">
  import Field from '../Field.svelte';

  /** The magazine at an earlier moment. */
  let { at }: { at: Date | null } = $props();
  /** For the field, in this browser's own time. */
  const local = (moment: Date) =>
    new Date(moment.getTime() - moment.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
</script>

<form class="no-print mt-2 flex flex-wrap items-end gap-2">
  <Field label="As it stood at" small
    ><input class="input" type="datetime-local" name="at" defaultValue={at ? local(at) : ''} /></Field
  ><button class="btn">Show</button>{#if at}<a class="btn btn-primary" href="?">Back to now</a>{/if}
</form>
