<script lang="ts">
  import { traitsOf } from '$core/changer/traits';
  import type { PlanWeights } from '$core/changer/plan-layout';
  import type { FoundLayout } from '$core/changer/plan-search';
  import type { PlanNews, TradeRow } from './plan-news';
  import PlanWorker from './plan.worker?worker';
  import type { PlanQuestion } from '$core/changer/plan-layout';
  import { onMount, type Snippet } from 'svelte';

  interface Props {
    /** Work it out at once, before anybody has chosen. */
    begin?: boolean;
    question: Omit<PlanQuestion, 'weights'>;
    /** T n lives in pocket n. */
    fixed: boolean;
    children: Snippet<[FoundLayout]>;
  }
  let { begin = false, question, fixed, children }: Props = $props();
  onMount(() => {
    if (begin) plan();
  });

  const WISHES: Record<keyof PlanWeights, { words: string; alone: string }> = {
    hands: { words: 'Few moves from here', alone: 'fewest moves' },
    time: { words: 'Short changes', alone: 'shortest changes' },
    balance: { words: 'A balanced magazine', alone: 'best balance' },
    gaps: { words: 'Wide tools share gaps', alone: 'fewest kept empty' },
  };
  /** What a changer's kind leaves open: only rings are balanced, and a turret has no neighbours. */
  const wishes = $derived(
    Object.entries(WISHES).filter(
      ([wish]) =>
        (wish !== 'balance' || traitsOf(question.shape).balances) &&
        (wish !== 'gaps' || traitsOf(question.shape).hangs),
    ),
  );
  const HOW = [
    { weight: 0, words: 'not at all' },
    { weight: 1, words: 'some' },
    { weight: 10, words: 'most' },
  ];
  const SECONDS = 20;

  let weights = $state<PlanWeights>({ hands: 1, time: 1, balance: 1, gaps: 1 });
  let worker: Worker | null = null;
  let working = $state(false);
  let share = $state(0);
  let bound = $state<number | null>(null);
  let found = $state.raw<FoundLayout | null>(null);
  let trade = $state.raw<TradeRow[]>([]);
  let problem = $state('');
  let verdict = $state<'proven' | 'bounded' | 'stopped' | null>(null);

  function plan() {
    stop();
    [working, share, bound, found, trade, problem, verdict] = [true, 0, null, null, [], '', null];
    worker = new PlanWorker();
    worker.onmessage = ({ data }: MessageEvent<PlanNews>) => {
      if (data.kind === 'progress') [share, bound] = [data.share, data.bound ?? bound];
      else if (data.kind === 'found') found = data.found;
      else if (data.kind === 'trade') trade = data.trade;
      else if (data.kind === 'refused') [problem, working] = [data.reason, false];
      else {
        [found, bound, working] = [data.found, data.bound, false];
        verdict = data.proven ? 'proven' : 'bounded';
      }
    };
    worker.onerror = () => {
      [problem, working] = ['The planner stopped. Plan again; the record was not touched.', false];
    };
    worker.postMessage({ question: { ...question, weights: { ...weights } }, seconds: SECONDS });
  }
  function stop() {
    worker?.terminate();
    worker = null;
    if (working) [working, verdict] = [false, found ? 'stopped' : null];
  }
  $effect(() => () => worker?.terminate());
  // a plan for another choice of jobs, or another magazine, is no plan for this one; what else changes leaves it alone
  const asked = $derived(JSON.stringify(question));
  $effect(() => {
    void asked;
    return () => {
      stop();
      [found, verdict, trade] = [null, null, []];
    };
  });

  const over = $derived(
    found && bound !== null && bound > 0 ? ((found.measure.cost - bound) / bound) * 100 : null,
  );
  const within = $derived(over === null ? '' : over < 10 ? over.toFixed(1) : Math.ceil(over).toString());
  const shown = $derived(
    found
      ? [
          { words: 'your choice', measure: found.measure },
          ...trade
            .filter((row) => wishes.some(([wish]) => wish === row.wish))
            .map((row) => ({ words: WISHES[row.wish].alone, measure: row.measure })),
        ]
      : [],
  );
</script>

<section class="no-print mt-5">
  <h2 class="heading">What counts</h2>
  <div class="grid gap-x-8 gap-y-2 sm:grid-cols-2">
    {#each wishes as [wish, { words }] (wish)}
      <fieldset class="flex flex-wrap items-center gap-2 border-b border-base-300 py-1">
        <legend class="float-left mr-2 w-full text-lg sm:w-auto sm:min-w-44 sm:flex-1">{words}</legend>
        {#each HOW as { weight, words: how } (weight)}
          <label class={['btn', weights[wish as keyof PlanWeights] === weight && 'btn-primary']}
            ><input
              class="sr-only"
              type="radio"
              name={wish}
              value={weight}
              bind:group={weights[wish as keyof PlanWeights]}
            />{how}</label
          >
        {/each}
      </fieldset>
    {/each}
  </div>
  <div class="mt-3 flex flex-wrap items-center gap-3">
    <button class="btn btn-primary" onclick={plan} disabled={working} data-key="p"
      >Plan <span class="key-hint" aria-hidden="true">p</span></button
    >
    {#if working}
      <button class="btn" onclick={stop}>Stop</button>
      <progress class="progress w-48" value={share} max="1" aria-label="How far the planner is"></progress>
      <span class="small-words"
        >{share < 0.3
          ? 'looking for a good layout'
          : share < 0.7
            ? 'seeing what each wish alone would give'
            : `proving how good it is${within ? `: within ${within} %` : ''}`}</span
      >
    {/if}
  </div>
</section>

{#if problem}<p class="caution mt-4 text-xl" role="status">{problem}</p>{/if}
{#if found}
  <p class="mt-5 text-xl" role="status">
    {#if verdict === 'proven'}<b>Proven best</b> for what counts: no layout is better.
    {:else if working}Best so far; the proof goes on.
    {:else if over === null}The best found; how good it is has not been proven.
    {:else}<b>Within {within} %</b> of what no layout can beat{verdict === 'stopped'
        ? '; the proof was stopped'
        : ''}.{/if}
  </p>
  <div class="mt-2 overflow-x-auto">
    <table class="ruled" aria-label="The trade-off">
      <thead
        ><tr
          ><th scope="col">What counts most</th><th scope="col" class="number">Moves by hand</th><th
            scope="col"
            class="number">{fixed ? 'T changed in programs' : 'Carried by calls'}</th
          ><th scope="col" class="number">Changes, min</th><th scope="col" class="number"
            >Out of balance, kg·mm</th
          ><th scope="col" class="number">Kept empty</th></tr
        ></thead
      >
      <tbody>
        {#each shown as { words, measure }, i (words)}
          <tr class={i === 0 ? 'font-semibold' : ''}
            ><th scope="row">{words}</th><td class="number">{measure.hands}</td><td class="number"
              >{fixed ? measure.edits : measure.calls}</td
            ><td class="number">{(measure.seconds / 60).toFixed(1)}</td><td class="number"
              >{measure.unbalance.toFixed(0)}</td
            ><td class="number">{measure.gaps}</td></tr
          >
        {/each}
      </tbody>
    </table>
  </div>
  {@render children(found)}
{/if}
