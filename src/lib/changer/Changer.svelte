<script lang="ts">
  import { traitsOf } from '$core/changer/traits';
  import { sweptRadius } from '$core/assembly/silhouette';
  import { clashes, hangingRadius } from '$core/changer/clearance';
  import type { ChangerShape } from '$core/changer/layout';
  import { picture } from '$core/changer/picture';
  import { pocketsTaken } from '$core/changer/wide';
  import type { PlaceRow } from '$core/changer/place';
  import { inUnit } from '$core/units/length';
  import { placeWord } from '../words';
  import { LEAST } from '../legible';
  import LoadingTray from './LoadingTray.svelte';
  import PlaceSign from './PlaceSign.svelte';
  import SideView from './SideView.svelte';

  /** Smaller nobody hits it with a glove on, pixels. */
  const FINGER = 44;

  interface Props {
    shape: ChangerShape;
    places: PlaceRow[];
    selected?: number | null;
    onselect?: (placeId: number) => void;
    /** A tool was dragged from one place to another (0 is the spindle). */
    ondragged?: (from: number, to: number) => void;
    /** The pocket a picture is about. */
    called?: number | null;
    /** Places of the tray that feeds the machine from an outside tray, and the T that go through it next. */
    loading?: { places: number; staged: number[] } | null;
    /** A drawing without interaction, small unless it is about a pocket or said to be large. */
    still?: boolean;
    large?: boolean;
    /** The pockets about this one are drawn from the side too. */
    fromSide?: number | null;
  }
  let {
    shape,
    places,
    selected = null,
    onselect,
    ondragged,
    called = null,
    loading = null,
    still = false,
    large = false,
    fromSide = null,
  }: Props = $props();

  const assemblies = $derived(
    places.flatMap((place) => (place.assembly && place.kind === 'pocket' ? [place.assembly] : [])),
  );
  const laid = $derived(
    picture(shape, {
      still,
      loading: loading !== null,
      side:
        fromSide === null
          ? null
          : {
              tallest: Math.max(shape.pitch, ...assemblies.map((each) => inUnit(each.gaugeLength, 'mm'))),
              halfWidest: Math.max(shape.pitch * 0.4, ...assemblies.map(sweptRadius)),
            },
    }),
  );
  const struck = $derived(
    clashes(
      shape,
      places.flatMap((place) =>
        place.assembly && place.kind === 'pocket'
          ? [
              {
                pocket: place.number,
                tool: place.tool!,
                radius: hangingRadius(shape, place.assembly),
                mass: null,
              },
            ]
          : [],
      ),
      0,
    ),
  );
  const spotOf = $derived(new Map(laid.spots.map((spot) => [spot.number, spot])));
  const wide = $derived(places.filter((place) => place.wide).map((place) => place.number));
  const beside = $derived(new Set([...pocketsTaken(shape, wide)].filter((number) => !wide.includes(number))));
  const byNumber = $derived(new Map(places.map((place) => [place.number, place])));
  const turret = $derived(traitsOf(shape).drawn === 'spokes');

  const describe = (place: PlaceRow) =>
    `${place.number === 0 ? 'spindle' : `${placeWord(shape.kind)} ${place.number}`}${place.wide ? `, declared wide for T${place.tied}` : ''}${place.heavy ? ', heavy' : ''}: ${place.assembly ? `T${place.tool}, ${place.assembly.number} ${place.assembly.name}${place.assembly.flag ? `, ${place.assembly.flag}` : ''}${place.assembly.measured ? '' : ', not measured since loading'}` : place.inService ? (place.reserved ? 'reserved' : beside.has(place.number) ? 'empty, kept free beside a wide tool' : 'empty') : 'out of service'}`;

  /** A tool under the finger: where it came from, and where the finger is now, in the drawing's own measure. */
  let drag = $state<{ from: number; x: number; y: number; moved: boolean } | null>(null);
  let svg: SVGSVGElement | undefined = $state();
  /** How large the drawing is shown: pixels of its place, and so for each millimetre. */
  let [across, high] = $state([0, 0]);
  const scale = $derived(across > 0 ? Math.min(across / laid.box.width, high / laid.box.height) : 1);
  /** What eleven pixels are in the drawing's own measure: smaller no word is written. */
  const least = $derived(LEAST / scale);
  /** Too close together for a finger: each pocket has a button of its own under the drawing too. */
  const crowded = $derived(!still && across > 0 && shape.pitch * (turret ? 0.52 : 0.8) * scale < FINGER);
  const pointIn = (event: PointerEvent) =>
    new DOMPoint(event.clientX, event.clientY).matrixTransform(svg!.getScreenCTM()!.inverse());
  function onpointerdown(event: PointerEvent, number: number) {
    if (!ondragged || !byNumber.get(number)?.assembly || event.button !== 0) return;
    const { x, y } = pointIn(event);
    drag = { from: number, x, y, moved: false };
  }
  function onpointermove(event: PointerEvent) {
    if (!drag) return;
    const { x, y } = pointIn(event);
    const far = Math.hypot(x - drag.x, y - drag.y) > shape.pitch * 0.25;
    if (drag.moved || far) {
      drag = { ...drag, x, y, moved: true };
      svg!.setPointerCapture(event.pointerId);
    }
  }
  function onpointerup() {
    if (drag?.moved) {
      const { from, x, y } = drag;
      const near = laid.spots
        .map((spot) => ({ number: spot.number, apart: Math.hypot(spot.x - x, spot.y - y) }))
        .sort((a, b) => a.apart - b.apart)[0]!;
      if (near.apart < shape.pitch * 0.6 && near.number !== from) ondragged?.(from, near.number);
    }
    drag = null;
  }

  function onkeydown(event: KeyboardEvent, index: number) {
    const { spots } = laid;
    const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      onselect?.(byNumber.get(spots[index]!.number)!.id);
    } else if (step) {
      event.preventDefault();
      const next = spots[(index + step + spots.length) % spots.length]!;
      const group = (event.currentTarget as Element).parentElement;
      group?.querySelector<SVGElement>(`[data-pocket="${next.number}"]`)?.focus();
    }
  }
</script>

<svg
  viewBox="{laid.box.left} {laid.box.top} {laid.box.width} {laid.box.height}"
  bind:this={svg}
  bind:clientWidth={across}
  bind:clientHeight={high}
  class={[
    'block w-full',
    still ? (called === null && !large ? 'max-h-52' : 'max-h-80') : 'max-h-[74vh]',
    ondragged && (traitsOf(shape).drawn === 'wheels' ? 'touch-pan-x touch-pan-y' : 'touch-pan-y'),
    ondragged && 'select-none',
  ]}
  {onpointermove}
  {onpointerup}
  onpointercancel={() => (drag = null)}
  role={still ? 'img' : 'group'}
  aria-label="The magazine, drawn to scale"
  font-family="var(--font-narrow)"
  fill="currentColor"
>
  {#if laid.hub !== null}<circle
      r={laid.hub}
      fill={turret ? 'var(--color-base-300)' : 'none'}
      stroke="currentColor"
      stroke-width={shape.pitch / 90}
      opacity={turret ? 1 : 0.35}
    />{/if}
  {#if loading && laid.loadingTop !== null}<LoadingTray
      {...loading}
      pitch={shape.pitch}
      top={laid.loadingTop}
      worded={!still}
      {least}
    />{/if}
  {#each laid.spots as spot, index (spot.number)}
    {@const place = byNumber.get(spot.number)}
    {#if place}
      {@const chosen = selected === place.id}
      <!-- svelte-ignore a11y_no_noninteractive_tabindex (a button, except in the small drawing that takes no focus) -->
      <g
        transform="translate({spot.x} {spot.y})"
        role={still ? undefined : 'button'}
        tabindex={still ? undefined : chosen || (selected === null && index === 0) ? 0 : -1}
        aria-label={still ? undefined : describe(place)}
        aria-pressed={still ? undefined : chosen}
        data-pocket={spot.number}
        class={still ? '' : 'cursor-pointer'}
        onclick={() => onselect?.(place.id)}
        onpointerdown={(event) => onpointerdown(event, spot.number)}
        onkeydown={(event) => onkeydown(event, index)}
      >
        <PlaceSign
          {shape}
          {spot}
          {place}
          {chosen}
          {still}
          {least}
          called={called === place.number}
          beside={beside.has(place.number)}
        />
      </g>
    {/if}
  {/each}
  {#if laid.side && fromSide !== null}<SideView
      {shape}
      places={byNumber}
      centre={fromSide}
      toEachSide={laid.side.toEachSide}
      {least}
      x={laid.side.x}
      y={laid.side.y}
      under={traitsOf(shape).drawn === 'row' ? spotOf : undefined}
    />{/if}
  {#each struck as { a, b, gap } (`${a.pocket} ${b.pocket}`)}
    {@const [p, q] = [spotOf.get(a.pocket)!, spotOf.get(b.pocket)!]}
    <g aria-label="T{a.tool} and T{b.tool} overlap by {(-gap).toFixed(1)} mm" role="img">
      <line
        x1={p.x}
        y1={p.y}
        x2={q.x}
        y2={q.y}
        stroke="var(--color-accent)"
        stroke-width={shape.pitch / 20}
      />
    </g>
  {/each}
  {#if drag?.moved}<g transform="translate({drag.x} {drag.y})" pointer-events="none" class="text-accent"
      ><circle
        r={sweptRadius(byNumber.get(drag.from)!.assembly!)}
        fill="var(--color-accent)"
        opacity="0.35"
      /><text
        text-anchor="middle"
        font-size={Math.max(least, shape.pitch * 0.27)}
        font-weight="600"
        y={shape.pitch * 0.1}>T{byNumber.get(drag.from)!.tool}</text
      ></g
    >{/if}
</svg>
{#if crowded}
  <div
    role="group"
    aria-label="Every {placeWord(shape.kind)}"
    class="no-print mt-2 grid grid-cols-[repeat(auto-fill,minmax(2.9rem,1fr))] gap-1"
  >
    {#each places.filter(({ kind }) => kind !== 'spindle') as place (place.id)}
      <button
        type="button"
        class={['btn flex-col gap-0 px-1 leading-tight', selected === place.id && 'btn-accent']}
        aria-pressed={selected === place.id}
        aria-label="{place.number}, {place.assembly
          ? `T${place.tool}`
          : place.inService
            ? 'empty'
            : 'out of service'}"
        onclick={() => onselect?.(place.id)}
        ><span class="text-xs font-normal">{place.number}</span>{place.assembly
          ? `T${place.tool}`
          : place.inService
            ? '–'
            : '×'}</button
      >
    {/each}
  </div>
{/if}
