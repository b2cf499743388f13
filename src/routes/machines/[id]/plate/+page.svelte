<script lang="ts">
  import { traitsOf } from '$core/changer/traits';
  import { formatLength, formatWithUnit } from '$core/units/format-length';
  import { lengthOf, type Length } from '$core/units/length';
  import ActionForm from '$lib/ActionForm.svelte';
  import ChangeTimes from '$lib/machine/ChangeTimes.svelte';
  import DialectForm from '$lib/machine/DialectForm.svelte';
  import TrayCells from '$lib/machine/TrayCells.svelte';
  import PlateLine from '$lib/machine/PlateLine.svelte';

  let { data } = $props();
  const machine = $derived(data.machine);
  const unit = $derived(machine.unit);
  const decimals = $derived(unit === 'mm' ? 1 : 2);
  const most = <T,>(of: (tool: (typeof data.standing)[number]) => number, words: (value: number) => T) => {
    const top = data.standing.reduce<(typeof data.standing)[number] | null>(
      (best, each) => (best === null || of(each) > of(best) ? each : best),
      null,
    );
    return top ? { share: of(top), words: `now T${top.tool} ${words(of(top))}` } : null;
  };
  const lengthWords = (value: number) => formatWithUnit(value as Length, unit, { decimals });
  const kilograms = (grams: number) => `${(grams / 1000).toFixed(2)} kg`;
  const typed = (value: Length | null) => (value === null ? '' : formatLength(value, unit, { decimals }));
  const turret = $derived(!traitsOf(data.shape).hangs);
  const declares = $derived(traitsOf(data.shape).exchanges);

  const ofOneTool = $derived([
    {
      name: 'longest',
      words: 'Longest tool, from the gauge line',
      limit: machine.longest,
      typed: typed(machine.longest),
      suffix: unit,
      now: most((tool) => tool.gaugeLength, lengthWords),
    },
    {
      name: 'widest',
      words: 'Widest tool, neighbours full',
      limit: machine.widest,
      typed: typed(machine.widest),
      suffix: unit,
      now: null,
    },
    {
      name: 'widestAlone',
      words: 'Widest tool, neighbours empty',
      limit: machine.widestAlone,
      typed: typed(machine.widestAlone),
      suffix: unit,
      now: most((tool) => tool.widest, lengthWords),
    },
    {
      name: 'heaviest',
      words: 'Heaviest tool',
      limit: machine.heaviest,
      typed: machine.heaviest === null ? '' : String(machine.heaviest / 1000),
      suffix: 'kg',
      now: most((tool) => tool.mass, kilograms),
    },
    {
      name: 'moment',
      words: 'Moment about the gauge line',
      limit: machine.moment,
      typed: machine.moment === null ? '' : String(machine.moment),
      suffix: 'N·m',
      now: turret
        ? null
        : most(
            (tool) => tool.moment,
            (value) => `${value.toFixed(1)} N·m`,
          ),
    },
  ]);
  const lines = $derived([
    ...(turret
      ? [
          {
            name: 'swing',
            words: 'Swing of the turret, across',
            limit: machine.swing,
            typed: typed(machine.swing),
            suffix: unit,
            now:
              data.bearing.swing === null
                ? null
                : {
                    share: data.bearing.swing * 1e6,
                    words: `now ${formatWithUnit(lengthOf(data.bearing.swing, 'mm'), unit, { decimals })}`,
                  },
          },
        ]
      : [
          ...ofOneTool,
          {
            name: 'heaviestAll',
            words: 'All tools together',
            limit: machine.heaviestAll,
            typed: machine.heaviestAll === null ? '' : String(machine.heaviestAll / 1000),
            suffix: 'kg',
            now: { share: data.bearing.total, words: `now ${kilograms(data.bearing.total)}` },
          },
        ]),
    ...(data.bearing.towards !== null
      ? [
          {
            name: 'unbalance',
            words: 'Out of balance',
            limit: machine.unbalance,
            typed: machine.unbalance === null ? '' : String(machine.unbalance / 1000),
            suffix: 'kg·m',
            now: {
              share: data.bearing.unbalance,
              words: `now ${(data.bearing.unbalance / 1000).toFixed(2)} kg·m`,
            },
          },
        ]
      : []),
  ]);
  const missing = $derived(lines.filter((line) => line.limit === null).length);
</script>

<svelte:head><title>Plate · {machine.name} · Tin Almanac</title></svelte:head>

<div class="mt-4 grid items-start gap-6 lg:grid-cols-[1.35fr_1fr]">
  <ActionForm action="?/record" class="plate grid gap-1" label="The plate" keep>
    {#snippet children({ busy })}
      <h2 class="heading">What the plate says</h2>
      {#if missing > 0}<p class="caution">
          {missing === 1 ? 'One figure is' : `${missing} figures are`} not recorded: nothing is assumed of {missing ===
          1
            ? 'it'
            : 'them'}. Read the plate before anything is loaded.
        </p>{/if}
      {#each lines as line (line.name)}<PlateLine {...line} mayRecord={data.mayRecord} />{/each}
      <PlateLine
        name="highestTool"
        words="Highest T that the control takes"
        limit={machine.highestTool}
        typed={String(machine.highestTool)}
        suffix=""
        now={most(
          (tool) => tool.tool,
          () => '',
        )}
        mayRecord={data.mayRecord}
      />
      {#if machine.interface.startsWith('steep')}<PlateLine
          name="knob"
          words="Retention knob"
          limit={machine.knob === '' ? null : 0}
          typed={machine.knob}
          suffix=""
          now={null}
          mayRecord={data.mayRecord}
          optional
        />{/if}
      {#if data.mayRecord}<button class="btn mt-2 min-h-12 btn-primary" disabled={busy}
          >Record the plate</button
        >{/if}
    {/snippet}
  </ActionForm>

  <section>
    {#if !turret}<TrayCells
        cells={data.cells}
        capacities={data.capacities}
        {unit}
        mayRecord={data.mayRecord}
      />{/if}
    {#if declares}<p class="small-words mt-4">
        What is wider than neighbours leave is declared wide: three pockets for one, five for two that share
        the gap.
      </p>{/if}
    {#if traitsOf(data.shape).order !== 'grid'}<div class="mt-6">
        <ChangeTimes {machine} mayTime={data.mayRecord} />
      </div>{/if}
    <p class="caution mt-4">
      The plate on the machine and its manual come first. What is written here is only what somebody read off
      them.
    </p>
  </section>
</div>

{#if data.mayRecord}<div class="mt-6"><DialectForm {machine} /></div>{/if}
