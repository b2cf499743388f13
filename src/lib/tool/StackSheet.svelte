<script lang="ts">
  import type { AssemblyShape } from '$core/assembly/silhouette';
  import type { Stack, StackFacts } from '$core/assembly/stack';
  import { WHERE_WORDS, whereMayItGo, type ChangerLimits } from '$core/changer/where';
  import { kindFacts } from '$core/component/kinds';
  import { knobRefusal } from '$core/holding/fits';
  import { formatWithUnit } from '$core/units/format-length';
  import { nanometres, type Length } from '$core/units/length';
  import Silhouette from '../Silhouette.svelte';

  interface MachineLimits extends Omit<ChangerLimits, 'machine'> {
    id: number;
    name: string;
    kind: string;
    knob: string;
    throughCoolant: boolean;
  }
  interface Props {
    stack: Stack;
    facts: StackFacts;
    machines: MachineLimits[];
    number: string;
    /** A measured gauge length, when there is one. */
    measured?: Length | null;
  }
  let { stack, facts, machines, number, measured = null }: Props = $props();

  const shape = $derived<AssemblyShape>({
    kind: kindFacts(stack.cutter.kind).makes!,
    interface: stack.holder.interface as AssemblyShape['interface'],
    gaugeLength: facts.gaugeLength,
    stickOut: stack.stickOut,
    holderDiameter: nanometres(stack.holder.dimensions.BD ?? 0),
    diameter: nanometres(stack.cutter.dimensions.DC ?? 0),
    outline: facts.outline,
    seats: facts.seats,
  });
  const mm = (value: Length | number) => formatWithUnit(nanometres(Math.round(value)), 'mm');
  const places = $derived(
    machines.map((machine) => ({
      machine,
      where: whereMayItGo(
        {
          interface: stack.holder.interface,
          gaugeLength: measured ?? facts.gaugeLength,
          widest: facts.widest,
          mass: facts.mass,
          moment: facts.moment,
          speedLimit: facts.speedLimit?.rpm ?? null,
          drawbar: knobRefusal(stack.knob, { ...machine, machine: machine.name })?.reason ?? null,
        },
        { ...machine, machine: machine.name },
      ),
    })),
  );
  const MARK = { fits: '●', neighboursEmpty: '◐', byHand: '○', notAtAll: '×' };
</script>

<div class="flex flex-wrap gap-5" data-number={number}>
  <Silhouette {shape} dimensioned height={300} />
  <dl class="grid min-w-44 flex-1 grid-cols-1 content-start gap-y-0 font-narrow [&>dd]:mb-1.5 [&>dt]:text-sm">
    <dt>Gauge length, nominal</dt>
    <dd class="font-display text-xl font-semibold">{mm(facts.gaugeLength)}</dd>
    <dt>Widest</dt>
    <dd class="font-semibold">{mm(facts.widest)}</dd>
    {#if stack.second}<dt>In the other seat</dt>
      <dd class="font-semibold">{stack.second.name}</dd>{/if}
    <dt>Mass</dt>
    <dd class="font-semibold">
      {(facts.mass / 1000).toFixed(2)} kg
      <span class="small-words"
        >{facts.massWeighed ? 'sum of its pieces' : 'from its outline and the taper'}</span
      >
    </dd>
    <dt>Moment about the gauge line</dt>
    <dd class="font-semibold">{facts.moment.toFixed(2)} N·m</dd>
    {#if facts.speedLimit}<dt>Greatest speed</dt>
      <dd class="font-semibold">
        {facts.speedLimit.rpm} rpm <span class="small-words">by the {facts.speedLimit.by}</span>
      </dd>{/if}
    {#if facts.lengthToDiameter !== null}<dt>Stick-out over diameter</dt>
      <dd class="font-semibold">{facts.lengthToDiameter.toFixed(1)}</dd>{/if}
    {#if facts.stiffness !== null}<dt>Stiffness at the tip</dt>
      <dd class="font-semibold">
        {facts.stiffness.toFixed(1)} N/µm
        <!-- what is no stiffer by the digit that is shown is not worth changing -->
        {#if facts.stifferAtLeast !== null && facts.stifferAtLeast >= 1.05}<span class="small-words block"
            >at {mm(facts.leastStickOut!)}, the shortest stick-out that clears the flutes, it would be {facts.stifferAtLeast.toFixed(
              1,
            )} times as stiff</span
          >{/if}
      </dd>{/if}
  </dl>
</div>
<section>
  <h2 class="heading">Where it may go</h2>
  <ul class="ruled-list font-narrow">
    {#each places as { machine, where } (machine.id)}
      <li class="grid grid-cols-[1.2rem_5.5rem_1fr] gap-x-2 py-1">
        <span
          class={where.verdict === 'notAtAll' || where.verdict === 'byHand' ? 'text-accent' : ''}
          aria-hidden="true">{MARK[where.verdict]}</span
        >
        <b>{machine.name}</b>
        <span
          >{WHERE_WORDS[where.verdict]}{where.reasons.length > 0
            ? `: ${where.reasons.join(', ')}`
            : ''}{#each where.remarks as remark (remark)}<span class="small-words block">{remark}</span
            >{/each}</span
        >
      </li>
    {/each}
  </ul>
</section>
