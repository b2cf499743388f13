<script lang="ts">
  interface Props {
    wanted: {
      machine: string;
      machineId: number | null;
      programId: number;
      program: string;
      tool: number;
      words: string | null;
    }[];
  }
  let { wanted }: Props = $props();
</script>

{#if wanted.length > 0}
  <section class="mt-4 max-w-3xl" aria-labelledby="wanted">
    <h2 id="wanted" class="heading">What the next jobs lack</h2>
    <ul class="ruled-list mt-1">
      {#each wanted as each (`${each.programId} ${each.tool}`)}
        <li>
          <a
            class="flex min-h-12 flex-wrap items-center gap-x-3 hover:bg-base-300"
            href={each.words
              ? `?program=${each.programId}&tool=${each.tool}${each.machineId ? `&machine=${each.machineId}` : ''}`
              : `/programs/${each.programId}/tools`}
            ><b>{each.machine} T{each.tool}</b>
            <span class="flex-1">{each.words ?? 'the program does not say what it is: define it first'}</span>
            <span class="small-words">{each.program}</span></a
          >
        </li>
      {/each}
    </ul>
  </section>
{/if}
