<script lang="ts">
  import type { Bearing } from '$core/changer/bears';
  import type { Clash } from '$core/changer/clearance';
  import { inUnit, type Length, type LengthUnit } from '$core/units/length';

  interface Props {
    machine: {
      id: number;
      unit: LengthUnit;
      heaviestAll: number | null;
      unbalance: number | null;
      swing: Length | null;
    };
    bearing: Bearing;
    /** What the changer must not carry, a sentence each. */
    byHand?: readonly string[];
    /** Tools whose mass nobody weighed. */
    reckoned: number;
    /** Pairs that strike, or pass too near. */
    near: Clash[];
    /** It has pockets that bear mass; a turret has not. */
    pockets: boolean;
  }
  let { machine, bearing, byHand = [], reckoned, near, pockets }: Props = $props();

  const limits = $derived(
    [
      pockets && {
        what: 'All tools',
        now: bearing.total / 1000,
        most: machine.heaviestAll === null ? null : machine.heaviestAll / 1000,
        unit: 'kg',
      },
      bearing.towards !== null && {
        what: `Out of balance, towards pocket ${bearing.towards}`,
        now: bearing.unbalance / 1000,
        most: machine.unbalance === null ? null : machine.unbalance / 1000,
        unit: 'kg·m',
      },
      bearing.swing !== null && {
        what: 'Swings across',
        now: bearing.swing,
        most: machine.swing === null ? null : inUnit(machine.swing, 'mm'),
        unit: 'mm',
      },
    ].filter((each) => each !== false),
  );
  const digits = (unit: string) => (unit === 'mm' ? 0 : 1);
</script>

{#each [...byHand, ...bearing.over] as sentence (sentence)}<p class="caution mt-2 font-semibold" role="alert">
    {sentence}
  </p>{/each}
{#each bearing.look as sentence (sentence)}<p class="caution mt-2">{sentence}</p>{/each}
{#each near as { a, b, gap } (`${a.pocket} ${b.pocket}`)}<p class="caution mt-2">
    T{a.tool} and T{b.tool}
    {gap < 0
      ? `overlap by ${(-gap).toFixed(1)} mm: they would strike`
      : `pass each other by only ${gap.toFixed(1)} mm`}.
  </p>{/each}
<dl class="mt-3 grid gap-x-6 gap-y-1 sm:grid-cols-2">
  {#each limits as { what, now, most, unit } (what)}
    <div>
      <dt class="small-words">{what}</dt>
      <dd class="flex items-baseline gap-2">
        <b>{now.toFixed(digits(unit))} {unit}</b>
        {#if most === null}<a class="small-words underline" href="/machines/{machine.id}/plate"
            >its limit is not recorded</a
          >
        {:else}<span class="small-words">of {most.toFixed(digits(unit))}</span><progress
            class="progress w-24 self-center"
            value={Math.min(now, most)}
            max={most}
            aria-label="{what}: {now.toFixed(digits(unit))} of {most.toFixed(digits(unit))} {unit}"
          ></progress>{/if}
      </dd>
    </div>
  {/each}
</dl>
{#if reckoned > 0 && pockets}<p class="small-words mt-1">
    {reckoned === 1 ? 'One tool was' : `${reckoned} tools were`} never weighed: reckoned from the outline as steel.
  </p>{/if}
