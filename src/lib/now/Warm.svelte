<script lang="ts">
  import { EXPANSION, MATERIALS } from '$core/inspection/gauge';

  import NumberField from '../NumberField.svelte';

  /** For a part that is measured away from 20 °C: what it is of, and what the gauge is of. */
  let celsius = $state('');
</script>

<div class="grid items-end gap-3 sm:grid-cols-3">
  <NumberField name="celsius" label="Part and gauge, °C" bind:value={celsius} />
  {#each [['part_of', 'Part of'], ['gauge_of', 'Gauge of']] as const as [name, words] (name)}
    <label class="grid gap-1"
      ><span class="font-semibold">{words}</span><select class="select" {name}
        >{#each MATERIALS as each (each)}<option value={each}>{EXPANSION[each].words}</option>{/each}</select
      ></label
    >
  {/each}
</div>
<p class="small-words">It is judged as what it comes to at 20 °C; what the gauge showed is kept beside it.</p>
