<script lang="ts">
  import { rhythmWords } from '$core/inspection/next-reading';
  import { clock } from '$lib/time';
  import type { PageData } from './$types';

  interface Props {
    unseen: NonNullable<PageData['unseen']>;
    machine: { id: number; kind: 'mill' | 'lathe' };
    programId: number | null;
    zone: string;
  }
  /** What nobody looks at until people are back: sizes that fall due or go out, first parts, tools whose check could not tell. */
  let { unseen, machine, programId, zone }: Props = $props();
  const risky = $derived(unseen.sizes.filter(({ riskyFrom, notKnown }) => riskyFrom !== null || notKnown));
  const steady = $derived(unseen.sizes.filter((size) => !risky.includes(size)));
  const some = (bad: number) => (bad < 0.95 ? bad.toFixed(1) : Math.round(bad).toString());
</script>

{#each risky as { id, name, every, due, parts, bad, riskyFrom, foreseen, notKnown } (id)}
  <li class="py-1.5">
    <b>{name}</b>{every === null ? '' : ` (${rhythmWords(every)})`}:
    {#if parts === 1}one part is{:else}{parts} parts are{/if} cut with nobody here to measure{#if due}, and it
      falls due at {clock(due, zone)}{/if}.
    {#if notKnown}It was not measured on this job, so where it will be cannot be told. Measure it before you
      leave.
    {:else if !foreseen}Too little was measured to tell where it will be by then. Measure it before you leave.
    {:else}By where it goes, more than one in twenty is bad from part {riskyFrom} of them on: about {some(
        bad,
      )} altogether. Measure it before you leave, and key what that asks for.{/if}
    <a class="underline" href="/machines/{machine.id}/sheet">Sheet</a>
    {#if programId !== null}<a class="ml-2 underline" href="/programs/{programId}/drift?feature={id}"
        >Where it goes</a
      >{/if}
  </li>
{/each}
{#if steady.length > 0}<li class="py-1.5">
    {steady.length === 1 ? 'A reading falls' : 'Readings fall'} due with nobody here:
    {steady.map(({ name, due }) => (due ? `${name} at ${clock(due, zone)}` : name)).join(', ')}. By where
    {steady.length === 1 ? 'it goes it' : 'they go they'} will likely stay within the limits; measure just before
    you leave.
  </li>{/if}
{#each unseen.begun as { program, at } (program)}<li class="py-1.5">
    <b>{program}</b> begins at {clock(at, zone)}: nobody measures its first part.
  </li>{/each}
{#if unseen.doubted.length > 0}<li class="py-1.5">
    <b>{unseen.doubted.map((tool) => `${machine.kind === 'mill' ? 'T' : 'Station '}${tool}`).join(', ')}</b>:
    the last check for breakage could not tell. Check
    {unseen.doubted.length === 1 ? 'it' : 'them'} again before you leave; a check that the control makes may stop
    there. <a class="underline" href="/machines/{machine.id}/checks">Checks</a>
  </li>{/if}
