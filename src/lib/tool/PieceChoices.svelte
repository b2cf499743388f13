<script lang="ts">
  import type { Component } from '$core/component/kinds';
  import { hasSeats, seatsOf } from '$core/holding/fits';
  import PieceList, { type Offered } from '../crib/PieceList.svelte';

  interface Props {
    cutter: Component;
    holder: Component | null;
    adapter: Component | null;
    extension: Component | null;
    nut: Component | null;
    second: Component | null;
    insert: Component | null;
    secondInsert: Component | null;
    knob: Component | null;
    machine: { name: string; knob: string | null; throughCoolant: boolean } | null;
    holders: Offered[];
    adapters: Offered[];
    extensions: Offered[];
    nuts: Offered['component'][];
    seconds: Offered['component'][];
    inserts: Offered[];
    secondInserts: Offered['component'][];
    knobs: Offered['component'][];
    ask: (change: Record<string, number | string | null>) => void;
  }
  let {
    cutter,
    holder,
    adapter,
    extension,
    nut,
    second,
    insert,
    secondInsert,
    knob,
    machine,
    holders,
    adapters,
    extensions,
    nuts,
    seconds,
    inserts,
    secondInserts,
    knobs,
    ask,
  }: Props = $props();
</script>

<!-- What goes with a cutter, from the machine to the tip; what may not go there says why. -->
<section>
  <h2 class="heading">Holder</h2>
  <PieceList
    offered={holders}
    chosen={holder?.id ?? null}
    onchoose={(id) =>
      ask({ holder: id, adapter: null, knob: null, nut: null, second: null, second_insert: null })}
    label="Holders"
  />
</section>
{#if holder && (adapters.length > 0 || adapter)}
  <section>
    <h2 class="heading">{holder.kind === 'colletChuck' ? 'Collet' : 'Sleeve'}</h2>
    <PieceList
      offered={adapters}
      chosen={adapter?.id ?? null}
      onchoose={(id) => ask({ adapter: id })}
      label="Collets"
    />
  </section>
{/if}
{#if extensions.length > 0}
  <section>
    <h2 class="heading">
      Extension {#if extension}<button
          type="button"
          class="btn btn-sm"
          onclick={() => ask({ extension: null, adapter: null })}>without</button
        >{/if}
    </h2>
    <PieceList
      offered={extensions}
      chosen={extension?.id ?? null}
      onchoose={(id) => ask({ extension: id, adapter: null })}
      label="Extensions"
    />
  </section>
{/if}
{#each [['nut', 'Nut, when not the holder’s own', nuts, nut, {}], ['second', 'Second tool in the double holder', seconds, second, { second_insert: null }]] as const as [role, words, offered, chosen, goes] (role)}
  {#if offered.length > 0}
    <section>
      <h2 class="heading">
        {words}
        {#if chosen}<button type="button" class="btn btn-sm" onclick={() => ask({ [role]: null, ...goes })}
            >without</button
          >{/if}
      </h2>
      <PieceList
        offered={offered.map((component) => ({ component, refusal: null }))}
        chosen={chosen?.id ?? null}
        onchoose={(id) => ask({ [role]: id, ...goes })}
        label={words}
      />
    </section>
  {/if}
{/each}
{#each [['insert', '', cutter, inserts, insert], ['second_insert', ' of the second tool', second, secondInserts.map( (component) => ({ component, refusal: null }) ), secondInsert]] as const as [role, where, seat, offered, chosen] (role)}
  {#if seat && hasSeats(seat)}
    {@const words = `${seatsOf(seat) === 1 ? 'Insert' : `${seatsOf(seat)} inserts`}${where}`}
    <section>
      <h2 class="heading">{words}: {seat.series}</h2>
      {#if offered.length === 0}<p>
          No line of the catalogue fits seats {seat.series}:
          <a class="underline" href="/crib/write">write one</a>.
        </p>{:else}<PieceList
          {offered}
          chosen={chosen?.id ?? null}
          onchoose={(id) => ask({ [role]: id })}
          label={words}
        />{/if}
    </section>
  {/if}
{/each}
{#if knobs.length > 0}
  <section>
    <h2 class="heading">
      Retention knob{machine?.knob
        ? `: ${machine.name} needs ${machine.knob}${machine.throughCoolant ? ', drilled' : ', solid'}`
        : ''}
    </h2>
    <PieceList
      offered={knobs.map((component) => ({ component, refusal: null }))}
      chosen={knob?.id ?? null}
      onchoose={(id) => ask({ knob: id })}
      label="Knobs"
    />
  </section>
{/if}
