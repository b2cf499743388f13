<script lang="ts">
  import LookedAgain from '../machine/LookedAgain.svelte';
  import type { FirstPlan, Stop } from '$core/correction/first-part-plan';
  import type { Task } from '$core/correction/first-part-state';
  import { formatLength } from '$core/units/format-length';
  import type { Snippet } from 'svelte';
  import ActionForm from '../ActionForm.svelte';
  import NumberField from '../NumberField.svelte';

  interface Props {
    id: number;
    plan: FirstPlan;
    tasks: Task[];
    stops: { rough: Stop | null; finish: Stop | null }[];
    mayMeasure: boolean;
    /** What stands under the list of what is still to be measured. */
    below: Snippet;
  }
  /** What is to be measured, one after the other as the program comes to it. */
  let { id, plan, tasks, stops, mayMeasure, below }: Props = $props();
  const lineOf = (task: Task) =>
    task.stage === 'off' ? task.size : (stops[task.size]?.[task.stage]?.line ?? Infinity);
  const order = $derived([...tasks].sort((a, b) => lineOf(a) - lineOf(b)));
  let picked = $state<string | null>(null);
  const key = (task: Task) => `${task.size} ${task.stage}`;
  const task = $derived(order.find((each) => key(each) === picked) ?? order[0]!);
  const size = $derived(plan.sizes[task.size]!);
  const stop = $derived(task.stage === 'off' ? null : (stops[task.size]?.[task.stage] ?? null));
  /** It was asked for once: what was typed there stays, open or not. */
  let warm = $state(false);
  let typed = $state('');
  let doubt = $state<string | null>(null);
  const show = (value: Task['expected']) => (value === null ? '?' : formatLength(value, plan.unit));
  const stageWords = $derived({
    rough: `what T${size.rough?.tool} left, before T${size.tool} runs`,
    finish: `after T${size.tool}`,
    off: plan.off === 'parted' ? 'parted off' : 'with the clamps open',
  });
</script>

<div class="mt-4 grid gap-6 lg:grid-cols-[1.3fr_1fr]">
  <section class="plate" aria-labelledby="measure-now">
    <h3 id="measure-now" class="font-display text-3xl font-bold">{size.name}</h3>
    <p class="text-lg">{stageWords[task.stage]}</p>
    {#if stop}
      <p class="mt-1 font-semibold">
        {#if stop.optional !== null}Optional stop in line {stop.optional}: switch it on.{:else}The program
          does not stop there (line {stop.line}): run in single block from it, or put a stop in.{/if}
      </p>
    {/if}
    <dl class="mt-2 grid grid-cols-[auto_1fr] gap-x-5">
      <dt>Should be about</dt>
      <dd class="font-display text-2xl">{show(task.expected)} {plan.unit}</dd>
    </dl>
    {#if mayMeasure}
      {#key key(task)}
        <ActionForm
          action="?/measure"
          class="mt-3 grid gap-3"
          label="Measure"
          keep
          onDone={(done: { doubt: string | null }) => {
            doubt = done.doubt;
            if (done.doubt === null) {
              typed = '';
              picked = null;
            }
          }}
        >
          {#snippet children({ busy })}
            <input type="hidden" name="id" value={id} />
            <input type="hidden" name="size" value={task.size} />
            <input type="hidden" name="stage" value={task.stage} />
            <NumberField
              name="measured"
              label="It measures, {plan.unit}"
              class="h-16 font-display text-3xl"
              bind:value={typed}
              oninput={() => (doubt = null)}
              required
            />
            <details ontoggle={() => (warm = true)}>
              <summary class="inline-flex min-h-11 cursor-pointer items-center underline"
                >Measured warm?</summary
              >
              {#if warm}
                {#await import('../now/Warm.svelte') then { default: Warm }}<Warm />{/await}
              {/if}
            </details>
            {#if doubt}
              <p class="caution" role="alert">{doubt}</p>
              <LookedAgain />
            {/if}
            <button class="btn h-14 text-lg btn-primary" disabled={busy}>It measures this</button>
          {/snippet}
        </ActionForm>
        <ActionForm action="?/skip" class="mt-3" label="Cannot be measured" onDone={() => (picked = null)}>
          {#snippet children({ busy })}
            <input type="hidden" name="id" value={id} />
            <input type="hidden" name="size" value={task.size} />
            <input type="hidden" name="stage" value={task.stage} />
            <button class="btn" disabled={busy}>It cannot be measured now</button>
          {/snippet}
        </ActionForm>
      {/key}
    {:else}<p class="mt-3">Operators, setters and inspectors type readings.</p>{/if}
    <p class="caution mt-3 text-sm">
      Spindle stopped and the door as the machine’s manual says before you reach in. Mind chips and hot edges.
    </p>
  </section>
  <section aria-labelledby="to-measure">
    <h3 id="to-measure" class="heading">Still to measure</h3>
    <ol class="ruled-list mt-1">
      {#each order as each (key(each))}
        <li>
          <button
            type="button"
            class={[
              'flex min-h-12 w-full flex-wrap items-center gap-x-3 px-2 text-left',
              key(each) === key(task) ? 'bg-primary text-primary-content' : 'hover:bg-base-300',
            ]}
            aria-pressed={key(each) === key(task)}
            onclick={() => {
              picked = key(each);
              doubt = null;
              typed = '';
            }}
          >
            <span class="flex-1 font-semibold">{plan.sizes[each.size]?.name}</span>
            <span class="font-narrow text-sm"
              >{each.stage === 'rough'
                ? 'what the rougher left'
                : each.stage === 'finish'
                  ? 'finished'
                  : 'off the machine'}</span
            >
            <span class="number">{show(each.expected)}</span>
          </button>
        </li>
      {/each}
    </ol>
    {@render below()}
  </section>
</div>
