<script lang="ts">
  import { dayAndClock } from '../time';

  interface Props {
    /** Where the control believes its tools to stand, beside the record. */
    pockets: { at: Date; person: string; stale: boolean; agree: number; tangles: string[] };
    machineId: number;
    zone: string;
  }
  let { pockets, machineId, zone }: Props = $props();
</script>

<section aria-labelledby="pockets">
  <h2 id="pockets" class="heading">Pockets</h2>
  <p class="mt-2">
    {#if pockets.stale}Tools were moved since {dayAndClock(pockets.at, zone)}: bring the pockets in again.
    {:else}<b>{pockets.agree}</b>
      {pockets.agree === 1 ? 'place agrees' : 'places agree'}{pockets.tangles.length === 0
        ? ', and nothing differs'
        : ''}.
      <span class="small-words">Read by {pockets.person}, {dayAndClock(pockets.at, zone)}.</span>{/if}
  </p>
  {#if !pockets.stale && pockets.tangles.length > 0}
    <ol class="ruled-list mt-1">
      {#each pockets.tangles as said (said)}<li class="py-2">{said}</li>{/each}
    </ol>
    <p class="caution mt-2">
      Spindle and magazine standing, nobody at the panel; the machine’s manual and the site’s rules come
      first. {pockets.tangles.length === 1
        ? 'One look settles it'
        : `${pockets.tangles.length} looks settle it`}, and no fewer would; where you see anything else, open
      the pockets it names and correct both.
      <a class="underline" href="/machines/{machineId}">Put the record right</a>.
    </p>
  {/if}
</section>
