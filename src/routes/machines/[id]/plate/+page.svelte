<script lang="ts">
  import { traitsOf } from '$core/changer/traits';
  import ActionForm from '$lib/ActionForm.svelte';
  import ChangeTimes from '$lib/machine/ChangeTimes.svelte';
  import DialectForm from '$lib/machine/DialectForm.svelte';
  import TrayCells from '$lib/machine/TrayCells.svelte';
  import { highestNow, plateLines } from '$lib/machine/plate-lines';
  import PlateLine from '$lib/machine/PlateLine.svelte';

  let { data } = $props();
  const machine = $derived(data.machine);
  const unit = $derived(machine.unit);
  const turret = $derived(!traitsOf(data.shape).hangs);
  const declares = $derived(traitsOf(data.shape).exchanges);
  const lines = $derived(plateLines(machine, data.standing, data.bearing, turret));
  const highest = $derived(highestNow(data.standing));
  const missing = $derived(lines.filter((line) => line.limit === null).length);
</script>

<svelte:head><title>Plate · {machine.name} · Tin Almanac</title></svelte:head>

<div class="mt-4 grid items-start gap-6 lg:grid-cols-[1.35fr_1fr]">
  <ActionForm action="?/record" class="plate grid gap-1" label="The plate" keep>
    {#snippet children({ busy })}
      <h2 class="heading">What the plate says</h2>
      <input type="hidden" name="shown" value={JSON.stringify(data.plate)} />
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
        now={highest}
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
