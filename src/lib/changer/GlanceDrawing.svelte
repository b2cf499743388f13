<script lang="ts">
  import type { Dots, Glance } from '$core/changer/glance';
  import { LEAST } from '../legible';
  import LoadingTray from './LoadingTray.svelte';

  interface Props {
    glance: Glance;
  }
  let { glance }: Props = $props();
  const pitch = $derived(glance.pitch);

  /** How large the drawing is shown: pixels of its place, and so for each millimetre. */
  let [across, high] = $state([0, 0]);
  const scale = $derived.by(() => {
    const [, , width, height] = glance.box.split(' ').map(Number);
    return across > 0 ? Math.min(across / width!, high / height!) : 0;
  });
  const least = $derived(scale > 0 ? LEAST / scale : Infinity);
  /** A word that would run over its neighbours is left out. */
  const named = $derived(least < pitch * 0.5);
</script>

{#snippet discs(of: Dots[], fill: string, edge: number)}
  {#each of as { radius, path } (radius)}
    <path d={path} stroke="currentColor" stroke-width={2 * radius + edge} />
    <path d={path} stroke={fill} stroke-width={2 * radius - edge} />
  {/each}
{/snippet}

<svg
  viewBox={glance.box}
  bind:clientWidth={across}
  bind:clientHeight={high}
  class="block max-h-52 w-full"
  role="img"
  aria-label="The magazine, drawn to scale"
  font-family="var(--font-narrow)"
  fill="none"
>
  {#if glance.hub !== null}<circle
      r={glance.hub}
      fill={glance.turret ? 'var(--color-base-300)' : 'none'}
      stroke="currentColor"
      stroke-width={pitch / 90}
      opacity={glance.turret ? 1 : 0.35}
    />{/if}
  {#if glance.loading}<LoadingTray
      {...glance.loading}
      staged={[]}
      {pitch}
      worded={false}
      least={Number.isFinite(least) ? least : LEAST}
    />{/if}
  {#if glance.figures}<path
      d={glance.figures}
      fill="var(--color-base-100)"
      stroke="currentColor"
      stroke-width="1.4"
    />{/if}
  {#if glance.wide}<path
      d={glance.wide}
      stroke="currentColor"
      stroke-width={pitch / 40}
      stroke-dasharray="{pitch / 8} {pitch / 12}"
    />{/if}
  <g stroke-linecap="round">{@render discs(glance.pockets, 'var(--color-base-100)', pitch / 60)}</g>
  {#if glance.reserved}<path
      d={glance.reserved}
      fill="var(--color-base-100)"
      stroke="currentColor"
      stroke-width={pitch / 60}
      stroke-dasharray="{pitch / 14} {pitch / 20}"
    />{/if}
  {#if glance.crosses}
    <g stroke-linecap="round" opacity="0.5"
      >{@render discs(glance.out, 'var(--color-base-100)', pitch / 60)}</g
    >
    <path d={glance.crosses} stroke="currentColor" stroke-width={pitch / 20} />
  {/if}
  {#if glance.beside}<path
      d={glance.beside}
      stroke="currentColor"
      stroke-width={pitch / 80}
      opacity="0.55"
    />{/if}
  <g stroke-linecap="round">
    {@render discs(glance.tools, 'var(--color-base-300)', pitch / 80)}
    {@render discs(glance.dials, 'var(--color-base-100)', pitch / 50)}
  </g>
  {#if glance.heavy}<path
      d={glance.heavy}
      fill="currentColor"
      stroke="currentColor"
      stroke-width={pitch / 60}
    />{/if}
  {#if glance.lit}<path d={glance.lit} fill="var(--color-base-content)" />{/if}
  {#if glance.flagged}<path d={glance.flagged} stroke="var(--color-accent)" stroke-width={pitch / 20} />{/if}
  {#if glance.unmeasured}<path
      d={glance.unmeasured}
      stroke="var(--color-accent)"
      stroke-width={pitch / 34}
      stroke-dasharray="{pitch / 20} {pitch / 29}"
    />{/if}
  {#if glance.struck}<path d={glance.struck} stroke="var(--color-accent)" stroke-width={pitch / 20} />{/if}
  {#if named}
    <g text-anchor="middle" font-weight="600" fill="currentColor"
      >{#each glance.names as { x, y, tool, size } (tool)}<text {x} {y} font-size={Math.max(size, least)}
          >T{tool}</text
        >{/each}</g
    >
  {/if}
</svg>
