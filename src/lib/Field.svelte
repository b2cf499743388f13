<script lang="ts">
  import type { Snippet } from 'svelte';

  interface Props {
    label: string;
    children: Snippet;
    /** Set small, where several stand in a row. */
    small?: boolean;
    class?: string;
  }
  let { label, children, small = false, class: classes = '' }: Props = $props();
</script>

<!-- A field under its label. What is wrong with it is told by the form (ActionForm), which marks it. -->
<label class={['grid content-start gap-1', classes]}>
  <span class={small ? 'small-words' : 'font-semibold'}>{label}</span>
  {@render children()}
</label>
