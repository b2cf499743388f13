<script lang="ts">
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import type { CopyAnswer } from '$core/length/second-part';
  import { nanometres } from '$core/units/length';
  import ActionForm from '$lib/ActionForm.svelte';
  import NcText from '$lib/correction/NcText.svelte';
  import Field from '$lib/Field.svelte';
  import NumberField from '$lib/NumberField.svelte';
  import { registerShow } from '$lib/register';

  let { data } = $props();
  const { machine } = $derived(data);
  const show = $derived(registerShow(machine));
  let keyed = $state(false);
  let answers = $state<CopyAnswer[]>([]);
  let typed = $state<Record<number, string>>({});
  const stale = $derived(data.copied.filter((each) => each.stale));
  const saidOf = (id: number) => answers.find((each) => each.registerId === id && !each.kept)?.said;
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
          value={data.asked[name]}
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
    <div class="relative mt-4 max-w-3xl overflow-x-auto">
      <table class="ruled w-full">
        <thead
          ><tr
            ><th scope="col">Page</th><th scope="col">Row</th><th scope="col">As row</th><th
              scope="col"
              class="number">It shows</th
            ><th scope="col" class="number">Make it {machine.unit}</th><th scope="col" class="number"
              >or add</th
            ></tr
          ></thead
        >
        <tbody>
          {#each data.change as each (each.registerId)}
            <tr>
              <td>{REGISTER_WORDS[each.kind]}</td>
              <th scope="row" class="font-display text-2xl">{each.row}</th>
              <td>{each.from}</td>
              <td class="number">{show(each.before)}</td>
              <td class="number font-display text-2xl font-bold text-accent">{show(each.after)}</td>
              <td class="number">{show(nanometres(each.after - each.before))}</td>
            </tr>
          {/each}
        </tbody>
      </table>
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
    <ActionForm
      action="?/readBack"
      class="mt-4 grid max-w-3xl gap-3"
      label="Read back"
      keep
      onDone={(done: CopyAnswer[]) => {
        answers = done;
        for (const { registerId, kept } of done) if (kept) typed[registerId] = '';
        if (done.every((each) => each.kept)) keyed = false;
      }}
    >
      {#snippet children({ busy })}
        <p>
          The numbers are put away: type what each row shows.
          <button type="button" class="underline" onclick={() => (keyed = false)}>Show them again</button>
        </p>
        {#each Object.entries(data.asked) as [name, value] (name)}<input
            type="hidden"
            {name}
            {value}
          />{/each}
        {#each data.change as each (each.registerId)}
          <NumberField
            name="shown.{each.registerId}"
            label="{REGISTER_WORDS[each.kind]}, row {each.row}"
            class="h-14 font-display text-2xl"
            bind:value={() => typed[each.registerId] ?? '', (text) => (typed[each.registerId] = text)}
          />
          {#if saidOf(each.registerId)}<p role="alert" class="caution">{saidOf(each.registerId)}</p>{/if}
        {/each}
        <button class="btn h-14 text-lg btn-primary" disabled={busy}>The control shows this</button>
      {/snippet}
    </ActionForm>
  {/if}
{/if}
