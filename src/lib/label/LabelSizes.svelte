<script lang="ts">
  import { page } from '$app/state';
  import { changedQuery } from '../query';
  import { LABEL_SIZES, type LabelSize } from './Label.svelte';

  let { now }: { now: LabelSize } = $props();
</script>

<nav class="no-print mt-3 flex flex-wrap gap-2" aria-label="Size of the labels">
  {#each Object.keys(LABEL_SIZES) as LabelSize[] as size (size)}
    <a
      class={['btn', now === size && 'btn-primary']}
      aria-current={now === size ? 'true' : undefined}
      href={changedQuery(page.url.search, { size })}>{LABEL_SIZES[size].words}</a
    >
  {/each}
</nav>
