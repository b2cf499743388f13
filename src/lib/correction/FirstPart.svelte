<script lang="ts">
  import { unseenBy, type CutByNow } from '$core/shift/likely-made';
  import NumberField from '../NumberField.svelte';
  import { outbox } from '../offline/outbox.svelte';
  import { partsThatWait } from '../offline/waits';
  import { Proposed } from '../proposed.svelte';

  interface Props {
    /** The last part that is counted or measured; null where no job runs. */
    cut: CutByNow | null;
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
  /** The last part by now, if it ran on since it was counted: nobody has said that it did. */
  const likely = $derived(known && cut !== null ? cut + unseenBy({ cut, likely: known.likely }) : null);
  const unseen = $derived(likely !== null && likely > cut!);
  const unsure = new Proposed(() => unknown || unseen);
  const first = new Proposed(() => (likely === null ? '' : String(likely + 1)));
  // it is asked once the number is keyed: what is cut from then on was cut with it
  $effect(() => {
    if (cut === null) return;
    first.hold();
    unsure.hold();
  });
</script>

{#if known}
  <input type="hidden" name="job" value={known.id} />
  <input type="hidden" name="until" value={likely} />
  <div class="flex flex-wrap items-end gap-4">
    <div class="w-44">
      <NumberField name="first" {label} whole bind:value={first.value} />
    </div>
    <label class="flex min-h-11 items-center gap-2"
      ><input class="checkbox" type="checkbox" name="unsure" bind:checked={unsure.value} /> I do not know</label
    >
  </div>
  <p class="small-words">
    Part {cut} is the last that was counted, here or at the control, or measured{#if unseen}; if it ran on
      since, about {likely} are made by now. Untick only what you know{/if}. {before}
  </p>
{/if}
