<script lang="ts">
  import type { Spread } from '$core/presetting/spread';
  import { formatLength, formatWithUnit } from '$core/units/format-length';
  import { nanometres, type Length } from '$core/units/length';
  import { shortTime } from '../time';

  interface Props {
    spread: { gaugeLength: Spread | null; diameter: Spread | null };
    history: {
      id: number;
      at: Date;
      gaugeLength: Length;
      diameter: Length | null;
      runOut: Length | null;
      person: string;
      instrument: string;
      /** Measured since its edge was last changed. */
      current: boolean;
    }[];
    now: Date;
    zone: string;
  }
  let { spread, history, now, zone }: Props = $props();
  const micrometres = (value: number) => `${(value / 1000).toFixed(1)} µm`;
</script>

<section aria-labelledby="measured" class="overflow-x-auto md:max-xl:col-span-2">
  <h2 id="measured" class="heading">As it stands now</h2>
  {#if spread.gaugeLength}
    <p class="mt-1">
      {spread.gaugeLength.count}
      {spread.gaugeLength.count === 1 ? 'measurement' : 'measurements'}, mean
      <b>{formatWithUnit(nanometres(Math.round(spread.gaugeLength.mean)), 'mm')}</b
      >{#if spread.gaugeLength.deviation !== null}, range {micrometres(spread.gaugeLength.range)}, standard
        deviation {micrometres(spread.gaugeLength.deviation)}{/if}{#if spread.diameter}; diameter
        <b>{formatWithUnit(nanometres(Math.round(spread.diameter.mean)), 'mm')}</b>{/if}
    </p>
  {:else}<p class="caution mt-1">Not measured since it was built or its edge was changed.</p>{/if}
  <table class="ruled mt-3">
    <thead
      ><tr
        ><th scope="col">When</th><th scope="col" class="number">Length</th><th scope="col" class="number"
          >⌀</th
        ><th scope="col" class="number">Run-out</th><th scope="col">Who, with what</th></tr
      ></thead
    >
    <tbody>
      {#each history as each (each.id)}
        <tr class={each.current ? '' : 'opacity-75'}
          ><td class="whitespace-nowrap">{shortTime(each.at, now, zone)}</td><td class="number font-semibold"
            >{formatLength(each.gaugeLength, 'mm', { decimals: 4 })}</td
          ><td class="number"
            >{each.diameter === null ? '' : formatLength(each.diameter, 'mm', { decimals: 4 })}</td
          ><td class="number"
            >{each.runOut === null ? '' : formatLength(each.runOut, 'mm', { decimals: 4 })}</td
          ><td>{each.person}, {each.instrument}{each.current ? '' : ' (before it was changed)'}</td></tr
        >
      {/each}
    </tbody>
  </table>
</section>
