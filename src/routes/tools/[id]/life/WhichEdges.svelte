<script lang="ts">
  import type { PageData } from './$types';

  /** Whose edges speak, and which lie apart and do not: a limit of what is cut now is not learnt from what lasts otherwise. */
  let { data }: { data: PageData } = $props();
  const spoke = $derived(data.spoke!);
  const what = $derived([spoke.now?.program, spoke.now?.material].filter(Boolean).join(', '));
  const times = (value: number) => (value < 10 ? value.toFixed(1) : value.toFixed(0));
</script>

{#if data.of}
  {#if data.mixed}<p class="caution mt-2">
      These are edges that last apart by what they cut. A limit for all of them is right for none: choose one.
    </p>{/if}
{:else if spoke.by === 'unlike'}
  <p class="caution mt-2">
    {what ? `No edge is known to have cut ${what}, and` : 'What it cuts next is not known, and'} those of other
    work last apart from each other: {spoke.leftOut
      .map(({ of, edges }) => `${edges} of ${of ?? 'unknown work'}`)
      .join(', ')}. Which of them it will be like cannot be told. Choose one below, if you know.
  </p>
{:else if what}
  <p class="small-words mt-1">
    {spoke.byNewest
      ? `No job on the list calls it; its newest edge of known work cut ${what}.`
      : `It cuts ${what}.`}
    {{
      program: 'Its own edges speak.',
      material: 'Edges of that material speak.',
      all: 'All edges that last alike speak.',
    }[spoke.by]}
    {#each spoke.leftOut as { of, edges, times: long } (of)}
      Left out: {edges} of {of ?? 'unknown work'}{long === null
        ? ', which last otherwise'
        : `, which last about ${times(long)} times as long`}.
    {/each}
  </p>
{/if}
