<script lang="ts">
  import type { Finding } from '$core/correction/first-part-state';
  import type { FirstPlan } from '$core/correction/first-part-plan';
  import { clock } from '../time';

  interface Props {
    plan: FirstPlan;
    findings: Finding[];
    done: { n: number; said: string; person: string; at: Date; event: { what: string } }[];
    zone: string;
  }
  /** What was done so far, by whom, and what it says. */
  let { plan, findings, done, zone }: Props = $props();
  const measured = $derived(done.filter(({ event }) => event.what === 'measured'));
  const wordsOf = (n: number) => findings[measured.findIndex((each) => each.n === n)];
</script>

{#if done.length > 0}
  <section class="mt-6" aria-labelledby="so-far">
    <h3 id="so-far" class="heading">So far</h3>
    <ol class="ruled-list mt-1">
      {#each done.toReversed() as each (each.n)}
        {@const finding = each.event.what === 'measured' ? wordsOf(each.n) : undefined}
        <li class="py-1.5">
          <span class="small-words float-right ml-3">{each.person}, {clock(each.at, zone)}</span>
          <span class="font-semibold">{each.said}</span>
          {#if finding?.words}<br
            />{finding.words}{#if finding.standing && finding.standing !== 'in' && finding.stage === 'off'}
              <b class="text-accent">
                {finding.standing === 'over' ? 'over' : 'under'} its limits ({plan.sizes[finding.size]
                  ?.name}).</b
              >{/if}{/if}
        </li>
      {/each}
    </ol>
  </section>
{/if}
