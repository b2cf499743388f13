<script lang="ts">
  import { onMount, tick } from 'svelte';
  import type { LengthUnit } from '$core/units/length';
  import ActionForm from '../ActionForm.svelte';

  interface Props {
    asked: { id: number; row: number; kind: string }[];
    /** The last entry of the ledger now. */
    entry: number;
    unit: LengthUnit;
    /** Whose reading it is, of which machine: what was read is kept in this browser under it until it was taken. */
    place: string;
    onDone: () => void;
  }
  let { asked, entry, unit, place, onDone }: Props = $props();

  const kept = $derived(`tin-read-out ${place}`);
  let read = $state<Record<number, string>>({});
  /** The last entry when the first row was read: what is recorded after it this reading may not have seen. */
  let since = $state<number | null>(null);
  let at = $state(0);
  let text = $state('');
  let field: HTMLInputElement | undefined = $state();
  const present = $derived(asked[at]);
  const count = $derived(asked.filter(({ id }) => id in read).length);

  onMount(() => {
    try {
      const held = JSON.parse(localStorage.getItem(kept) ?? 'null') as {
        since: number;
        read: Record<number, string>;
      } | null;
      // rows that are not asked for any more are let go
      read = Object.fromEntries(
        asked.flatMap(({ id }) => (held?.read[id] === undefined ? [] : [[id, held.read[id]]])),
      );
      since = held?.since ?? null;
    } catch {
      read = {};
    }
    const first = asked.findIndex(({ id }) => !(id in read));
    go(first < 0 ? asked.length : first);
  });

  function go(to: number) {
    at = Math.max(0, Math.min(asked.length, to));
    const next = asked[at];
    text = next ? (read[next.id] ?? '') : '';
    void tick().then(() => field?.select());
  }
  function keep(value: string) {
    const others = Object.entries(read).filter(([id]) => Number(id) !== present!.id);
    read = Object.fromEntries(value === '' ? others : [...others, [present!.id, value]]);
    since ??= entry;
    localStorage.setItem(kept, JSON.stringify({ since, read }));
    go(at + 1);
  }
  const onkeydown = (event: KeyboardEvent) => {
    if (event.key === 'Enter') {
      event.preventDefault();
      keep(text.trim());
    } else if (event.key === 'ArrowUp') {
      event.preventDefault();
      go(at - 1);
    } else if (event.key === 'ArrowDown') {
      event.preventDefault();
      go(at + 1);
    }
  };
</script>

<p class="mt-4" role="status" aria-label="How far it is">
  {count} of {asked.length} read
  <progress class="progress ml-2 w-40 align-middle" value={count} max={asked.length} aria-hidden="true"
  ></progress>
</p>
{#if present}
  <div class="plate mt-2 grid gap-3">
    <p class="text-3xl font-semibold" id="asked-for">Row {present.row}, {present.kind}</p>
    <input
      bind:this={field}
      bind:value={text}
      {onkeydown}
      class="input h-20 w-full text-4xl!"
      inputmode="decimal"
      data-pad="length"
      autocomplete="off"
      aria-label="Row {present.row}, {present.kind}, {unit}"
    />
    <div class="grid grid-cols-2 gap-2 sm:grid-cols-4">
      <button type="button" class="btn h-16 text-xl! btn-primary" onclick={() => keep(text.trim())}
        >Next</button
      >
      <button type="button" class="btn h-16 text-xl!" onclick={() => keep('0')}>Shows 0</button>
      <button type="button" class="btn h-16 text-xl!" onclick={() => keep('')}>Pass over</button>
      <button type="button" class="btn h-16 text-xl!" disabled={at === 0} onclick={() => go(at - 1)}
        >Back</button
      >
    </div>
    <p class="small-words">Enter goes on to the next row, the arrows up and down go to others.</p>
  </div>
{:else}
  <p class="mt-3 text-xl">
    The end of the list. {count === asked.length
      ? 'Every row was read.'
      : `${asked.length - count} were passed over.`}
  </p>
  <button
    type="button"
    class="btn mt-2 h-14"
    onclick={() =>
      go(
        Math.max(
          0,
          asked.findIndex(({ id }) => !(id in read)),
        ),
      )}>{count === asked.length ? 'Look through them again' : 'To the first that was passed over'}</button
  >
{/if}
<ActionForm
  action="?/bring"
  class="mt-4 grid gap-2"
  label="Lay it beside the record"
  onDone={() => {
    localStorage.removeItem(kept);
    onDone();
  }}
>
  {#snippet children({ busy })}
    <input type="hidden" name="read" value={JSON.stringify(read)} />
    <input type="hidden" name="since" value={since ?? entry} />
    <button class="btn h-14 text-lg!" disabled={busy || count === 0}>Lay it beside the record</button>
    <p class="small-words">
      What was read is kept in this browser until then; somebody else may go on with the machine meanwhile.
    </p>
  {/snippet}
</ActionForm>
