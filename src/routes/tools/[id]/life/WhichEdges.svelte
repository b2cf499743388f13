<script lang="ts">
  import type { PageData } from './$types';

  /** Which edges are counted, and which are not since they last otherwise: a limit for what is cut now is not learnt from other work. */
  let { data }: { data: PageData } = $props();
  const spoke = $derived(data.spoke!);
  const what = $derived(
    spoke.now &&
      [spoke.now.program, spoke.now.material && `(${spoke.now.material})`].filter(Boolean).join(' '),
  );
  /** So many kinds of work are named; of more, how many. */
  const NAMED = 4;
  const named = $derived([...spoke.leftOut].sort((a, b) => b.edges - a.edges).slice(0, NAMED));
  const others = $derived(spoke.leftOut.length - named.length);
  const work = (of: string | null) => of ?? 'work that is not known';
  const asLong = (times: number) =>
    times < 1.5 ? `${Math.round(100 * times)} % as long` : `${times.toFixed(1)} times as long`;
</script>

{#if data.of}
  {#if data.mixed}<p class="caution mt-2">
      Choose one kind of work under “Edges of”: a limit for all of it together would be right for none.
    </p>{/if}
{:else if spoke.by === 'unlike'}
  <p class="caution mt-2">
    {what ? `No edge is known to have cut ${what} or its material` : 'What it cuts next is not known'}, and
    how long edges last depends on the work: there are {named
      .map(({ of, edges }) => `${edges} from ${work(of)}`)
      .join(', ')}{others > 0 ? ` and edges of ${others} other kinds of work` : ''}. Which of them it will be
    like cannot be told. If you know, choose it under “Edges of”.
  </p>
{:else if what}
  <p class="small-words mt-1">
    {spoke.byNewest
      ? `No job on the list calls it; its newest edge whose work is known cut ${what}.`
      : `It cuts ${what}.`}
    {{
      program: 'Only edges from that program are counted here.',
      material: 'Only edges from that material are counted here.',
      all:
        spoke.leftOut.length > 0
          ? 'Edges from other work that last alike are counted with its own.'
          : 'All edges of its kind and size are counted here: nothing shows that they last differently by what they cut.',
    }[spoke.by]}
    {#each named as { of, edges, times } (of)}
      Left out: {edges} from {work(of)}{times === null
        ? ', which last otherwise'
        : `, which lasted about ${asLong(times)}`}.
    {/each}
    {others > 0 ? `Left out as well: edges from ${others} other kinds of work.` : ''}
  </p>
{/if}
