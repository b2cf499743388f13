<script lang="ts">
  import { medianOff, type Came } from '$core/shift/came';
  import { clock } from '../time';

  interface Props {
    /** Null when nobody signed for a forecast. */
    came: Came[] | null;
    zone: string;
  }
  let { came, zone }: Props = $props();
  const minutes = (milliseconds: number) => {
    const whole = Math.round(Math.abs(milliseconds) / 60_000);
    return whole < 90 ? `${whole} min` : `${(whole / 60).toFixed(1)} h`;
  };
  const middle = $derived(came && medianOff(came));
  const words = (each: Came) =>
    each.how === 'expired'
      ? each.off === null
        ? 'ran out'
        : Math.abs(each.off) < 60_000
          ? 'ran out on the minute'
          : `ran out ${minutes(each.off)} ${each.off > 0 ? 'later' : 'earlier'}`
      : { broken: 'broke', renewed: 'renewed in time', out: 'taken out', 'ran on': 'ran on past the bell' }[
          each.how
        ];
</script>

<section aria-labelledby="came">
  <h2 id="came" class="heading">What was foreseen, and what came</h2>
  {#if came === null}
    <p class="mt-1">Nobody signed the handover before this shift, so that no forecast was kept for it.</p>
  {:else if came.length === 0}
    <p class="mt-1">Nothing was to run out, and nothing did.</p>
  {:else}
    <table class="ruled mt-1">
      <thead
        ><tr
          ><th scope="col">Foreseen</th><th scope="col">Machine</th><th scope="col">T</th><th scope="col"
            >Tool</th
          ><th scope="col">Came</th><th scope="col">What</th></tr
        ></thead
      >
      <tbody>
        {#each came as each (`${each.machine} ${each.number}`)}
          <tr
            ><td class="font-display text-lg font-semibold"
              >{each.foreseen ? clock(each.foreseen, zone) : '–'}</td
            ><td>{each.machine}</td><td class="font-semibold">{each.tool}</td><td class="whitespace-nowrap"
              >{each.number}</td
            ><td class={['font-display text-lg font-semibold', each.foreseen === null && 'text-accent']}
              >{each.came ? clock(each.came, zone) : '–'}</td
            ><td>{words(each)}{each.foreseen === null ? ', not foreseen' : ''}</td></tr
          >
        {/each}
      </tbody>
    </table>
    {#if middle !== null}<p class="small-words mt-1">
        Half of what ran out as foreseen came within {minutes(middle)} of its forecast.
      </p>{/if}
  {/if}
</section>
