<script lang="ts">
  import Field from '$lib/Field.svelte';
  import { traitsOf, type ChangerKind } from '$core/changer/traits';
  import ActionForm from '../ActionForm.svelte';
  import { placeWord } from '../words';
  import ChooseLoose from './ChooseLoose.svelte';
  import type { Loose } from './loose';

  interface Props {
    machine: { id: number; kind: string; changerKind: ChangerKind; name: string };
    place: { id: number; kind: string; number: number; inService: boolean; reserved: boolean };
    loose: Loose;
    mayPlace: boolean;
    /** What its neighbours leave, in words; empty where nothing stands near. */
    room: string;
    taken: number[];
  }
  let { machine, place, loose, mayPlace, room, taken }: Props = $props();

  const fixed = $derived(traitsOf({ kind: machine.changerKind }).ownPlaces && place.kind === 'pocket');
  /** A turret takes its tools at its stations, without a spindle. */
  const lathe = $derived(!traitsOf({ kind: machine.changerKind }).spindle);
  const free = $derived.by(() => {
    let tool = 1;
    while (taken.includes(tool)) tool += 1;
    return tool;
  });
</script>

<h2 class="text-2xl">
  {place.kind === 'spindle' ? 'Spindle' : `${placeWord(machine.changerKind)} ${place.number}`}
  <span class="font-sans text-base font-normal"
    >{place.inService ? (place.reserved ? 'is reserved' : 'is empty') : 'is out of service'}</span
  >
</h2>
{#if room !== ''}<p class="mt-1">{room}</p>{/if}
{#if place.inService && mayPlace}
  <ActionForm action="?/place" class="plate mt-3 grid gap-3" label="Place a tool">
    {#snippet children({ busy })}
      <input type="hidden" name="place" value={place.id} />
      <ChooseLoose
        label="Assembly"
        machineId={machine.id}
        {loose}
        required
        none="Choose what fits this machine"
      />
      {#if loose.list.length === 0}<p class="small-words">
          Nothing on the rack fits {machine.name}:
          <a class="underline" href="/tools/write">put a tool on record</a>.
        </p>{/if}
      <Field label="T number">
        <input
          class="input"
          name="tool"
          inputmode="numeric"
          defaultValue={fixed ? place.number : free}
          readonly={fixed}
          required
        />
        {#if fixed}<span class="small-words">On this changer T{place.number} lives here.</span>{/if}
      </Field>
      <ol class="caution grid list-decimal gap-0.5 pl-8 text-sm">
        {#if lathe}
          <li>
            The chuck has stopped, and the turret stands clear of it with this {placeWord(
              machine.changerKind,
            )} in front.
          </li>
          <li>Shank and seat are wiped; the cutting edge is covered or gloves are on.</li>
          <li>It is pushed home against its stop, clamped evenly, and pulled on.</li>
        {:else}
          <li>The control shows this T as active and the spindle empty.</li>
          <li>Taper and spindle are wiped; the knob is the right one for {machine.name}.</li>
          <li>
            Hold below the flange, line up the drive slots, hold the button through the air blast, then tug
            and spin.
          </li>
        {/if}
        <li>
          Eye{lathe ? '' : ' and ear'} protection. The machine’s manual, site rules and licensed practice come first.
        </li>
      </ol>
      <button class="btn btn-primary" disabled={busy}>It is in: record it</button>
      <p class="small-words">
        Then measure it: every tool that stays in the machine is measured straight after loading.
      </p>
    {/snippet}
  </ActionForm>
{/if}
