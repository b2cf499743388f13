<script lang="ts">
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import NcText from '$lib/correction/NcText.svelte';
  import Field from '$lib/Field.svelte';
  import ReadRows from '$lib/correction/ReadRows.svelte';
  import RowsToKey from '$lib/correction/RowsToKey.svelte';
  import type { RowRead } from '$core/correction/read-back';
  import { registerShow } from '$lib/register';

  let { data } = $props();
  const { machine } = $derived(data);
  const show = $derived(registerShow(machine));
  let keyed = $state(false);
  let typed = $state<Record<number, string>>({});
  const stale = $derived(data.copied.filter((each) => each.stale));
</script>

<svelte:head><title>Second part · {machine.name} · Tin Almanac</title></svelte:head>

<h2 class="mt-5 text-2xl">A second part on one bar</h2>
<p class="mt-1 max-w-3xl">
  The rows of the first part are copied to a block of their own, with Z moved towards the chuck by part
  length, parting width and facing stock.
</p>
<form method="GET" class="mt-3 flex flex-wrap items-end gap-3">
  {#each [['rows', 'Rows of the first part', '1 2 9'], ['block', 'Copied to rows higher by', '20'], ['length', `Part length, ${machine.unit}`, ''], ['parting', `Parting width, ${machine.unit}`, ''], ['facing', `Facing stock, ${machine.unit}`, '0']] as const as [name, words, hint] (name)}
    <div class="w-48">
      <Field label={words}
        ><input
          class="input"
          {name}
          defaultValue={data.asked[name]}
          placeholder={hint}
          autocomplete="off"
          data-pad={name === 'rows' ? undefined : 'length'}
        /></Field
      >
    </div>
  {/each}
  <button class="btn btn-primary">Work it out</button>
</form>
{#if data.problem}<p class="caution mt-3 text-lg" role="alert">{data.problem}</p>{/if}

{#if data.copied.length > 0}
  {#if stale.length > 0}<p class="caution mt-4 text-lg" role="alert">
      An earlier job left wear in {stale
        .map((each) => `row ${each.row} (${REGISTER_WORDS[each.kind]} ${show(each.before)})`)
        .join(', ')}. Nothing clears it by itself.
    </p>{/if}
  {#if data.change.length === 0}
    <p class="mt-4 text-lg" role="status">The block holds all of it already.</p>
  {:else if !keyed}
    <div class="mt-4 max-w-3xl">
      <RowsToKey rows={data.change} {machine} last="As row" add>
        {#snippet note(each)}{each.copied}{/snippet}
      </RowsToKey>
      {#if data.text}<NcText text={data.text} name="{machine.name} second part" />{/if}
      <p class="caution mt-3">
        Set nose radius and tip direction of each row as in the one it is copied from. Between the two parts
        the bar is not pulled: the machine does not know where the first part was, and cuts into it if the
        order is wrong. First run in single block, rapids low, a hand on feed hold.
      </p>
      {#if data.mayKey}<button
          type="button"
          class="btn mt-3 h-14 w-full text-lg btn-primary"
          onclick={() => (keyed = true)}>I have keyed them</button
        >{/if}
    </div>
  {:else}
    <div class="mt-4 max-w-3xl">
      <ReadRows
        rows={data.change}
        action="?/readBack"
        hidden={data.asked}
        bind:typed
        onShow={() => (keyed = false)}
        read={(done: RowRead[]) => done.map(({ registerId, ...each }) => ({ id: registerId, ...each }))}
        onKept={() => (keyed = false)}
      />
    </div>
  {/if}
{/if}
