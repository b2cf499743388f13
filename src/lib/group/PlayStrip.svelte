<script lang="ts">
  import type { GroupPlay } from '$core/life/group';

  /** Which member cuts which of the parts to come, to scale; what is hatched nobody cuts. */
  let { play, parts, place }: { play: GroupPlay; parts: number; place: string } = $props();
  const percent = (count: number) => `${(100 * count) / parts}%`;
  const left = $derived(play.stopsAfter === null ? 0 : parts - play.stopsAfter);
  const said = $derived(
    play.runs
      .map(
        ({ tool, from, to, expires }) =>
          `${place}${tool} parts ${from} to ${to}${expires ? ', expires' : ''}`,
      )
      .join('; '),
  );
</script>

<div class="mt-1 flex h-12 border border-base-content" role="img" aria-label={said || 'Nobody cuts'}>
  {#each play.runs as { tool, from, to, expires }, i (from)}
    <div
      class={[
        'flex min-w-0 flex-col justify-center overflow-hidden px-1.5 leading-tight whitespace-nowrap',
        i % 2 === 0 ? 'bg-base-200' : 'bg-base-300',
        expires && 'border-r-[3px] border-accent',
      ]}
      style:width={percent(to - from + 1)}
      title="{place}{tool}: parts {from} to {to}{expires ? ', expires' : ''}"
    >
      <b>{place}{tool}</b><span class="small-words">{from}–{to}</span>
    </div>
  {/each}
  {#if left > 0}<div
      class="stopped flex items-center px-1.5"
      style:width={percent(left)}
      title="{left} parts without a tool"
    >
      <span class="bg-base-100 px-1 whitespace-nowrap">{left} without</span>
    </div>{/if}
</div>

<style>
  .stopped {
    background: repeating-linear-gradient(135deg, transparent 0 6px, var(--color-base-300) 6px 9px);
    min-width: 0;
    overflow: hidden;
  }
</style>
