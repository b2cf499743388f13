<script lang="ts">
  import { placeKey, whereCut } from '$core/inspection/cycle-place';
  import type { SuspectInPlace } from '$core/inspection/quarantine';
  import { formatWithUnit } from '$core/units/format-length';
  import type { LengthUnit } from '$core/units/length';

  interface Props {
    /** What is in doubt by one part that was out. */
    suspects: readonly SuspectInPlace[];
    unit: LengthUnit;
  }
  /** What to set aside after a part that was out of its limits: of one place, or of several, the one that was out first. */
  let { suspects, unit }: Props = $props();
  const own = $derived(suspects.find(({ byOther }) => !byOther) ?? suspects[0]!);
  const all = $derived([own, ...suspects.filter((each) => each !== own)]);
  const rework = $derived(suspects.every(({ fate }) => fate === 'rework'));

  const parts = ({ first, last }: SuspectInPlace) =>
    last === null
      ? `every part from ${first} on`
      : first === last
        ? `part ${first}`
        : `parts ${first} to ${last}`;
  const where = ({ place, rest }: SuspectInPlace) =>
    place === null
      ? rest
        ? 'those cut where none was measured'
        : 'those of which nobody knows where'
      : `${place.parts > 1 ? 'each cycle the' : 'those cut on'} ${whereCut(place)}`;
  const unsure = $derived([...new Set(suspects.flatMap((each) => each.unsure))].sort((a, b) => a - b));
  const why = ({ byOther, fromStart, anew }: SuspectInPlace) =>
    `${byOther ? ', not measured since' : ''}${fromStart ? ': nothing good was measured before it' : anew ? ', the first since its edge or its set-up was new' : ''}`;
</script>

<div class="caution mt-3 text-lg" role="alert">
  <p>
    Part {own.part} measured {formatWithUnit(own.measured, unit)}, {own.side === 'over'
      ? 'over its upper limit'
      : 'under its lower limit'}. {#if all.length === 1}Set aside {parts(own)}{own.place
        ? `, of ${where(own)}`
        : ''}{why(own)}.{/if}
    {rework
      ? 'There is material left on this side: measure each, and cut again what is out.'
      : 'No material is left on this side: measure each, and scrap what is out.'}
    {#if all.length > 1}Set aside:{/if}
  </p>
  {#if all.length > 1}
    <ul class="list-disc pl-5">
      {#each all as each (`${placeKey(each.place)} ${each.rest}`)}<li>
          {parts(each)}, of {where(each)}{why(each)}
        </li>{/each}
    </ul>
  {/if}
  {#if unsure.length > 0}<p>
      {unsure.length === 1 ? `Part ${unsure[0]} was` : `Parts ${unsure.join(', ')} were`} measured within the limits,
      but nearer to one than the gauge is sure: {unsure.length === 1 ? 'it clears' : 'they clear'} no other. Measure
      {unsure.length === 1 ? 'it' : 'them'} with a finer gauge.
    </p>{/if}
</div>
