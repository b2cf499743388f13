<script lang="ts">
  import { figuresStanding, sweptRadius } from '$core/assembly/silhouette';
  import { clashes, hangingRadius } from '$core/changer/clearance';
  import { changerLayout, type ChangerShape } from '$core/changer/layout';
  import { pocketsTaken } from '$core/changer/wide';
  import type { PlaceRow } from '$core/changer/place';
  import { litPath, shareLeft } from '$core/life/phase';
  import { placeWord } from './words';

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
  }: Props = $props();

  const pockets = $derived(changerLayout(shape));
  const ring = $derived(shape.kind === 'randomAccess' || shape.kind === 'fixedCarousel');
  /** The spindle stands in the middle of a ring, and below everything else. */
  const spots = $derived(
    shape.kind === 'turret'
      ? pockets
      : [
          ...pockets,
          {
            number: 0,
            x: 0,
            y: ring ? 0 : Math.max(...pockets.map((spot) => spot.y)) + (loading ? 2.9 : 1.5) * shape.pitch,
            outward: -Math.PI / 2,
          },
        ],
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
                mass: place.assembly.mass,
              },
            ]
          : [],
      ),
      0,
    ),
  );
  const spotOf = $derived(new Map(spots.map((spot) => [spot.number, spot])));
  const wide = $derived(places.filter((place) => place.wide).map((place) => place.number));
  const beside = $derived(new Set([...pocketsTaken(shape, wide)].filter((number) => !wide.includes(number))));
  const byNumber = $derived(new Map(places.map((place) => [place.number, place])));
  const turret = $derived(shape.kind === 'turret');
  const reach = $derived(turret ? 95 : shape.pitch * 0.62);
  const box = $derived.by(() => {
    const xs = spots.map((spot) => spot.x);
    const ys = spots.map((spot) => spot.y);
    const [left, right, top, bottom] = [
      Math.min(...xs) - reach,
      Math.max(...xs) + reach,
      Math.min(...ys) - reach,
      Math.max(...ys) + reach + (turret || ring || still ? 0 : shape.pitch * 0.35),
    ];
    return { left, top, width: right - left, height: bottom - top };
  });
  const text = $derived(shape.pitch * (turret ? 0.2 : 0.27));
  const hub = $derived(shape.kind === 'randomAccess' || shape.kind === 'fixedCarousel' || turret);

  const describe = (place: PlaceRow) =>
    `${place.number === 0 ? 'spindle' : `${placeWord(shape.kind)} ${place.number}`}${place.wide ? `, declared wide for T${place.tied}` : ''}: ${place.assembly ? `T${place.tool}, ${place.assembly.number} ${place.assembly.name}${place.assembly.flag ? `, ${place.assembly.flag}` : ''}${place.assembly.measured ? '' : ', not measured since loading'}` : place.inService ? (place.reserved ? 'reserved' : beside.has(place.number) ? 'empty, kept free beside a wide tool' : 'empty') : 'out of service'}`;

  /** A tool under the finger: where it came from, and where the finger is now, in the drawing's own measure. */
  let drag = $state<{ from: number; x: number; y: number; moved: boolean } | null>(null);
  let svg: SVGSVGElement | undefined = $state();
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
      const near = spots
        .map((spot) => ({ number: spot.number, apart: Math.hypot(spot.x - x, spot.y - y) }))
        .sort((a, b) => a.apart - b.apart)[0]!;
      if (near.apart < shape.pitch * 0.6 && near.number !== from) ondragged?.(from, near.number);
    }
    drag = null;
  }

  function onkeydown(event: KeyboardEvent, index: number) {
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
  viewBox="{box.left} {box.top} {box.width} {box.height}"
  bind:this={svg}
  class={[
    'block w-full',
    still ? (called === null && !large ? 'max-h-52' : 'max-h-80') : 'max-h-[70vh]',
    ondragged && 'touch-pan-y select-none',
  ]}
  {onpointermove}
  {onpointerup}
  onpointercancel={() => (drag = null)}
  role={still ? 'img' : 'group'}
  aria-label="The magazine, drawn to scale"
  font-family="var(--font-narrow)"
  fill="currentColor"
>
  {#if hub}<circle
      r={Math.abs(spots[0]!.y) - (turret ? 0 : shape.pitch * 0.7)}
      fill={turret ? 'var(--color-base-300)' : 'none'}
      stroke="currentColor"
      stroke-width={shape.pitch / 90}
      opacity={turret ? 1 : 0.35}
    />{/if}
  {#if loading}
    {@const top = Math.max(...pockets.map((spot) => spot.y)) + 1.4 * shape.pitch}
    <g
      role="img"
      aria-label="Loading tray of {loading.places}: {loading.staged.length > 0
        ? `T${loading.staged.join(', T')} go through it next`
        : 'no job says what goes through it next'}"
    >
      <rect
        x={-(loading.places / 2) * shape.pitch - shape.pitch * 0.1}
        y={top - shape.pitch * 0.55}
        width={(loading.places + 0.2) * shape.pitch}
        height={shape.pitch * 1.1}
        rx={shape.pitch * 0.15}
        fill="var(--color-base-200)"
        stroke="currentColor"
        stroke-width={shape.pitch / 70}
      />
      {#each { length: loading.places } as _, i (i)}
        <g transform="translate({(i - (loading.places - 1) / 2) * shape.pitch} {top})">
          <circle
            r={shape.pitch * 0.4}
            fill="var(--color-base-100)"
            stroke="currentColor"
            stroke-width={shape.pitch / 60}
          />
          {#if loading.staged[i]}<text y={text * 0.35} text-anchor="middle" font-size={text} font-weight="600"
              >T{loading.staged[i]}</text
            >{/if}
        </g>
      {/each}
      {#if !still}<text
          x={(loading.places / 2 + 0.3) * shape.pitch}
          y={top + text * 0.3}
          font-size={text * 0.9}
          opacity="0.8">loading tray</text
        >{/if}
    </g>
  {/if}
  {#each spots as spot, index (spot.number)}
    {@const place = byNumber.get(spot.number)}
    {#if place}
      {@const tool = place.assembly}
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
        {#if turret}
          {#if tool}<g transform="rotate({(spot.outward * 180) / Math.PI})"
              >{#each figuresStanding(tool) as figure, i (i)}<path
                  d="M{figure.map((point) => point.join(' ')).join('L')}Z"
                  fill={chosen ? 'var(--color-accent)' : 'var(--color-base-100)'}
                  stroke="currentColor"
                  stroke-width="1.4"
                />{/each}</g
            >{/if}
          <circle
            r={shape.pitch * 0.26}
            fill={chosen ? 'var(--color-accent)' : 'var(--color-base-100)'}
            stroke="currentColor"
            stroke-width={shape.pitch / 60}
          />
        {:else}
          {#if place.wide}<circle
              r={shape.pitch * 0.62}
              fill="none"
              stroke="currentColor"
              stroke-width={shape.pitch / 40}
              stroke-dasharray="{shape.pitch / 8} {shape.pitch / 12}"
            />{/if}
          {#if called === place.number}<circle
              r={shape.pitch * 0.6}
              fill="var(--color-warning)"
              opacity="0.55"
            />{/if}
          <circle
            r={shape.pitch * (spot.number === 0 ? 0.46 : 0.4)}
            fill={chosen ? 'var(--color-accent)' : 'var(--color-base-100)'}
            stroke="currentColor"
            stroke-width={shape.pitch / 60}
            stroke-dasharray={place.reserved && !tool ? `${shape.pitch / 14} ${shape.pitch / 20}` : undefined}
            opacity={place.inService ? 1 : 0.5}
          />
          {#if tool}<circle
              r={sweptRadius(tool)}
              fill={chosen ? 'none' : 'var(--color-base-300)'}
              stroke="currentColor"
              stroke-width={shape.pitch / 80}
            />{/if}
        {/if}
        {#if beside.has(place.number)}<path
            d="M{-shape.pitch * 0.28} {shape.pitch * 0.28}L{shape.pitch * 0.28} {-shape.pitch *
              0.28}M{-shape.pitch * 0.36} {shape.pitch * 0.05}L{shape.pitch * 0.05} {-shape.pitch *
              0.36}M{-shape.pitch * 0.05} {shape.pitch * 0.36}L{shape.pitch * 0.36} {-shape.pitch * 0.05}"
            stroke="currentColor"
            stroke-width={shape.pitch / 80}
            opacity="0.55"
          />{/if}
        {#if !place.inService}<path
            d="M{-text} {-text}L{text} {text}M{text} {-text}L{-text} {text}"
            stroke="currentColor"
            stroke-width={text / 5}
          />{/if}
        {#if tool}
          <text
            y={text * 0.12}
            text-anchor="middle"
            font-size={text * 1.05}
            font-weight="600"
            fill={chosen ? 'var(--color-accent-content)' : 'currentColor'}>T{place.tool}</text
          >
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
        {:else if !still && place.inService}
          <text
            y={text * 0.35}
            text-anchor="middle"
            font-size={text * 0.95}
            opacity="0.75"
            fill={chosen ? 'var(--color-accent-content)' : 'currentColor'}
            >{spot.number === 0 ? 'T0' : spot.number}</text
          >
        {/if}
        {#if spot.number === 0 && !still}<text
            y={shape.pitch * 0.72}
            text-anchor="middle"
            font-size={text * 0.75}
            opacity="0.8">spindle</text
          >{/if}
        {#if !still && tool && !turret && spot.number !== 0}
          {@const away =
            shape.kind === 'rack' || shape.kind === 'tray'
              ? { x: 0, y: -shape.pitch * 0.44 }
              : {
                  x: Math.cos(spot.outward + Math.PI) * shape.pitch * 0.56,
                  y: Math.sin(spot.outward + Math.PI) * shape.pitch * 0.56,
                }}
          {#if shape.kind !== 'tray' && shape.kind !== 'chain'}<text
              x={away.x}
              y={away.y + text * 0.25}
              text-anchor="middle"
              font-size={text * 0.7}
              opacity="0.8">{spot.number}</text
            >{/if}
        {/if}
      </g>
    {/if}
  {/each}
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
      /><text text-anchor="middle" font-size={text} font-weight="600" y={text * 0.35}
        >T{byNumber.get(drag.from)!.tool}</text
      ></g
    >{/if}
</svg>
