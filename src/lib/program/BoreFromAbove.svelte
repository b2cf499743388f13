<script lang="ts">
  import { vectorOf, type BoringView } from '$core/program/boring-view';
  import { shiftWords } from '$core/program/boring-shift';

  let { view, words }: { view: BoringView; words: string } = $props();
  const [SIZE, RADIUS, BAR] = [220, 84, 56];
  const middle = SIZE / 2;
  /** A shift is drawn as long as it can be seen, not to scale. */
  const STEP = 26;
  const shift = $derived(view.shift ? vectorOf(view.shift) : null);
  const tip = $derived(view.tip ? vectorOf(view.tip) : null);
  const bad = $derived(view.verdict === 'wall');
  const ink = $derived(bad ? 'var(--color-accent)' : 'currentColor');
  /** The bar with its tip on the wall, the tip drawn as a triangle. */
  const nose = (tx: number, ty: number) => {
    const [x, y] = [middle + tx * RADIUS, middle - ty * RADIUS];
    const [bx, by] = [middle + tx * BAR, middle - ty * BAR];
    return `M${x} ${y}L${bx + ty * 12} ${by + tx * 12}L${bx - ty * 12} ${by - tx * 12}Z`;
  };
</script>

<svg viewBox="0 0 {SIZE} {SIZE}" class="w-full max-w-56 shrink-0 self-start" role="img" aria-label={words}>
  <circle cx={middle} cy={middle} r={RADIUS} fill="none" stroke="currentColor" stroke-width="3" />
  <g stroke="var(--color-base-300)">
    <line x1="6" x2={SIZE - 6} y1={middle} y2={middle} />
    <line x1={middle} x2={middle} y1="6" y2={SIZE - 6} />
  </g>
  <text x={SIZE - 4} y={middle + 16} text-anchor="end" font-size="13" fill="currentColor">X+</text>
  <text x={middle + 6} y="14" font-size="13" fill="currentColor">Y+</text>
  <circle cx={middle} cy={middle} r={BAR} fill="none" stroke="currentColor" stroke-dasharray="4 4" />
  {#if tip}
    <path d={nose(tip[0], tip[1])} fill="currentColor" />
    {#if shift}
      <g transform="translate({shift[0] * STEP} {-shift[1] * STEP})" opacity="0.9">
        <circle cx={middle} cy={middle} r={BAR} fill="none" stroke={ink} stroke-width="2" />
        <path d={nose(tip[0], tip[1])} fill="none" stroke={ink} stroke-width="2.5" />
      </g>
    {/if}
  {/if}
  {#if shift}
    {@const [x, y] = [middle + shift[0] * STEP, middle - shift[1] * STEP]}
    <line x1={middle} y1={middle} x2={x} y2={y} stroke={ink} stroke-width="4" />
    <path
      d="M{x + shift[0] * 9} {y - shift[1] * 9}L{x + shift[1] * 6} {y + shift[0] * 6}L{x - shift[1] * 6} {y -
        shift[0] * 6}Z"
      fill={ink}
    />
    <text
      x={middle + shift[0] * 18 + (shift[0] === 0 ? 18 : 0)}
      y={middle - shift[1] * 18 + (shift[0] === 0 ? 4 : 20)}
      text-anchor="middle"
      font-size="13"
      font-weight="600"
      fill={ink}>{shiftWords(view.shift!)}</text
    >
  {/if}
  {#if !tip}<text x={middle} y={SIZE - 40} text-anchor="middle" font-size="14" fill="var(--color-accent)"
      >tip not looked at</text
    >{/if}
</svg>
