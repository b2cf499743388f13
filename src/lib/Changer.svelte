<script lang="ts">
  import { silhouette, sweptRadius, type AssemblyShape } from '$core/assembly/silhouette';
  import { changerLayout, type ChangerShape } from '$core/changer/layout';
  import type { PlaceRow } from '$core/changer/place';
  import { litPath, shareLeft } from '$core/life/phase';
  import { placeWord } from './words';

  interface Props {
    shape: ChangerShape;
    places: PlaceRow[];
    selected?: number | null;
    onselect?: (placeId: number) => void;
    /** A small drawing without interaction. */
    still?: boolean;
  }
  let { shape, places, selected = null, onselect, still = false }: Props = $props();

  const spots = $derived(changerLayout(shape));
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
      Math.max(...ys) + reach,
    ];
    return { left, top, width: right - left, height: bottom - top };
  });
  const text = $derived(shape.pitch * (turret ? 0.2 : 0.27));
  const hub = $derived(shape.kind === 'randomAccess' || shape.kind === 'fixedCarousel' || turret);

  const describe = (place: PlaceRow) =>
    `${placeWord(shape.kind)} ${place.number}: ${place.assembly ? `T${place.tool}, ${place.assembly.number} ${place.assembly.name}${place.assembly.flag ? `, ${place.assembly.flag}` : ''}${place.assembly.measured ? '' : ', not measured since loading'}` : place.inService ? (place.reserved ? 'reserved' : 'empty') : 'out of service'}`;

  /** A lathe tool stands out of the turret, drawn from above at true size. */
  const standing = (assembly: AssemblyShape) => {
    const half = silhouette(assembly);
    const stub = assembly.stickOut / 1e6 + 34;
    const length = Math.max(...half.map(([along]) => along));
    const kept = half.map(([along, r]) => [Math.max(0, along - (length - stub)), r] as const);
    return [
      ...kept.map(([along, r]) => `${along} ${r}`),
      ...[...kept].reverse().map(([along, r]) => `${along} ${-r}`),
    ].join('L');
  };

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
  class={['block w-full', still ? 'max-h-52' : 'max-h-[70vh]']}
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
        onkeydown={(event) => onkeydown(event, index)}
      >
        {#if turret}
          {#if tool}<g transform="rotate({(spot.outward * 180) / Math.PI})"
              ><path
                d="M{standing(tool)}Z"
                fill={chosen ? 'var(--color-accent)' : 'var(--color-base-100)'}
                stroke="currentColor"
                stroke-width="1.4"
              /></g
            >{/if}
          <circle
            r={shape.pitch * 0.26}
            fill={chosen ? 'var(--color-accent)' : 'var(--color-base-100)'}
            stroke="currentColor"
            stroke-width={shape.pitch / 60}
          />
        {:else}
          <circle
            r={shape.pitch * 0.4}
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
            fill={chosen ? 'var(--color-accent-content)' : 'currentColor'}>{spot.number}</text
          >
        {/if}
        {#if !still && tool && !turret}
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
</svg>
