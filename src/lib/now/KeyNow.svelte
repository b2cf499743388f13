<script lang="ts">
  import { chaseWords } from '$core/correction/chase';
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import type { Length, LengthUnit } from '$core/units/length';
  import { outbox } from '../offline/outbox.svelte';
  import { readBackWaits } from '../offline/waits';
  import { registerShow } from '../register';

  interface Props {
    corrections: {
      id: number;
      state: string;
      registerKind: string;
      row: number;
      tool: number;
      feature: string;
      from: Length;
      to: Length;
      stops: number;
      part: number;
      cut: number | null;
      held: string | null;
      ending: string | null;
    }[];
    machine: { id: number; unit: LengthUnit; increment: Length };
  }
  let { corrections, machine }: Props = $props();
  const show = $derived(registerShow(machine));
  /** What is said beside one: what stands in its way comes before that it is late. */
  const words = (each: Props['corrections'][number]) => each.ending ?? each.held ?? chaseWords(each);
  const toKey = $derived(
    corrections.filter(({ state, held, ending }) => state === 'approved' && !held && !ending),
  );
</script>

<section class="plate" aria-labelledby="key">
  <h2 id="key" class="text-xl">To key</h2>
  {#if corrections.length === 0}<p class="mt-1">Nothing to key.</p>{/if}
  <ul class="mt-1 grid gap-2">
    {#each corrections as each (each.id)}
      <li>
        <a
          class="grid min-h-16 grid-cols-[1fr_auto] items-center gap-x-4 border-t border-base-300 py-1.5 hover:bg-base-300"
          href="/corrections/{each.id}"
        >
          <span
            ><b class="text-lg">{REGISTER_WORDS[each.registerKind]}, row {each.row}</b><br />
            <span class="small-words"
              >T{each.tool}, {each.feature}{readBackWaits(outbox.untold, each.id)
                ? ': keyed; what the control shows waits to be sent'
                : each.state === 'proposed'
                  ? ': wait for approval'
                  : each.stops > 0
                    ? ': keyed wrongly once, look again'
                    : ''}</span
            >
            {#if each.state === 'approved' && words(each)}<span class="caution mt-1 block text-sm"
                >{words(each)}</span
              >{/if}</span
          >
          <span class="text-right">
            <span class="small-words">{show(each.from)} →</span>
            <b class={['font-display text-3xl', toKey.includes(each) && 'text-accent']}>{show(each.to)}</b>
          </span>
        </a>
      </li>
    {/each}
  </ul>
  {#if toKey.length > 1}<a class="btn mt-2 h-14 w-full text-lg" href="/machines/{machine.id}/key"
      >Key them together</a
    >{/if}
</section>
