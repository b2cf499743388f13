<script
  lang="ts"
  generics="Row extends { registerId: number; row: number; registerKind: string; from: Length; to: Length }"
>
  import Scroll from '../Scroll.svelte';
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import { nanometres, type Length, type LengthUnit } from '$core/units/length';
  import type { Snippet } from 'svelte';
  import { registerShow } from '../register';

  interface Props {
    rows: readonly Row[];
    machine: { unit: LengthUnit; increment: Length };
    /** What the last column is, and what it says of a row. */
    last: string;
    note: Snippet<[Row]>;
    /** Show what is to be added, beside what it comes to. */
    add?: boolean;
  }
  /** Rows of a machine to be keyed, in the order of its control's screen. */
  let { rows, machine, last, note, add = false }: Props = $props();
  const show = $derived(registerShow(machine));
</script>

<Scroll label="Rows to key">
  <table class="ruled mt-2 w-full">
    <thead
      ><tr
        ><th scope="col">Page</th><th scope="col">Row</th><th scope="col" class="number">It shows</th><th
          scope="col"
          class="number">Make it {machine.unit}</th
        >{#if add}<th scope="col" class="number max-sm:hidden">or add</th>{/if}<th scope="col">{last}</th></tr
      ></thead
    >
    <tbody>
      {#each rows as row (row.registerId)}
        <tr>
          <td>{REGISTER_WORDS[row.registerKind]}</td>
          <th scope="row" class="font-display text-2xl">{row.row}</th>
          <td class="number">{show(row.from)}</td>
          <td class="number font-display text-3xl font-bold text-accent">{show(row.to)}</td>
          {#if add}<td class="number max-sm:hidden">{show(nanometres(row.to - row.from))}</td>{/if}
          <td class="small-words">{@render note(row)}</td>
        </tr>
      {/each}
    </tbody>
  </table>
</Scroll>
