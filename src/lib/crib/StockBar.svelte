<script lang="ts">
  let { stock, minimum }: { stock: number; minimum: number } = $props();
  const short = $derived(stock < minimum);
  const full = $derived(Math.max(stock, minimum * 2, 4));
</script>

<!-- How many are there against the least there should be: the tick is the minimum. -->
<span class="flex items-center gap-2 whitespace-nowrap">
  <svg viewBox="0 0 60 14" width="60" height="14" aria-hidden="true">
    <rect
      x="0"
      y="4"
      width="60"
      height="6"
      fill="none"
      stroke="currentColor"
      stroke-width="0.8"
      opacity="0.5"
    />
    <rect
      x="0"
      y="4"
      width={(60 * stock) / full}
      height="6"
      fill={short ? 'var(--color-accent)' : 'currentColor'}
    />
    {#if minimum > 0}<path d="M{(60 * minimum) / full} 0V14" stroke="currentColor" stroke-width="1.4" />{/if}
  </svg>
  <b class={short ? 'text-accent' : ''}>{stock}</b>{#if minimum > 0}<span class="small-words"
      >min {minimum}</span
    >{/if}
</span>
