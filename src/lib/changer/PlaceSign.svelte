<script lang="ts">
  import { traitsOf } from '$core/changer/traits';
  import { sweptRadius } from '$core/assembly/silhouette';
  import { turningFiguresStanding } from '$core/assembly/turning-figure';
  import type { ChangerShape, PlaceSpot } from '$core/changer/layout';
  import { drawnRadius, drawnText } from '$core/changer/picture';
  import type { PlaceRow } from '$core/changer/place';
  import { litPath, shareLeft } from '$core/life/phase';

  interface Props {
    shape: ChangerShape;
    spot: PlaceSpot;
    place: PlaceRow;
    chosen: boolean;
    /** The drawing is about this pocket. */
    called: boolean;
    /** Kept free beside a wide tool. */
    beside: boolean;
    still: boolean;
    /** What is still legible, in the drawing's own measure. */
    least: number;
  }
  let { shape, spot, place, chosen, called, beside, still, least }: Props = $props();

  const tool = $derived(place.assembly);
  const drawn = $derived(traitsOf(shape).drawn);
  const turret = $derived(drawn === 'spokes');
  const pitch = $derived(shape.pitch);
  const text = $derived(drawnText(shape));
  /** A word that would run over its neighbours is left out: what stands there is said under the drawing, or where the place is chosen. */
  const room = $derived(least < pitch * 0.5);
  const written = (size: number) => Math.max(size, least);
  const ink = $derived(chosen ? 'var(--color-accent-content)' : 'currentColor');
  const radius = $derived(drawnRadius(shape, spot.number, place.cell));
  /** Where the pocket's painted number stands when a tool hides it. */
  const away = $derived(
    drawn === 'row' || drawn === 'grid'
      ? { x: 0, y: -pitch * 0.44 }
      : {
          x: Math.cos(spot.outward + Math.PI) * pitch * 0.56,
          y: Math.sin(spot.outward + Math.PI) * pitch * 0.56,
        },
  );
</script>

{#if turret}
  {#if tool}<g transform="rotate({(spot.outward * 180) / Math.PI})"
      >{#each turningFiguresStanding(tool) as figure, i (i)}<path
          d="M{figure.map((point) => point.join(' ')).join('L')}Z"
          fill={chosen ? 'var(--color-accent)' : 'var(--color-base-100)'}
          stroke="currentColor"
          stroke-width="1.4"
        />{/each}</g
    >{/if}
  <circle
    r={radius}
    fill={chosen ? 'var(--color-accent)' : 'var(--color-base-100)'}
    stroke="currentColor"
    stroke-width={pitch / 60}
  />
{:else}
  {#if place.wide}<circle
      r={pitch * 0.62}
      fill="none"
      stroke="currentColor"
      stroke-width={pitch / 40}
      stroke-dasharray="{pitch / 8} {pitch / 12}"
    />{/if}
  {#if called}<circle r={pitch * 0.6} fill="var(--color-warning)" opacity="0.55" />{/if}
  <circle
    r={radius}
    fill={chosen ? 'var(--color-accent)' : 'var(--color-base-100)'}
    stroke="currentColor"
    stroke-width={pitch / 60}
    stroke-dasharray={place.reserved && !tool ? `${pitch / 14} ${pitch / 20}` : undefined}
    opacity={place.inService ? 1 : 0.5}
  />
  {#if tool}<circle
      r={sweptRadius(tool)}
      fill={chosen ? 'none' : 'var(--color-base-300)'}
      stroke="currentColor"
      stroke-width={pitch / 80}
    />{/if}
{/if}
{#if place.heavy && !turret}
  <!-- a weight with its eye -->
  <g transform="translate({pitch * 0.34} {-pitch * 0.34}) scale({pitch * 0.12})">
    <circle cy="-1" r="0.55" fill="none" stroke="currentColor" stroke-width="0.4" />
    <path d="M-0.9 -0.6H0.9L1.4 1.1H-1.4Z" fill="currentColor" />
  </g>
{/if}
{#if beside}<path
    d="M{-pitch * 0.28} {pitch * 0.28}L{pitch * 0.28} {-pitch * 0.28}M{-pitch * 0.36} {pitch * 0.05}L{pitch *
      0.05} {-pitch * 0.36}M{-pitch * 0.05} {pitch * 0.36}L{pitch * 0.36} {-pitch * 0.05}"
    stroke="currentColor"
    stroke-width={pitch / 80}
    opacity="0.55"
  />{/if}
{#if !place.inService}<path
    d="M{-text} {-text}L{text} {text}M{text} {-text}L{-text} {text}"
    stroke="currentColor"
    stroke-width={text / 5}
  />{/if}
{#if tool}
  {#if room}<text
      y={text * 0.12}
      text-anchor="middle"
      font-size={written(text * 1.05)}
      font-weight="600"
      fill={ink}>T{place.tool}</text
    >{/if}
  <g transform="translate(0 {text * 0.75}) scale({text * 0.36})">
    {#if tool.flag}<path
        d="M-1 -1L1 1M1 -1L-1 1"
        stroke={chosen ? 'var(--color-accent-content)' : 'var(--color-accent)'}
        stroke-width="0.5"
      />
    {:else if tool.fullLife}
      <circle r="1" fill="var(--color-base-100)" stroke="currentColor" stroke-width="0.2" /><path
        d={litPath(shareLeft(tool.remaining ?? 0, tool.fullLife))}
        fill="var(--color-base-content)"
      />
    {/if}
    {#if !tool.measured}<circle
        r="1.35"
        fill="none"
        stroke="var(--color-accent)"
        stroke-width="0.3"
        stroke-dasharray="0.5 0.35"
      />{/if}
  </g>
{:else if !still && place.inService && room}
  <text y={text * 0.35} text-anchor="middle" font-size={written(text * 0.95)} opacity="0.75" fill={ink}
    >{spot.number === 0 ? 'T0' : spot.number}</text
  >
{/if}
{#if spot.number === 0 && !still && room}<text
    y={pitch * 0.72}
    text-anchor="middle"
    font-size={written(text * 0.75)}
    opacity="0.8">spindle</text
  >{/if}
{#if !still && tool && least < pitch * 0.3 && !turret && spot.number !== 0 && drawn !== 'grid' && drawn !== 'wheels'}<text
    x={away.x}
    y={away.y + text * 0.25}
    text-anchor="middle"
    font-size={written(text * 0.7)}
    opacity="0.8">{spot.number}</text
  >{/if}
