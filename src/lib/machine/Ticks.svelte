<script lang="ts">
  import type { LoadTick } from '$core/changer/load-plan';
  import { dayAndClock } from '../time';

  interface Props {
    ticks: readonly LoadTick[];
    zone: string;
  }
  let { ticks, zone }: Props = $props();
</script>

<!-- Steps of a load plan that somebody ticked, the last first. -->
<ul class="ruled-list">
  {#each [...ticks].reverse() as tick (tick.id)}
    <li class="grid grid-cols-[1.4rem_1fr] gap-x-2 py-1.5">
      <span aria-hidden="true" class={tick.outcome === 'wrong' ? 'text-accent' : ''}
        >{tick.outcome === 'wrong' ? '×' : '☑'}</span
      >
      <span
        >{tick.outcome === 'wrong' ? `Found instead: ${tick.why} (${tick.said})` : tick.said}
        <span class="small-words block">{tick.person}, {dayAndClock(tick.at, zone)}</span></span
      >
    </li>
  {:else}<li class="py-2">Nothing yet.</li>{/each}
</ul>
