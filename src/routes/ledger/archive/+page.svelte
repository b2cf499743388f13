<script lang="ts">
  import { dayAndClock, monthOf } from '$lib/time';
  import { ARCHIVE_WORDS, sizeOf } from './words';

  let { data } = $props();
</script>

<svelte:head><title>Archive · Tin Almanac</title></svelte:head>

<div class="mt-5 flex flex-wrap items-end gap-4">
  <h1 class="text-3xl">Archive</h1>
  <p class="pb-1">Months of long ago, each in a file. What a rule may still ask for stays in the record.</p>
  <a class="btn ml-auto" href="/ledger">Ledger</a>
</div>

{#if data.months.length === 0}
  <p class="mt-4 text-lg" role="status">
    Nothing stands in files: all that was ever recorded is in the record.
  </p>
{:else}
  <div class="mt-4 overflow-x-auto">
    <table class="ruled min-w-[44rem] table-fixed">
      <colgroup
        ><col class="w-32" /><col class="w-56" /><col class="w-24" /><col class="w-24" /><col
          class="w-40"
        /><col /></colgroup
      >
      <thead
        ><tr
          ><th scope="col">Month</th><th scope="col">What</th><th scope="col" class="number">Lines</th><th
            scope="col"
            class="number">Size</th
          ><th scope="col">Taken out</th><th scope="col">File</th></tr
        ></thead
      >
      <tbody>
        {#each data.months as each (each.id)}
          <tr>
            <th scope="row" class="whitespace-nowrap"
              ><a class="inline-flex min-h-11 items-center underline" href="/ledger/archive/{each.id}"
                >{monthOf(each.month)}</a
              ></th
            >
            <td>{ARCHIVE_WORDS[each.kind]}</td>
            <td class="number">{each.lines}</td>
            <td class="number">{sizeOf(each.bytes)}</td>
            <td class="whitespace-nowrap">{dayAndClock(each.madeAt, data.cell!.timeZone)}</td>
            <td class="break-all"
              >{each.file}{#if each.backAt}<span class="small-words block"
                  >in the record again since {dayAndClock(each.backAt, data.cell!.timeZone)}</span
                >{/if}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
{/if}
