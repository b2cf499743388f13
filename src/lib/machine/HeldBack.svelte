<script lang="ts">
  import type { HeldTool } from '$core/changer/load-held';

  interface Props {
    held: readonly HeldTool[];
    machineId: number;
  }
  let { held, machineId }: Props = $props();
</script>

{#if held.length > 0}
  <section class="caution mt-4" aria-label="What waits">
    <h2 class="text-lg">Waiting: the rest of the plan goes on without</h2>
    <ul>
      {#each held as each (each.wanted.tool)}
        <li>
          <b>T{each.wanted.tool}</b>
          {each.wanted.number}
          {each.wanted.name}, for pocket {each.wanted.pocket}. {each.reason}
        </li>
      {/each}
    </ul>
    <p class="small-words">
      <a class="underline" href="/machines/{machineId}">Correct the machine’s record</a>, or
      <a class="underline" href="/machines/{machineId}/plan">plan again</a> for another pocket.
    </p>
  </section>
{/if}
