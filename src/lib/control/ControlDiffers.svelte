<script lang="ts">
  interface Props {
    machineId: number;
    /** In how many registers its control was last seen to hold something else than the record. */
    differing: number;
  }
  let { machineId, differing }: Props = $props();
</script>

{#if differing > 0}<a
    class="inline-flex min-h-11 items-center gap-2 font-semibold text-accent hover:underline"
    href="/machines/{machineId}/control"
    ><span aria-hidden="true">≠</span>Its control holds something else in {differing}
    {differing === 1 ? 'register' : 'registers'}</a
  >{/if}
