<script lang="ts" module>
  export interface SupplyOrder {
    id: number;
    kind: 'buy' | 'regrind';
    pieces: number;
    came: number;
    person: string;
    at: Date;
    place: string;
  }
</script>

<script lang="ts">
  import Field from '$lib/Field.svelte';
  import ActionForm from '../ActionForm.svelte';
  import { dayAndClock } from '../time';

  interface Props {
    component: { id: number; stock: number; regrinds: number | null };
    orders: SupplyOrder[];
    zone: string;
  }
  let { component, orders, zone }: Props = $props();
  const BACK = [
    ['pieces', 'reground'],
    ['same', 'as they went'],
    ['scrapped', 'scrapped'],
  ] as const;
</script>

{#each orders as order (order.id)}
  {@const out = order.pieces - order.came}
  <div class="mt-3 border-t border-base-300 pt-2">
    {#if order.kind === 'buy'}
      <p>
        <b>{out}</b> on order{order.place ? ` from ${order.place}` : ''}
        <span class="small-words">{order.person}, {dayAndClock(order.at, zone)}</span>
        <a class="underline" href="/crib/order">they came</a>
      </p>
    {:else}
      <p>
        <b>{out}</b> at the grinder{order.place ? `, ${order.place}` : ''}
        <span class="small-words">{order.person}, {dayAndClock(order.at, zone)}</span>
      </p>
      <details>
        <summary class="inline-flex min-h-11 cursor-pointer items-center font-semibold underline"
          >They came back</summary
        >
        <ActionForm action="?/back" class="grid gap-2" label="Back from regrinding">
          {#snippet children({ busy })}
            <input type="hidden" name="order" value={order.id} />
            <input type="hidden" name="came" value={order.came} />
            <div class="grid grid-cols-3 gap-2">
              {#each BACK as [name, words], i (name)}<label class="grid gap-1"
                  ><span class="small-words">{words}</span><input
                    class="input"
                    {name}
                    defaultValue={i === 0 ? out : 0}
                    inputmode="numeric"
                  /></label
                >{/each}
            </div>
            <div class="grid grid-cols-2 gap-2">
              <Field label="new cutting diameter, mm" small
                ><input class="input" name="diameter" data-pad="length" /></Field
              >
              <Field label="new overall length, mm" small
                ><input class="input" name="overall" data-pad="length" /></Field
              >
            </div>
            <button class="btn" disabled={busy}>Book them in</button>
            <p class="small-words">The reground ones become a line of their own, with their own size.</p>
          {/snippet}
        </ActionForm>
      </details>
    {/if}
  </div>
{/each}
{#if component.regrinds && component.stock > 0}
  <details class="mt-2">
    <summary class="inline-flex min-h-11 cursor-pointer items-center font-semibold underline"
      >Send to regrind</summary
    >
    <ActionForm action="?/send" class="grid gap-2" label="Send to regrind">
      {#snippet children({ busy })}
        <input type="hidden" name="component" value={component.id} />
        <input type="hidden" name="before" value={component.stock} />
        <div class="grid grid-cols-[5rem_1fr] gap-2">
          <Field label="pieces" small
            ><input class="input" name="pieces" value="1" inputmode="numeric" /></Field
          >
          <Field label="to whom" small><input class="input" name="place" maxlength="80" /></Field>
        </div>
        <button class="btn" disabled={busy}>They leave the shelf</button>
      {/snippet}
    </ActionForm>
    <details class="mt-1">
      <summary class="inline-flex min-h-11 cursor-pointer items-center underline"
        >They are back already, and nobody wrote it down</summary
      >
      <ActionForm action="?/regrind" class="grid gap-2" label="Regrind">
        {#snippet children({ busy })}
          <input type="hidden" name="component" value={component.id} />
          <input type="hidden" name="before" value={component.stock} />
          <div class="grid grid-cols-3 gap-2">
            <Field label="pieces" small
              ><input class="input" name="pieces" value="1" inputmode="numeric" /></Field
            >
            <Field label="new diameter, mm" small
              ><input class="input" name="diameter" data-pad="length" required /></Field
            >
            <Field label="new length, mm" small
              ><input class="input" name="overall" data-pad="length" required /></Field
            >
          </div>
          <button class="btn" disabled={busy}>It is now smaller</button>
        {/snippet}
      </ActionForm>
    </details>
  </details>
{/if}
