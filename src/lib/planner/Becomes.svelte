<script lang="ts">
  import type { Planned } from '$core/changer/planned';

  interface Props {
    rows: Planned[];
    /** What a place is called on this machine. */
    place: string;
    /** Tools whose T the programs must call otherwise. */
    edits: Planned[];
  }
  let { rows, place, edits }: Props = $props();
</script>

<h2 class="heading">What becomes of each tool</h2>
<ul class="ruled-list font-narrow">
  {#each rows.filter((row) => row.act !== 'stays') as row (`${row.piece.tool} ${row.piece.number}`)}
    <li class="grid grid-cols-[3.2rem_1fr_auto] gap-x-2 py-1 text-lg">
      <b>T{row.tool.tool}</b>
      <span
        >{row.piece.number}
        {row.piece.name}{#if row.piece.state === 'toBuild'}<span class="small-words text-accent">
            to be built</span
          >{/if}</span
      >
      <span class="text-right"
        >{row.act === 'out'
          ? `out of ${place} ${row.tool.now}`
          : row.act === 'in'
            ? `into ${place} ${row.pocket}`
            : `${place} ${row.tool.now} → ${row.pocket}`}{row.becomes !== row.tool.tool
          ? `, becomes T${row.becomes}`
          : ''}{row.tool.wide && row.act !== 'out' ? ', wide' : ''}</span
      >
    </li>
  {:else}<li class="py-2">Everything may stay where it is.</li>{/each}
</ul>
<p class="small-words mt-1">
  {rows.filter((row) => row.act === 'stays').length} tools stay where they are.
</p>
{#if edits.length > 0}
  <p class="caution mt-3">
    Programs to change before they run: {edits
      .map((row) => `${row.piece.programs.join(', ')} call T${row.tool.tool}, which becomes T${row.becomes}`)
      .join('; ')}. Rows H and D go with the T.
  </p>
{/if}
