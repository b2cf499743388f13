<script lang="ts">
  import Scroll from '$lib/Scroll.svelte';
  import { shortTime } from '$lib/time';
  import type { PageData } from './$types';

  interface Props {
    shelves: PageData['shelves'];
    now: Date;
    zone: string;
  }
  let { shelves, now, zone }: Props = $props();
  const when = (at: Date) => shortTime(at, now, zone);
</script>

<Scroll label="Lines that are taken from">
  <table class="ruled mt-1">
    <thead
      ><tr
        ><th>Line</th><th class="number text-right">On the shelf</th><th class="number text-right">Taken</th
        ><th>Below minimum</th></tr
      ></thead
    >
    <tbody>
      {#each shelves as line (line.id)}
        <tr>
          <td
            ><a class="underline" href="/crib?item={line.id}">{line.number}</a>
            <span class="small-words block">{line.name}</span></td
          >
          <td class="number text-right"
            >{line.stock}<span class="small-words block">least {line.minimum}</span></td
          >
          <td class="number text-right"
            >{line.taken}<span class="small-words block"
              >{line.edges} {line.edges === 1 ? 'edge' : 'edges'}</span
            ></td
          >
          <td class={[line.out && 'font-semibold text-accent']}
            >{line.out
              ? `runs out ${when(line.out)}`
              : line.below
                ? line.below <= now
                  ? 'is below'
                  : when(line.below)
                : '–'}{#if line.coming > 0}<span class="small-words block">{line.coming} ordered</span
              >{/if}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
</Scroll>
