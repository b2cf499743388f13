<script lang="ts">
  import Field from '$lib/Field.svelte';
  import ActionForm from '$lib/ActionForm.svelte';
  import Changer from '$lib/changer/Changer.svelte';

  let { data } = $props();
  const shape = $derived(data.shape);
  const answer = $derived(data.answer);
  const spindle = $derived(data.places.find((place) => place.kind === 'spindle'));
  const standsIn = (number: number) => data.places.find((place) => place.number === number)?.assembly?.id;
  const say = ({ pocket, puts, takes }: { pocket: number; puts: number | null; takes: number | null }) =>
    puts === null
      ? `Call pocket ${pocket}: T${takes} comes to the spindle.`
      : takes === null
        ? `Call the empty pocket ${pocket}: T${puts} goes there, the spindle is empty.`
        : `Call pocket ${pocket}: T${puts} goes there, T${takes} comes to the spindle.`;
</script>

<svelte:head><title>Make room · {data.machine.name} · Tin Almanac</title></svelte:head>

<form class="no-print mt-4 flex flex-wrap items-end gap-4">
  <label class="grid gap-1"
    ><span>For a tool of diameter, {data.machine.unit}</span><input
      class="input w-36"
      name="diameter"
      inputmode="decimal"
      placeholder="or choose"
      defaultValue={data.asked.diameter ?? ''}
    /></label
  >
  <Field label="Free in a row"
    ><select class="select" name="span" value={String(data.asked.span)}>
      <option value="1">one pocket</option><option value="3">three, for a wide tool</option><option value="5"
        >five, for two that share the gap</option
      >{#if ![1, 3, 5].includes(data.asked.span)}<option value={String(data.asked.span)}
          >{data.asked.span}, because it reaches past its neighbours</option
        >{/if}</select
    ></Field
  >
  <Field label="Around pocket"
    ><input
      class="input w-32"
      name="centre"
      inputmode="numeric"
      placeholder="the best"
      defaultValue={data.asked.centre ?? ''}
    /></Field
  >
  <label class="flex min-h-11 items-center gap-2"
    ><input
      class="checkbox"
      type="checkbox"
      name="keep"
      value="yes"
      defaultChecked={data.asked.keep !== null}
    /> the last tool may stay in the spindle</label
  >
  <button class="btn btn-primary">Work it out</button>
</form>

{#if !data.machine.spindleSure}<p class="caution mt-3 text-lg">
    Nobody is sure what is in the spindle: <a class="underline" href="/machines/{data.machine.id}"
      >say what the control shows first</a
    >.
  </p>{/if}

{#if !answer.ok}
  <p class="caution mt-4 text-xl" role="status">{answer.reason}</p>
{:else if answer.calls.length === 0}
  <p class="mt-4 text-xl" role="status">
    Pockets {answer.window.join(', ')} are now free on the table. Look into the magazine before one is
    <a class="underline" href="/machines/{data.machine.id}">declared wide</a>.
  </p>
{:else}
  <p class="mt-4 text-xl" role="status">
    {#if data.moving}{answer.calls.length} calls bring it to pocket {answer.centre}: {answer.proven
        ? 'the fewest there are.'
        : 'fewer were not found in time.'}
    {:else}Pockets <b>{answer.window.join(', ')}</b> are free after
      <b>{answer.calls.length} {answer.calls.length === 1 ? 'call' : 'calls'}</b>: {answer.proven
        ? 'the fewest there are'
        : 'fewer were not found in time'}{answer.compared > 1
        ? `, of ${answer.compared} windows that can be emptied`
        : ''}; about {answer.seconds!.toFixed(0)} s{answer.heavyMoved > 0
        ? `, ${answer.heavyMoved} heavy`
        : ''}.{/if}
  </p>
  <p class="caution mt-2">
    Each call exchanges the spindle’s tool with one pocket’s. Wait for the control to show the new T before
    the next: hurrying jams the changer. The machine’s manual and the site’s rules come first.
  </p>
  <ol class="mt-4 grid gap-4 sm:grid-cols-2 xl:grid-cols-3">
    {#each data.pictures as { call, places }, i (i)}
      <li class="plate grid content-start gap-2">
        <p class="text-lg">
          <b class="font-display text-2xl">{i + 1}</b>
          {say(call)}
        </p>
        <Changer {shape} {places} called={call.pocket} still />
        {#if i === 0 && data.mayPlace && data.machine.spindleSure}
          <ActionForm action="?/call" label="First call">
            {#snippet children({ busy })}
              <input type="hidden" name="pocket" value={call.pocket} />
              <input type="hidden" name="spindle" value={spindle?.assembly?.id ?? ''} />
              <input type="hidden" name="inPocket" value={standsIn(call.pocket) ?? ''} />
              <button class="btn w-full btn-primary" disabled={busy} data-key="n"
                >Made: the control shows T{call.takes ?? 0}
                <span class="key-hint" aria-hidden="true">n</span></button
              >
            {/snippet}
          </ActionForm>
        {/if}
      </li>
    {/each}
  </ol>
{/if}
{#if answer.ok && answer.calls.length > 0}<p class="small-words mt-4">
    By {data.machine.armSeconds.toFixed(2)} s for the arm and {data.machine.pocketSeconds.toFixed(3)} s for each
    pocket. <a class="underline" href="/machines/{data.machine.id}/plate">Time two changes</a> to set them.
  </p>{/if}
