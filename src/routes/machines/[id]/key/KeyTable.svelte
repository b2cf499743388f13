<script lang="ts">
  import { chaseWords } from '$core/correction/chase';
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import { registerShow } from '$lib/register';

  import type { PageData } from './$types';

  /** What is to be keyed, in the order of the control's screen. */
  let { corrections, machine }: { corrections: PageData['corrections']; machine: PageData['machine'] } =
    $props();
  const show = $derived(registerShow(machine));
</script>

<div class="overflow-x-auto">
  <table class="ruled mt-2 w-full">
    <thead
      ><tr
        ><th scope="col">Page</th><th scope="col">Row</th><th scope="col" class="number">It shows</th><th
          scope="col"
          class="number">Make it {machine.unit}</th
        ><th scope="col">For</th></tr
      ></thead
    >
    <tbody>
      {#each corrections as each (each.id)}
        <tr>
          <td>{REGISTER_WORDS[each.registerKind]}</td>
          <th scope="row" class="font-display text-2xl">{each.row}</th>
          <td class="number">{show(each.from)}</td>
          <td class="number font-display text-3xl font-bold text-accent">{show(each.to)}</td>
          <td class="small-words"
            ><a class="underline" href="/corrections/{each.id}">T{each.tool}, {each.feature}</a
            >{#if chaseWords(each)}<br />{chaseWords(each)}{/if}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
</div>
