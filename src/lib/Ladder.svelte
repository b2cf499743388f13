<script lang="ts">
  import { atLeast, legible } from './legible';
  import { formatLength } from '$core/units/format-length';
  import { nanometres, type Length, type LengthUnit } from '$core/units/length';

  interface Props {
    nominal: Length;
    upper: Length;
    lower: Length;
    target: Length;
    reading?: Length | null;
    expected?: Length | null;
    /** Half the width of what the reading can be off by. */
    uncertainty?: Length;
    unit: LengthUnit;
    height?: number;
  }
  let {
    nominal,
    upper,
    lower,
    target,
    reading = null,
    expected = null,
    uncertainty = nanometres(0),
    unit,
    height = 190,
  }: Props = $props();

  const top = $derived(nominal + upper);
  const bottom = $derived(nominal + lower);
  const span = $derived.by(() => {
    const width = top - bottom;
    const points = [reading, expected].filter((value) => value !== null);
    const high = Math.min(Math.max(top, ...points), top + width * 1.5);
    const low = Math.max(Math.min(bottom, ...points), bottom - width * 1.5);
    return { high: high + width * 0.18, low: low - width * 0.18 };
  });
  const y = (value: number) =>
    Math.min(height - 4, Math.max(4, ((span.high - value) / (span.high - span.low)) * height));
  /** Where words beside a height stand: at its level, and never cut off by the edge. */
  const textY = (value: number, down = 5) => Math.min(height - 3, Math.max(13, y(value) + down));
  const beyond = (value: number) => (value > span.high ? ' ↑' : value < span.low ? ' ↓' : '');
  const show = (value: number) => formatLength(nanometres(value), unit);
  const label = $derived(
    `Limits ${show(bottom)} to ${show(top)} ${unit}, target ${show(target)}${reading === null ? '' : `, reading ${show(reading)}`}${expected === null ? '' : `, after the correction ${show(expected)}`}`,
  );
  const rungs = $derived(Array.from({ length: 9 }, (_, i) => bottom + ((top - bottom) * i) / 8));
</script>

<svg
  viewBox="0 0 300 {height}"
  class="block w-full max-w-80"
  role="img"
  aria-label={label}
  font-family="var(--font-narrow)"
  use:legible
  font-size={atLeast(14)}
  fill="currentColor"
>
  <rect x="92" y={y(top)} width="56" height={y(bottom) - y(top)} fill="var(--color-base-200)" />
  {#each rungs as rung, i (i)}<path
      d="M92 {y(rung)}H148"
      stroke="currentColor"
      stroke-width={i % 8 === 0 ? 2 : 0.7}
    />{/each}
  <path d="M92 4V{height - 4}M148 4V{height - 4}" stroke="currentColor" stroke-width="2" />
  <text x="84" y={textY(top)} text-anchor="end">{show(top)}</text>
  <text x="84" y={textY(bottom)} text-anchor="end">{show(bottom)}</text>
  <path d="M86 {y(target)}H154" stroke="currentColor" stroke-width="1.5" stroke-dasharray="5 3" />
  {#if Math.abs(y(target) - y(top)) > 15 && Math.abs(y(target) - y(bottom)) > 15}
    <text x="84" y={textY(target)} text-anchor="end" font-weight="600">{show(target)}</text>
  {/if}
  {#if reading !== null}
    {#if uncertainty > 0}<path
        d="M160 {y(reading + uncertainty)}V{y(reading - uncertainty)}"
        stroke="var(--color-accent)"
        stroke-width="5"
        opacity="0.35"
      />{/if}
    <path d="M150 {y(reading)}l12 -7v14Z" fill="var(--color-accent)" />
    <text x="168" y={textY(reading)} font-weight="600">{show(reading)} read{beyond(reading)}</text>
  {/if}
  {#if expected !== null}
    {@const crowded = reading !== null && Math.abs(y(reading) - y(expected)) < 16}
    <circle
      cx="156"
      cy={y(expected)}
      r="5"
      fill="var(--color-base-100)"
      stroke="currentColor"
      stroke-width="2"
    />
    <text x="168" y={textY(expected, crowded ? (expected < (reading ?? 0) ? 18 : -8) : 5)}
      >{show(expected)} after</text
    >
    {#if reading !== null}<path
        d="M124 {y(reading)}V{y(expected)}"
        stroke="currentColor"
        stroke-width="1.4"
      />{/if}
  {/if}
</svg>
