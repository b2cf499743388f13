<script lang="ts">
  import { traitsOf } from '$core/changer/traits';
  import PaperSigns from '$lib/PaperSigns.svelte';
  import ActionForm from '$lib/ActionForm.svelte';
  import HeldBack from '$lib/machine/HeldBack.svelte';
  import LoadStepCard from '$lib/machine/LoadStepCard.svelte';
  import ToBuild from '$lib/machine/ToBuild.svelte';
  import ToGo from '$lib/machine/ToGo.svelte';
  import MeasureForm from '$lib/machine/MeasureForm.svelte';
  import SpindleDoubt from '$lib/machine/SpindleDoubt.svelte';
  import Ticks from '$lib/machine/Ticks.svelte';
  import { outbox } from '$lib/offline/outbox.svelte';
  import { stepsThatWait } from '$lib/offline/waits';
  import { dayAndClock } from '$lib/time';

  let { data } = $props();
  const plan = $derived(data.plan);
  const zone = $derived(data.cell?.timeZone ?? 'UTC');
  const shape = $derived(data.shape);
  const steps = $derived(plan?.left.ok ? plan.left.steps : []);
  const toBuild = $derived(steps.filter((each) => each.step.act === 'build'));
  /** What was ticked, and waits to be sent. */
  const ticked = $derived(plan ? stepsThatWait(outbox.untold, plan.id) : []);
  const walk = $derived(steps.filter((each) => each.step.act !== 'build' && !ticked.includes(each.key)));
  const next = $derived(walk[0]);
  const held = $derived(plan?.left.ok ? plan.left.held : []);
  const made = $derived((plan?.ticks.filter((tick) => tick.outcome === 'done').length ?? 0) + ticked.length);
  const assemblyIn = (assemblyId: number) =>
    data.places.find((place) => place.assembly?.id === assemblyId)?.assembly ?? null;
  const inHand = $derived.by(() => {
    if (!next) return null;
    const { step } = next;
    if (step.act === 'load') return data.shapes.find((each) => each.id === step.wanted.assemblyId) ?? null;
    return step.act === 'unload' || step.act === 'measure' ? assemblyIn(step.tool.assemblyId) : null;
  });
</script>

<svelte:head><title>Load plan · {data.machine.name} · Tin Almanac</title></svelte:head>

{#if !plan}
  <p class="mt-6 text-xl" role="status">
    There is no open load plan for {data.machine.name}.
    {#if data.lacking}The next job,
      <a class="underline" href="/programs/{data.lacking.programId}/tools">{data.lacking.program}</a>, lacks
      {data.lacking.tools.map((tool) => `T${tool}`).join(', ')}.{/if}
  </p>
  <p class="mt-3">
    <a class="btn btn-primary" href="/machines/{data.machine.id}/plan">Plan its magazine for the open jobs</a>
    <span class="small-words">and make that the load plan, to be worked off step by step.</span>
  </p>
  {#if data.last}
    <h2 class="heading mt-6">
      The last one, {data.last.outcome === 'done' ? 'worked off' : 'dropped'}
    </h2>
  {/if}
{:else}
  <div class="mt-4 flex flex-wrap items-center gap-x-4 gap-y-2">
    <p class="flex-1 text-xl" role="status">
      <b>{made}</b> done, <b>{steps.length - ticked.length}</b> to go{ticked.length > 0
        ? `; ${ticked.length} of those done ${ticked.length === 1 ? 'waits' : 'wait'} on this device to be sent`
        : ''}.
      <span class="small-words">Made by {plan.madeBy}, {dayAndClock(plan.madeAt, zone)}.</span>
    </p>
    <button class="no-print btn" onclick={() => window.print()}>Print</button>
    {#if data.mayPlace}
      <ActionForm action="?/drop" class="no-print" label="Drop">
        {#snippet children({ busy })}<input type="hidden" name="plan" value={plan.id} /><button
            class="btn"
            disabled={busy}>Drop the plan</button
          >{/snippet}
      </ActionForm>
    {/if}
  </div>
  <p class="caution mt-2 hidden print:block">
    The machine’s manual, the site’s rules, local codes and licensed practice come first. Nothing here moves
    the machine.
  </p>
  {#if !plan.left.ok}<p class="caution mt-4 text-xl" role="alert">
      {plan.left.reason}
      <a class="underline" href="/machines/{data.machine.id}">Correct the record</a>, or drop the plan and
      plan again.
    </p>{/if}
  <div class="no-print">
    {#if traitsOf(shape).throughSpindle}<SpindleDoubt
        machine={data.machine}
        loose={data.loose}
        mayPlace={data.mayPlace && !data.machine.spindleSure}
      />{/if}
    {#if next && data.machine.spindleSure}
      {#snippet measuring()}
        {#if next.step.act === 'measure' && data.mayMeasure}
          {@const { tool } = next.step}
          <MeasureForm
            machine={data.machine}
            assembly={assemblyIn(tool.assemblyId)!}
            tool={tool.tool}
            rows={data.used.get(tool.tool) ?? [tool.tool]}
            geometry={data.geometry}
            action="?/measure"
            also={{ plan: plan.id, step: next.key }}
            keptAs={next.title}
          />
        {/if}
      {/snippet}
      <LoadStepCard
        plan={plan.id}
        said={next}
        order={made + 1}
        {shape}
        places={data.places}
        tool={inHand}
        mayTick={data.mayPlace}
        own={next.step.act === 'measure' ? measuring : undefined}
      />
    {/if}
  </div>
  <HeldBack {held} machineId={data.machine.id} />
  {#each toBuild as each (each.key)}
    {#if each.step.act === 'build'}
      <ToBuild
        machineId={data.machine.id}
        plan={plan.id}
        step={each.key}
        title={each.title}
        tool={each.step.wanted.tool}
        kit={data.kits.find((kit) => each.step.act === 'build' && kit.tool === each.step.wanted.tool) ?? null}
        loose={data.loose}
        mayTick={data.mayPlace}
      />
    {/if}
  {/each}

  <div class="mt-5 grid gap-8 lg:grid-cols-2 print:block">
    <ToGo {walk} {toBuild} {made} waits={held.length > 0} kits={data.kits} />
    <section class="no-print">
      <h2 class="heading">Done</h2>
      <Ticks ticks={plan.ticks} {zone} />
    </section>
  </div>
  <PaperSigns who={['Loaded', 'Measured', 'Looked over by a second person']} />
{/if}
{#if data.last}<Ticks ticks={data.last.ticks} {zone} />{/if}
