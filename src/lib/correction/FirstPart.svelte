<script lang="ts">
  import NumberField from '../NumberField.svelte';
  import { outbox } from '../offline/outbox.svelte';
  import { partsThatWait } from '../offline/waits';
  import { Proposed } from '../proposed.svelte';

  interface Props {
    /** The last part that is counted or measured; null where no job runs. */
    cut: { id: number; cut: number } | null;
    label?: string;
    /** What parts that were cut before say of it. */
    before?: string;
    /** It is long done: nobody is taken to know unless they say so. */
    unknown?: boolean;
  }
  /** Which part was the first cut with what was keyed, or changed. */
  let {
    cut: known,
    label = 'First part cut with it',
    before = 'Parts cut before it was keyed say nothing about it.',
    unknown = false,
  }: Props = $props();
  const cut = $derived(known && known.cut + partsThatWait(outbox.untold, known.id));
  // svelte-ignore state_referenced_locally
  let unsure = $state(unknown);
  const first = new Proposed(() => (cut === null ? '' : String(cut + 1)));
  // it is asked once the number is keyed: what is cut from then on was cut with it
  $effect(() => {
    if (cut !== null) first.hold();
  });
</script>

{#if known}
  <input type="hidden" name="job" value={known.id} />
  <input type="hidden" name="until" value={cut} />
  <div class="flex flex-wrap items-end gap-4">
    <div class="w-44">
      <NumberField name="first" {label} whole bind:value={first.value} />
    </div>
    <label class="flex min-h-11 items-center gap-2"
      ><input class="checkbox" type="checkbox" name="unsure" bind:checked={unsure} /> I do not know</label
    >
  </div>
  <p class="small-words">
    Part {cut} is the last that was counted, here or at the control, or measured. {before}
  </p>
{/if}
