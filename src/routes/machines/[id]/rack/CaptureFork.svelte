<script lang="ts">
  import { AXES } from '$core/changer/rack';
  import { formatLength } from '$core/units/format-length';
  import type { Length, LengthUnit } from '$core/units/length';
  import ActionForm from '$lib/ActionForm.svelte';

  import type { PageData } from './$types';

  interface Props {
    chosen: PageData['rack']['forks'][number];
    unit: LengthUnit;
    straightness: Length | null;
    onDone: () => void;
  }
  let { chosen, unit, straightness, onDone }: Props = $props();
  const written = (value: Length | null | undefined) =>
    value === null || value === undefined ? '' : formatLength(value, unit, { minus: '-' });
</script>

{#key `${chosen.fork} ${chosen.captured?.at.getTime()} ${straightness}`}
  <ActionForm action="?/capture" class="plate mt-4 grid gap-2" label="Capture a fork" {onDone}>
    {#snippet children({ busy })}
      <h3 class="font-display font-semibold">Fork {chosen.fork}</h3>
      <p class="small-words">
        A holder in the spindle over a holder standing loosely in the fork, pins in line: that is X and Y.
        Then the flange is eyed into the fork: that is Z.
      </p>
      <input type="hidden" name="fork" value={chosen.fork} />
      <div class="grid grid-cols-3 gap-2">
        {#each AXES as axis (axis)}
          <label class="grid gap-1"
            ><span>{axis.toUpperCase()}, {unit}</span><input
              class="input"
              name={axis}
              data-pad="length"
              required
              autocomplete="off"
              defaultValue={written(chosen.captured?.[axis])}
              placeholder={written(chosen.proposed?.[axis])}
            /></label
          >
        {/each}
      </div>
      <button class="btn btn-primary" disabled={busy}>Captured here</button>
    {/snippet}
  </ActionForm>
{/key}
