<script lang="ts">
  import Scroll from '$lib/Scroll.svelte';
  import { EDGE_END_WORDS } from '$core/life/edge-lives';
  import { dayAndClock } from '$lib/time';
  import type { PageData } from './$types';

  interface Props {
    edges: NonNullable<PageData['learnt']>['edgesSeen'];
    show: (value: number) => string;
    timeZone: string;
  }
  let { edges, show, timeZone }: Props = $props();
</script>

<details class="mt-5">
  <summary class="inline-flex min-h-11 cursor-pointer items-center font-semibold underline">The edges</summary
  >
  <Scroll label="Edges">
    <table class="ruled">
      <thead
        ><tr
          ><th scope="col">When</th><th scope="col">Tool</th><th scope="col">Program</th><th scope="col"
            >Material</th
          ><th scope="col" class="number">m/min</th><th scope="col" class="number">Had cut</th><th
            scope="col"
            class="number">Limit then</th
          ><th scope="col">Ended</th><th scope="col">Told by</th></tr
        ></thead
      >
      <tbody>
        {#each [...edges].reverse() as edge, i (i)}
          <tr>
            <td>{dayAndClock(edge.at, timeZone)}</td><td>{edge.assembly}</td><td>{edge.program ?? ''}</td><td
              >{edge.material ?? ''}</td
            >
            <td class="number">{edge.speed?.toFixed(0) ?? ''}</td><td class="number">{show(edge.life)}</td><td
              class="number">{show(edge.limit)}</td
            >
            <td>{EDGE_END_WORDS[edge.end]}{edge.sign ? `, by its ${edge.sign}` : ''}</td><td>{edge.person}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
  </Scroll>
</details>
