<script lang="ts">
  import { kindFacts, PROPERTIES, type Component, type Property } from '$core/component/kinds';
  import { readInsert } from '$core/component/insert-designation';
  import { formingDrill, readThread, tapDrill, threadEngagement } from '$core/component/thread';
  import { formatLength } from '$core/units/format-length';
  import ActionForm from '../ActionForm.svelte';
  import { shortTime } from '../time';
  import { dimensionWords } from './dimension';
  import Regrinds, { type SupplyOrder } from './Regrinds.svelte';
  import StockBar from './StockBar.svelte';

  interface Props {
    component: Component & {
      costCents: number | null;
      edges: number | null;
      regrinds: number | null;
      shelf: string;
      stock: number;
      minimum: number;
      maximum: number | null;
    };
    used: {
      assemblyId: number;
      number: string;
      name: string;
      count: number;
      machine: string | null;
      tool: number | null;
    }[];
    history: { id: number; at: Date; person: string; said: string; why: string }[];
    /** There are older ones. */
    older: boolean;
    mayLookLedger: boolean;
    /** The line it was reground from, and who asks for that size. */
    old: { id: number; number: string } | null;
    askers: { programId: number; program: string; machine: string; tool: number }[];
    /** What is on order of it, and away for regrinding. */
    orders: SupplyOrder[];
    mayMove: boolean;
    mayWrite: boolean;
    mayBuild: boolean;
    zone: string;
    now: Date;
  }
  let {
    component,
    used,
    history,
    older,
    mayLookLedger,
    old,
    askers,
    orders,
    mayMove,
    mayWrite,
    mayBuild,
    zone,
    now,
  }: Props = $props();

  const facts = $derived(kindFacts(component.kind));
  const dimensions = $derived(Object.entries(component.dimensions) as [Property, number][]);
  const insert = $derived(component.kind === 'insert' ? readInsert(component.series) : null);
  const tap = $derived.by(() => {
    if (component.kind !== 'tapCutting' && component.kind !== 'tapForming') return null;
    const read = readThread(component.series);
    if (!read.ok) return null;
    if (component.kind === 'tapForming')
      return `Drill ${formatLength(formingDrill(read.thread), 'mm', { decimals: 2 })} mm first: it forms the thread.`;
    const drill = tapDrill(read.thread);
    if (!drill) return 'The drill depends on whether the hole is reamed: look at the tap maker’s table.';
    return `Drill ${drill.name} first, which leaves ${Math.round(100 * threadEngagement(read.thread, drill.diameter))} % thread.`;
  });
</script>

<section class="plate self-start" aria-label={component.number}>
  <h2 class="text-2xl">{component.number}</h2>
  <p>{component.name}</p>
  <p class="small-words">
    {facts.words}{component.material === 'carbide' ? ', carbide' : ''}{component.flat
      ? ', with a flat'
      : ''}{component.leftHand ? ', left-hand' : ''}{component.coolant
      ? ', drilled for coolant'
      : ''}{component.interface ? `, ${component.interface}` : ''}
  </p>
  <dl class="mt-2 grid grid-cols-[auto_1fr_auto_1fr] gap-x-3 font-narrow">
    {#each dimensions as [name, value] (name)}
      <dt>
        <abbr class="no-underline" title="{name}, ISO 13399: {PROPERTIES[name].words}"
          >{PROPERTIES[name].short}</abbr
        >
      </dt>
      <dd class="font-semibold">{dimensionWords(name, value)}</dd>
    {/each}
  </dl>
  {#if old}
    <p class="caution mt-2">
      Reground from <a class="underline" href="?item={old.id}">{old.number}</a>.
      {#if askers.length > 0}Its old size is asked for by {askers
          .map((each) => `${each.program} (${each.machine} T${each.tool})`)
          .join(', ')}: this one will not do there.{/if}
    </p>
  {/if}
  {#if insert?.ok}
    <p class="mt-2">
      {component.series}: {insert.insert.shape}, clearance {insert.insert.clearance === null
        ? 'special'
        : `${insert.insert.clearance}°`}, edge {insert.insert.edgeLength} mm, thick
      {insert.insert.thickness} mm{insert.insert.noseRadius === null
        ? ''
        : `, nose radius ${Number(insert.insert.noseRadius.toFixed(2))} mm`}{insert.insert.leadAngle === null
        ? ''
        : `, wiper flat at ${insert.insert.leadAngle}°`},
      {insert.insert.edges} edges.
    </p>
  {/if}
  {#if tap}<p class="mt-2">{component.series}. {tap}</p>{/if}
  {#if component.torque}<p class="mt-2">Tighten to <b>{component.torque} N·m</b>, as entered for it.</p>{/if}
  {#if component.costCents !== null}<p class="small-words mt-1">
      {(component.costCents / 100).toFixed(2)} each{component.edges
        ? `, ${(component.costCents / 100 / component.edges).toFixed(2)} an edge of ${component.edges}`
        : component.regrinds
          ? `, ${component.regrinds} regrinds left`
          : ''}
    </p>{/if}

  <div class="mt-3 flex flex-wrap items-center gap-3 text-lg">
    <StockBar stock={component.stock} minimum={component.minimum} />
    <span>on shelf {component.shelf || '–'}</span>
    {#if component.maximum !== null}<span class="small-words">filled up to {component.maximum}</span>{/if}
  </div>
  {#if mayMove}
    <ActionForm action="?/move" class="mt-2 grid gap-2" label="Move stock">
      {#snippet children({ busy })}
        <input type="hidden" name="component" value={component.id} />
        <input type="hidden" name="before" value={component.stock} />
        <div class="grid grid-cols-[5rem_1fr] gap-2">
          <input class="input" name="pieces" inputmode="numeric" value="1" aria-label="Pieces" />
          <input class="input" name="why" placeholder="for what" aria-label="For what" maxlength="200" />
        </div>
        <div class="grid grid-cols-4 gap-2">
          <button class="btn btn-primary" name="move" value="issued" disabled={busy}>Issue</button>
          <button class="btn" name="move" value="returned" disabled={busy}>Return</button>
          <button class="btn" name="move" value="bought" disabled={busy}>Bought</button>
          <button class="btn" name="move" value="counted" disabled={busy}>Counted</button>
        </div>
      {/snippet}
    </ActionForm>
    <Regrinds {component} {orders} {zone} />
  {/if}
  {#if mayWrite}<div class="mt-2 flex flex-wrap gap-2">
      <a class="btn flex-1" href="/crib/write?number={encodeURIComponent(component.number)}">Change it</a>
      <a class="btn flex-1" href="/crib/write?like={encodeURIComponent(component.number)}">Another like it</a>
    </div>{/if}
  {#if mayBuild && facts.group === 'cutter' && facts.makes}<a
      class="btn mt-2 w-full"
      href="/tools/builder?cutter={component.id}">Build an assembly with it</a
    >{/if}

  <h3 class="mt-4 font-display font-semibold">Where used</h3>
  <ul class="font-narrow">
    {#each used as each (each.assemblyId)}<li>
        <a class="underline" href="/tools/{each.assemblyId}">{each.number}</a>
        {each.name}{each.count > 1 ? `, ${each.count} of them` : ''}{each.machine
          ? `, ${each.machine} T${each.tool}`
          : ''}
      </li>{:else}<li class="small-words">in no assembly</li>{/each}
  </ul>
  {#if history.length > 0}
    <h3 class="mt-3 font-display font-semibold">What happened to it</h3>
    <ul class="font-narrow text-sm">
      {#each history as entry (entry.id)}<li>
          {entry.said}
          {entry.why} <span class="small-words">{entry.person}, {shortTime(entry.at, now, zone)}</span>
        </li>{/each}
    </ul>
    {#if older}<p class="small-words">
        {#if mayLookLedger}<a class="underline" href="/ledger?component={component.id}"
            >Older ones: the ledger</a
          >{:else}Older ones stand in the ledger.{/if}
      </p>{/if}
  {/if}
</section>
