<script lang="ts">
  import type { Snippet } from 'svelte';

  /** What is wider than a small screen scrolls sideways by itself, with the keyboard too. */
  let {
    label,
    class: classes = '',
    children,
  }: { label: string; class?: string; children: Snippet } = $props();
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div class={['relative overflow-x-auto', classes]} role="region" aria-label={label} tabindex="0">
  {@render children()}
</div>
