<script lang="ts">
  import Field from '$lib/Field.svelte';
  import { nanometres } from '$core/units/length';
  import { formatLength } from '$core/units/format-length';
  import ActionForm from '$lib/ActionForm.svelte';
  import { isDirection, isWear, REGISTER_WORDS } from '$core/inspection/register-words';

  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  let chosen = $state<number | null>(null);
  const cell = $derived(
    data.rows
      .flatMap((row) => row.cells.map((each) => ({ ...each, tool: row.tool })))
      .find((each) => each.id === chosen) ?? null,
  );
  const show = (kind: string, value: number) =>
    isDirection(kind)
      ? String(value)
      : formatLength(nanometres(value), data.machine.unit, { sign: isWear(kind) ? 'always' : 'negative' });
</script>

<div class="mt-4 grid gap-6 lg:grid-cols-[1.7fr_1fr]">
  <section aria-labelledby="rows">
    <h2 id="rows" class="heading">
      Offset rows, {data.machine.unit}
      <a class="small-words font-sans font-normal underline" href={data.all ? '?' : '?all'}
        >{data.all ? 'only those in use' : 'all rows'}</a
      >
    </h2>
    <div class="mt-1 overflow-x-auto">
      <table class="ruled">
        <thead
          ><tr
            ><th scope="col">Row</th><th scope="col">Tool</th>{#each data.kinds as kind (kind)}<th
                scope="col"
                class="number">{REGISTER_WORDS[kind]}</th
              >{/each}</tr
          ></thead
        >
        <tbody>
          {#each data.rows as row (row.row)}
            <tr>
              <th scope="row">{row.row}</th><td>{row.tool ? `T${row.row} ${row.tool}` : ''}</td>
              {#each row.cells as each (each.id)}
                <td class="number p-0!">
                  <button
                    type="button"
                    class={[
                      'min-h-11 w-full px-2 text-right',
                      chosen === each.id ? 'bg-primary text-primary-content' : 'hover:bg-base-300',
                      isWear(each.kind) && each.value !== 0 && 'font-semibold',
                      each.value === 0 && 'opacity-70',
                    ]}
                    aria-label="{REGISTER_WORDS[each.kind]} of row {row.row}: {show(each.kind, each.value)}"
                    onclick={() => (chosen = each.id)}>{show(each.kind, each.value)}</button
                  >
                </td>
              {/each}
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  </section>
  <div class="grid content-start gap-6 lg:sticky lg:top-4 lg:self-start">
    {#if cell}
      <section class="plate">
        <h2 class="text-xl">{REGISTER_WORDS[cell.kind]}, row {cell.row}</h2>
        <p class="mt-1">
          The record holds <b class="font-display text-xl">{show(cell.kind, cell.value)}</b>{isDirection(
            cell.kind,
          )
            ? '.'
            : ` ${data.machine.unit}.`}
          <a class="underline" href="/ledger?register={cell.id}">How it got there</a>
        </p>
        {#if data.mayEdit}
          {#key cell.id}
            <ActionForm action="?/found" class="mt-3 grid gap-2" label="Found at the control">
              {#snippet children({ busy })}
                <input type="hidden" name="register" value={cell.id} />
                <input type="hidden" name="before" value={cell.value} />
                <Field label="The control shows something else"
                  ><input
                    class="input"
                    name="shown"
                    data-pad={isDirection(cell.kind) ? undefined : 'length'}
                    inputmode={isDirection(cell.kind) ? 'numeric' : undefined}
                    autocomplete="off"
                    required
                  /></Field
                >
                <Field label="Why"><input class="input" name="why" maxlength="300" required /></Field>
                <button class="btn btn-primary" disabled={busy}>Record what the control holds</button>
              {/snippet}
            </ActionForm>
          {/key}
        {/if}
      </section>
    {:else}
      <p>Choose a value to see how it got there, or to record what the control was found to hold.</p>
    {/if}
  </div>
</div>
