<script lang="ts">
  interface Props {
    machineId: number;
    against: { tool: number | null; atControl: boolean; sentence: string; remedy: string }[];
  }
  let { machineId, against }: Props = $props();
</script>

{#if against.length > 0}
  <section class="caution mt-4" aria-label="Before the next part">
    <h2 class="font-semibold">Before the next part</h2>
    {#each against as { tool, atControl, sentence, remedy } (sentence)}
      <p class="mt-1">
        {sentence}
        {#if tool === null}{remedy}{:else}<a
            class="underline"
            href="/machines/{machineId}{atControl ? '/control' : `?tool=${tool}`}">{remedy}</a
          >{/if}
      </p>
    {/each}
  </section>
{/if}
