<script lang="ts">
  interface Props {
    places: number;
    /** The T that go through it next, in order. */
    staged: number[];
    pitch: number;
    /** Its middle line in the drawing. */
    top: number;
    worded: boolean;
    /** What is still legible, in the drawing's own measure. */
    least: number;
  }
  let { places, staged, pitch, top, worded, least }: Props = $props();
  const text = $derived(Math.max(least, pitch * 0.27));
</script>

<g
  role="img"
  aria-label="Loading tray of {places}: {staged.length > 0
    ? `T${staged.join(', T')} go through it next`
    : 'no job says what goes through it next'}"
>
  <rect
    x={-(places / 2) * pitch - pitch * 0.1}
    y={top - pitch * 0.55}
    width={(places + 0.2) * pitch}
    height={pitch * 1.1}
    rx={pitch * 0.15}
    fill="var(--color-base-200)"
    stroke="currentColor"
    stroke-width={pitch / 70}
  />
  {#each { length: places } as _, i (i)}
    <g transform="translate({(i - (places - 1) / 2) * pitch} {top})">
      <circle r={pitch * 0.4} fill="var(--color-base-100)" stroke="currentColor" stroke-width={pitch / 60} />
      {#if staged[i] && least < pitch * 0.5}<text
          y={text * 0.35}
          text-anchor="middle"
          font-size={text}
          font-weight="600">T{staged[i]}</text
        >{/if}
    </g>
  {/each}
  {#if worded}<text
      x={(places / 2 + 0.3) * pitch}
      y={top + text * 0.3}
      font-size={Math.max(least, text * 0.9)}
      opacity="0.8">loading tray</text
    >{/if}
</g>
