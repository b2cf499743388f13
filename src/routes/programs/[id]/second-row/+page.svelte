<script lang="ts">
  import Scroll from '$lib/Scroll.svelte';
  import type { RowRead } from '$core/correction/read-back';
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import NcText from '$lib/correction/NcText.svelte';
  import ReadRows from '$lib/correction/ReadRows.svelte';
  import RowsToKey from '$lib/correction/RowsToKey.svelte';
  import { registerShow } from '$lib/register';

  let { data } = $props();
  const { machine, program, answer } = $derived(data);
  const show = $derived(registerShow(machine));
  let keyed = $state(false);
  let typed = $state<Record<number, string>>({});
</script>

<svelte:head><title>A second row · {program.number} · Tin Almanac</title></svelte:head>

<h1 class="mt-5 text-3xl">A row of its own</h1>
<p class="small-words">
  <a class="underline" href="/programs/{program.id}">{program.number} {program.title}</a> on {machine.name}
</p>
{#if !answer.ok}
  <p class="mt-4 text-lg">{answer.reason}</p>
{:else}
  {@const { feature, to, others, here, registers, lines, readings, change } = answer.prepared}
  {@const stale = registers.filter((each) => each.stale)}
  <p class="mt-3 max-w-3xl text-lg">
    Row {feature.row} cuts {feature.name} and {others.join(', ')}: moved for one, it moves for all. {feature.name}
    gets <b>row {to}</b>; {others.join(', ')}
    {others.length === 1 ? 'keeps' : 'keep'} row {feature.row}.
  </p>
  <p class="max-w-3xl">
    {readings === 0
      ? `${feature.name} was not measured yet: the new row is as the old one.`
      : `By ${readings === 1 ? 'one reading' : `${readings} readings`} it stands ${show(change)} ${machine.unit} from row ${feature.row}.`}
  </p>
  {#if stale.length > 0}<p class="caution mt-3 max-w-3xl" role="alert">
      An earlier job left wear in row {to} ({stale
        .map((each) => `${REGISTER_WORDS[each.registerKind]} ${show(each.from)}`)
        .join(', ')}). Nothing clears it by itself.
    </p>{/if}

  <section class="mt-6 max-w-3xl" aria-labelledby="first">
    <h2 id="first" class="heading">1. Key the row</h2>
    {#if registers.length === 0}
      <p class="mt-2 font-semibold" role="status">Row {to} is on record as it should be.</p>
    {:else if !keyed}
      <RowsToKey rows={registers} {machine} last="As row">
        {#snippet note()}{feature.row}{/snippet}
      </RowsToKey>
      {#if answer.prepared.text}<NcText text={answer.prepared.text} name="{machine.name} row {to}" />{/if}
      {#if machine.kind === 'lathe'}<p class="caution mt-3 text-sm">
          Set nose radius and tip direction of row {to} as in row {feature.row}.
        </p>{/if}
      {#if data.mayKey}<button
          type="button"
          class="btn mt-4 h-14 w-full text-lg btn-primary"
          onclick={() => (keyed = true)}>I have keyed them</button
        >{:else}<p class="mt-3">Setters and the lead key a new row.</p>{/if}
    {:else}
      <div class="mt-2">
        <ReadRows
          rows={registers.map(({ registerId, row, registerKind }) => ({ id: registerId, row, registerKind }))}
          action="?/readBack"
          hidden={{ feature: feature.id }}
          bind:typed
          onShow={() => (keyed = false)}
          read={(done: RowRead[]) => done.map(({ registerId, ...each }) => ({ id: registerId, ...each }))}
          onKept={() => (keyed = false)}
        />
      </div>
    {/if}
  </section>
  <section class="mt-6 max-w-3xl" aria-labelledby="second">
    <h2 id="second" class="heading">2. Change the program</h2>
    {#if lines.length > 0}
      <p class="mt-1">
        These lines call T{feature.tool} with row {feature.row}. Where the cut of {feature.name} begins, call row
        {to}{here.length > 0 ? `; before ${here.join(' or ')} call row ${feature.row} again` : ''}.
      </p>
      <Scroll label="Lines of the program">
        <table class="ruled mt-2">
          <thead
            ><tr
              ><th scope="col" class="number">Line</th><th scope="col">As it is</th><th scope="col"
                >With the new row</th
              ></tr
            ></thead
          >
          <tbody>
            {#each lines as each (each.line)}<tr
                ><td class="number">{each.line}</td><td class="font-mono">{each.was}</td><td
                  class="font-mono font-semibold">{each.becomes}</td
                ></tr
              >{/each}
          </tbody>
        </table>
      </Scroll>
    {:else}<p class="mt-1">
        No line that calls T{feature.tool} with row {feature.row} was found in the program.
      </p>{/if}
    <p class="caution mt-3 text-sm">
      Check the changed program as any new one: graphics or a dry run, then single block with rapids low.
    </p>
  </section>
  <section class="mt-6 max-w-3xl" aria-labelledby="third">
    <h2 id="third" class="heading">3. Change the plan</h2>
    <p class="mt-1">
      Bring the changed program in, then give {feature.name} row {to} in the
      <a class="underline" href="/programs/{program.id}#plan">measuring plan</a>. Its first part with the new
      row is a first part.
    </p>
  </section>
{/if}
