<script lang="ts">
  import type { PageData } from './$types';

  interface Props {
    witnesses: NonNullable<PageData['witnesses']>;
    limit: number;
    show: (value: number) => string;
  }
  let { witnesses, limit, show }: Props = $props();
  const micrometres = (value: number) => (value / 1000).toFixed(Math.abs(value) < 1000 ? 2 : 1);
</script>

{#if witnesses.length > 0}
  <section class="mt-5" aria-labelledby="witnesses">
    <h2 id="witnesses" class="text-xl">What its sizes say of the edge that is in</h2>
    <ul class="mt-1 grid gap-2">
      {#each witnesses as { featureId, feature, programNumber, parts, witness, sameAfter } (featureId)}
        <li class={[witness?.differs === 'faster' && 'caution']}>
          <strong>{feature}</strong>
          <span class="small-words">{programNumber}</span>:
          {#if !witness}
            {#if parts < 3}{parts === 0 ? 'nothing' : `only ${parts} ${parts === 1 ? 'part' : 'parts'}`} measured
              on this edge yet: it takes three.{:else}fewer than three edges before it were measured often
              enough to say what is usual.{/if}
          {:else}
            it moves {micrometres(witness.now.pace)} ± {micrometres(2 * witness.now.error)} µm a part; {witness
              .before.edges} edges before it {micrometres(witness.before.pace)} µm.
            {#if witness.differs === 'faster'}
              <strong>It wears {witness.times.toFixed(1)} times as fast.</strong>
              {#if sameAfter !== null}After {show(sameAfter)} it is as worn as they were at {show(limit)}:
                look at it by then.{/if}
            {:else if witness.differs === 'slower'}
              It wears slower than they did; how it ends a size does not say, so its limit stays.
            {:else if witness.wouldSee}
              It wears as they did.
            {:else}
              That cannot be told apart yet.
            {/if}
          {/if}
        </li>
      {/each}
    </ul>
    <p class="small-words mt-1">A chip or a break does not announce itself in a size.</p>
  </section>
{/if}
