<script lang="ts">
  import type { Flag } from '$core/life/flag';
  import { litPath, phaseOf, shareLeft } from '$core/life/phase';
  import type { LifeBasis } from '$core/life/count';
  import { lifeWords } from './words';

  interface Props {
    remaining?: number | null;
    fullLife?: number | null;
    basis?: LifeBasis | null;
    flag?: Flag | null;
    measured?: boolean;
    size?: number;
    /** Show the number beside the disc. */
    number?: boolean;
  }
  let {
    remaining = null,
    fullLife = null,
    basis = null,
    flag = null,
    measured = true,
    size = 22,
    number = true,
  }: Props = $props();

  const share = $derived(fullLife ? shareLeft(remaining ?? 0, fullLife) : null);
  const words = $derived(
    [
      flag,
      measured ? null : 'not measured',
      share === null ? 'not counted' : `${phaseOf(share)}, ${lifeWords(remaining ?? 0, basis!)} left`,
    ]
      .filter(Boolean)
      .join(', '),
  );
</script>

<span class="inline-flex items-center gap-1.5 whitespace-nowrap">
  <svg
    width={size}
    height={size}
    viewBox="-1.25 -1.25 2.5 2.5"
    role="img"
    aria-label={words}
    class="shrink-0 print:size-[1em]"
  >
    {#if flag === 'broken'}
      <path
        d="M-1 -1L-0.15 -0.2L-0.5 0.1L0.35 0.25L1 1"
        fill="none"
        stroke="var(--color-accent)"
        stroke-width="0.34"
      />
      <path d="M1 -1L0.2 -0.3M-0.3 0.4L-1 1" fill="none" stroke="var(--color-accent)" stroke-width="0.34" />
    {:else if flag === 'locked'}
      <rect x="-0.85" y="-0.2" width="1.7" height="1.2" fill="currentColor" />
      <path
        d="M-0.5 -0.2V-0.55A0.5 0.5 0 0 1 0.5 -0.55V-0.2"
        fill="none"
        stroke="currentColor"
        stroke-width="0.24"
      />
    {:else if share === null}
      <path d="M-0.7 0H0.7" stroke="currentColor" stroke-width="0.16" />
    {:else}
      <circle
        r="1"
        fill="var(--color-base-100)"
        stroke={share <= 0 || flag === 'expired' ? 'var(--color-accent)' : 'currentColor'}
        stroke-width="0.13"
      />
      {#if share <= 0 || flag === 'expired'}
        <path
          d="M-0.55 -0.55L0.55 0.55M0.55 -0.55L-0.55 0.55"
          stroke="var(--color-accent)"
          stroke-width="0.2"
        />
      {:else}
        <path d={litPath(share)} fill="currentColor" />
      {/if}
    {/if}
    {#if !measured}
      <circle
        r="1.16"
        fill="none"
        stroke="var(--color-accent)"
        stroke-width="0.16"
        stroke-dasharray="0.32 0.26"
      />
    {/if}
  </svg>
  {#if number && share !== null}<span aria-hidden="true">{lifeWords(remaining ?? 0, basis!)}</span>{/if}
</span>
