<script lang="ts">
  import { unseenBy, type Making } from '$core/shift/likely-made';
  import NumberField from './NumberField.svelte';
  import { Proposed } from './proposed.svelte';

  interface Props {
    making: Making;
  }
  /** How many parts were made by the time that an edge goes: what nobody has recorded yet was cut by it, and not by the next. */
  let { making }: Props = $props();
  /** Parts that only whoever looks can count: nothing is proposed then. */
  const unseen = $derived(unseenBy(making));
  const made = new Proposed(() => (unseen > 0 ? '' : String(making.cut)));
</script>

<NumberField
  name="made"
  label="Parts of {making.number} made until now"
  whole
  required
  class="max-w-40"
  bind:value={made.value}
/>
<p class="small-words">
  {making.made} are on record{making.cut > making.made
    ? `, and the control has counted ${making.cut}`
    : ''}{unseen > 0
    ? `; if it ran on since they were counted, about ${making.cut + unseen} are made: count them`
    : ''}. What is recorded later counts as cut with the next edge.
</p>
