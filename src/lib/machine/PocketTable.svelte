<script lang="ts">
  import Field from '$lib/Field.svelte';
  import { traitsOf, type ChangerKind } from '$core/changer/traits';
  import type { PlaceRow } from '$core/changer/place';
  import ActionForm from '../ActionForm.svelte';

  interface Props {
    machine: { id: number; changerKind: ChangerKind };
    place: PlaceRow;
    spindle: PlaceRow | undefined;
    mayPlace: boolean;
  }
  let { machine, place, spindle, mayPlace }: Props = $props();

  const random = $derived(traitsOf({ kind: machine.changerKind }).exchanges);
  const declares = $derived(!traitsOf({ kind: machine.changerKind }).ownPlaces);
  const changes = $derived(
    [
      place.wide
        ? (['undeclared', 'No longer wide'] as const)
        : place.heavy
          ? (['light', 'No longer heavy'] as const)
          : (['heavy', 'Mark heavy'] as const),
      place.reserved ? (['released', 'Release it'] as const) : (['reserved', 'Reserve it'] as const),
      place.inService
        ? (['outOfService', 'Out of service'] as const)
        : (['inService', 'Back in service'] as const),
    ].filter(([change]) => !(change === 'outOfService' && place.assembly)),
  );
</script>

{#if mayPlace && place.kind === 'pocket'}
  {#if spindle && place.inService}
    <ActionForm action="?/call" class="plate mt-4 grid gap-2" label="Call this pocket">
      {#snippet children({ busy })}
        <input type="hidden" name="pocket" value={place.number} />
        <input type="hidden" name="spindle" value={spindle.assembly?.id ?? ''} />
        <input type="hidden" name="inPocket" value={place.assembly?.id ?? ''} />
        <p>
          Calling pocket {place.number}:
          {spindle.assembly ? `T${spindle.tool} goes from the spindle into it` : 'the spindle is empty'},
          {place.assembly ? `T${place.tool} comes to the spindle` : 'nothing comes out'}.
        </p>
        <p class="caution text-sm">
          Wait until the control shows the new T before anything is touched: the motion stops first.
        </p>
        {#if spindle.assembly ?? place.assembly}<label class="flex min-h-11 items-center gap-2 text-sm"
            ><input class="checkbox" type="checkbox" name="made" value="yes" /> It has already been called, whatever
            speaks against it</label
          >{/if}
        <button class="btn" disabled={busy} data-key="c"
          >The control shows {place.assembly ? `T${place.tool}` : 'T0'}
          <span class="key-hint" aria-hidden="true">c</span></button
        >
      {/snippet}
    </ActionForm>
  {/if}
  {#if random && place.assembly && !place.wide && !place.reserved}
    <form
      class="mt-4 flex flex-wrap items-end gap-2"
      action="/machines/{machine.id}/room"
      aria-label="Move it elsewhere"
    >
      <input type="hidden" name="from" value={place.number} />
      <label class="grid gap-1"
        ><span>Move T{place.tool} to pocket</span><input
          class="input w-28"
          name="to"
          inputmode="numeric"
          required
        /></label
      >
      <button class="btn" data-key="m"
        >By the fewest calls <span class="key-hint" aria-hidden="true">m</span></button
      >
    </form>
  {/if}
  {#if declares && !place.wide && place.inService && !place.reserved}
    <ActionForm action="?/declare" class="plate mt-4 grid gap-2" label="Declare wide">
      {#snippet children({ busy })}
        <input type="hidden" name="place" value={place.id} />
        <div class="grid grid-cols-[6rem_1fr] items-end gap-3">
          <Field label="Wide, for T"><input class="input" name="tool" inputmode="numeric" required /></Field>
          <label class="flex min-h-11 items-center gap-2"
            ><input class="checkbox" type="checkbox" name="seenEmpty" value="yes" /> I have looked: it and the pockets
            beside it are empty in the metal</label
          >
        </div>
        <p class="caution text-sm">
          A wide tool loaded before its pocket is declared strikes its neighbour and jams the changer.
        </p>
        <button class="btn" disabled={busy}>Declare pocket {place.number} wide</button>
        <p class="small-words">
          Something in the way? <a class="underline" href="/machines/{machine.id}/room?centre={place.number}"
            >Make room around {place.number}</a
          >.
        </p>
      {/snippet}
    </ActionForm>
  {/if}
  <details class="mt-4">
    <summary class="btn">What the table says of pocket {place.number}</summary>
    <div class="mt-2 grid gap-2">
      {#each changes as [change, words] (change)}
        <ActionForm action="?/pocket" class="flex gap-2" label={words}>
          {#snippet children({ busy })}
            <input type="hidden" name="place" value={place.id} />
            <input type="hidden" name="change" value={change} />
            <input
              class="input flex-1"
              name="why"
              maxlength="200"
              aria-label="Why: {words}"
              placeholder={change === 'outOfService' ? 'what is wrong with it' : 'why (optional)'}
            />
            <button class="btn" disabled={busy}>{words}</button>
          {/snippet}
        </ActionForm>
      {/each}
    </div>
  </details>
{/if}
