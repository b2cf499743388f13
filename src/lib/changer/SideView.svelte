<script lang="ts">
  import { traitsOf } from '$core/changer/traits';
  import { figures } from '$core/assembly/silhouette';
  import type { ChangerShape } from '$core/changer/layout';
  import type { PlaceRow } from '$core/changer/place';
  import { sideBySide, sideRow } from '$core/changer/side-view';

  interface Props {
    shape: ChangerShape;
    places: ReadonlyMap<number, PlaceRow>;
    /** The pocket in the middle. */
    centre: number;
    toEachSide: number;
    /** What is still legible, in the drawing's own measure. */
    least: number;
    /** Where the middle one's gauge line is drawn. */
    x: number;
    y: number;
    /** Where every pocket has its own place in the drawing, it hangs there. */
    under?: ReadonlyMap<number, { x: number }> | undefined;
  }
  let { shape, places, centre, toEachSide, least, x, y, under }: Props = $props();

  const text = $derived(shape.pitch * (traitsOf(shape).drawn === 'wheels' ? 0.34 : 0.24));
  const row = $derived(
    sideRow(shape, centre, toEachSide).map((each) => ({
      ...each,
      along: under?.get(each.number)?.x ?? each.along,
      assembly: places.get(each.number)?.assembly ?? null,
      place: places.get(each.number),
    })),
  );
  /** Tools beside each other, and where they come nearest; what merely hangs flange to flange says nothing. */
  const between = $derived(
    row.slice(1).flatMap((right, i) => {
      const left = row[i]!;
      if (!left.assembly || !right.assembly) return [];
      const apart = right.along - left.along;
      const found = sideBySide(left.assembly, right.assembly, apart);
      return found ? [{ ...found, left, right, middle: (left.along + right.along) / 2 }] : [];
    }),
  );
  const words = $derived(
    `From the side, pockets ${row.map((each) => each.number).join(', ')}: ${
      between.length === 0
        ? 'no two of them hang side by side'
        : between
            .map(({ left, right, gap, depth, how }) =>
              how === 'flanges'
                ? `T${left.place!.tool} and T${right.place!.tool} hang flange beside flange`
                : gap < 0
                  ? `T${left.place!.tool} and T${right.place!.tool} overlap by ${(-gap).toFixed(1)} mm, ${depth.toFixed(0)} mm below the gauge line`
                  : `T${left.place!.tool} and T${right.place!.tool} pass at ${gap.toFixed(1)} mm`,
            )
            .join(', ')
    }`,
  );
</script>

<g transform="translate({x} {y})" role="img" aria-label={words}>
  <path
    d="M{row[0]!.along - shape.pitch * 0.5} 0H{row.at(-1)!.along + shape.pitch * 0.5}"
    stroke="var(--color-accent)"
    stroke-width={shape.pitch / 90}
  />
  {#each row as { number, along, assembly, place } (number)}
    <g transform="translate({along} 0)">
      {#if assembly}
        {#each figures(assembly) as figure, i (i)}<path
            d="M{figure.map(([deep, across]) => `${across} ${deep}`).join('L')}Z"
            fill={number === centre ? 'var(--color-neutral)' : 'var(--color-base-300)'}
            stroke="currentColor"
            stroke-width={shape.pitch / 80}
            stroke-linejoin="round"
          />{/each}
      {:else}
        <path
          d="M{-shape.pitch * 0.3} 0V{shape.pitch * 0.22}H{shape.pitch * 0.3}V0"
          fill="none"
          stroke="currentColor"
          stroke-width={shape.pitch / 90}
          stroke-dasharray="{shape.pitch / 16} {shape.pitch / 20}"
          opacity={place?.inService ? 0.7 : 0.3}
        />
      {/if}
      <text
        y={-text * 0.35}
        text-anchor="middle"
        font-size={Math.max(least, text * 0.85)}
        font-weight={number === centre ? 700 : 400}>{assembly ? `T${place!.tool}` : number}</text
      >
    </g>
  {/each}
  {#each between as { left, gap, depth, middle, how } (left.number)}
    {#if how === 'tooNear'}<g class="text-accent" fill="currentColor"
        ><path
          d="M{middle - Math.max(text, -gap / 2)} {depth}H{middle + Math.max(text, -gap / 2)}"
          stroke="currentColor"
          stroke-width={shape.pitch / 24}
        /><text
          x={middle}
          y={depth + text}
          text-anchor="middle"
          font-size={Math.max(least, text)}
          font-weight="700"
          stroke="var(--color-base-100)"
          stroke-width={text / 5}
          paint-order="stroke">{gap.toFixed(1).replace('-', '−')}</text
        ></g
      >{/if}
  {/each}
</g>
