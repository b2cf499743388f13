<script lang="ts">
  let { steps }: { steps: { label: string; sum: string }[] } = $props();
</script>

{#if steps.length > 0}
  <details class="mt-2">
    <summary class="inline-flex min-h-11 cursor-pointer items-center underline">The sum</summary>
    <dl class="grid gap-x-6 gap-y-1 font-narrow sm:grid-cols-[auto_1fr]">
      {#each steps as step, i (i)}<dt class="small-words">{step.label}</dt>
        <dd class="font-semibold">{step.sum}</dd>{/each}
    </dl>
  </details>
{/if}
