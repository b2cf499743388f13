<script lang="ts">
  import ActionForm from '../ActionForm.svelte';

  interface Props {
    action: string;
    /** What goes along unseen. */
    fields: Readonly<Record<string, string | number>>;
    label: string;
    button: string;
    /** What is mostly said. */
    reasons?: readonly string[];
  }
  let { action, fields, label, button, reasons }: Props = $props();
  const list = $props.id();
  /** What mostly holds a job up (common practice, no source). */
  const HOLDS = [
    'material is missing',
    'a tool is missing',
    'waits for inspection',
    'another job is more urgent',
    'the machine is down',
    'the order was cut',
  ];
</script>

<!-- An act that says why: for whoever stands at the machine next. -->
<ActionForm {action} class="mt-2 flex flex-wrap items-end gap-2" {label}>
  {#snippet children({ busy })}
    {#each Object.entries(fields) as [name, value] (name)}<input type="hidden" {name} {value} />{/each}
    <datalist id={list}>
      {#each reasons ?? HOLDS as reason (reason)}<option value={reason}></option>{/each}
    </datalist>
    <label class="grid min-w-52 flex-1 gap-1"
      ><span class="font-semibold">Why</span><input class="input" name="why" maxlength="200" {list} /></label
    >
    <button class="btn" disabled={busy}>{button}</button>
  {/snippet}
</ActionForm>
