<script lang="ts">
  import { clock, dayAndClock } from '../time';
  import type { LeafEntry } from '$core/shift/leaf';

  interface Props {
    entries: LeafEntry[];
    /** There are older ones, which stand in the ledger only. */
    more: boolean;
    zone: string;
    past: boolean;
    /** They are of more than one day: each says which. */
    days?: boolean;
    mayOpen?: boolean;
  }
  let { entries, more, zone, past, days = false, mayOpen = true }: Props = $props();
  let all = $state(false);
  const shown = $derived(all ? entries : entries.slice(0, past ? 40 : 12));
</script>

<section aria-labelledby="happened">
  <h2 id="happened" class="heading">
    What happened {#if mayOpen}<a class="no-print small-words font-sans font-normal underline" href="/ledger"
        >all of it is in the ledger</a
      >{/if}
  </h2>
  <ol class="ruled-list mt-1 font-narrow">
    {#if entries.length === 0}<li class="py-2">Nothing yet.</li>{/if}
    {#each shown as entry (entry.id)}
      <li class={['grid gap-x-2 py-1', days ? 'grid-cols-[8.5rem_1fr]' : 'grid-cols-[3.2rem_1fr]']}>
        <time class="font-semibold" datetime={entry.at.toISOString()}
          >{(days ? dayAndClock : clock)(entry.at, zone)}</time
        >
        <span
          >{#if entry.machine}<b class="mr-1">{entry.machine}.</b>{/if}{entry.said}
          <span class="small-words">{entry.person}</span></span
        >
      </li>
    {/each}
  </ol>
  {#if entries.length > shown.length}<button
      type="button"
      class="no-print btn mt-1 btn-ghost"
      onclick={() => (all = true)}>{entries.length - shown.length} more</button
    >{/if}
  {#if more && shown.length === entries.length}<p class="small-words mt-1">
      Older ones stand in the ledger: these are the newest {entries.length}.
    </p>{/if}
  {#if more || entries.length > shown.length}<p class="small-words mt-1 hidden print:block">
      {entries.length - shown.length}{more ? ' and more' : ''} older ones stand in the ledger.
    </p>{/if}
</section>
