<script lang="ts">
  import NumberField from './NumberField.svelte';
  import { Proposed } from './proposed.svelte';

  interface Props {
    /** What the tool is cutting, with what the record and, where it is asked, the control have counted. */
    making: { number: string; made: number; counted: number };
  }
  /** How many parts were made by the time that an edge goes: what nobody has recorded yet was cut by it, and not by the next. */
  let { making }: Props = $props();
  const made = new Proposed(() => String(making.counted));
</script>

<NumberField
  name="made"
  label="Parts of {making.number} made until now"
  whole
  class="max-w-40"
  bind:value={made.value}
/>
<p class="small-words">
  {making.made} are on record{making.counted > making.made
    ? `, and the control has counted ${making.counted}`
    : ''}. What is recorded later counts as cut with the next edge.
</p>
