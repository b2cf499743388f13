<script lang="ts" module>
  /** What labels are made for, with where. */
  export const LABEL_KINDS = {
    tool: ['tools', '/tools/labels'],
    component: ['components', '/labels/component'],
    pocket: ['pockets', '/labels/pocket'],
    order: ['orders', '/labels/order'],
    person: ['badges', '/labels/person'],
  } as const;
</script>

<script lang="ts">
  interface Props {
    now: keyof typeof LABEL_KINDS;
    /** Badges are made by whoever may say who is who. */
    mayBadge: boolean;
  }
  let { now, mayBadge }: Props = $props();
</script>

<nav class="no-print mt-2 flex flex-wrap gap-2" aria-label="Labels for">
  {#each Object.entries(LABEL_KINDS) as [kind, [words, href]] (kind)}
    {#if kind !== 'person' || mayBadge}<a
        class={['btn', kind === now && 'btn-primary']}
        aria-current={kind === now ? 'page' : undefined}
        {href}>{words}</a
      >{/if}
  {/each}
</nav>
