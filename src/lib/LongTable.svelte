<script lang="ts" generics="Row extends { id: number }">
  import { createVirtualizer } from '@tanstack/svelte-virtual';
  import type { Snippet } from 'svelte';
  import { get } from 'svelte/store';

  interface Props {
    /** How many rows there are in all. */
    total: number;
    /** The first of them, as the page came. */
    first: Row[];
    /** Where further rows come from, by their place in the list. */
    more: string;
    rowHeight: number;
    label: string;
    /** How wide each column is, by its class: said beforehand, for rows that come and go must not move what is read. */
    columns: string[];
    head: Snippet;
    row: Snippet<[Row]>;
  }
  let { total, first, more, rowHeight, label, columns, head, row }: Props = $props();

  const PAGE = 100;
  let scroller = $state<HTMLDivElement>();
  let pages = $state<Record<number, Row[]>>({});
  // eslint-disable-next-line svelte/prefer-svelte-reactivity -- nothing shown depends on it
  const asked = new Set<string>();
  const virtual = createVirtualizer<HTMLDivElement, HTMLTableRowElement>({
    count: 0,
    getScrollElement: () => scroller ?? null,
    estimateSize: () => 44,
    overscan: 12,
  });
  $effect(() => {
    get(virtual).setOptions({
      count: total,
      getScrollElement: () => scroller ?? null,
      estimateSize: () => rowHeight,
      overscan: 12,
    });
  });
  // a new question starts at the top, with nothing left of the old answer
  $effect(() => {
    void more;
    pages = {};
    scroller?.scrollTo({ top: 0 });
  });

  const at = (index: number) =>
    index < first.length ? first[index] : pages[Math.floor(index / PAGE)]?.[index % PAGE];
  const items = $derived($virtual.getVirtualItems().filter((item) => item.index < total));
  // before the script runs, and on paper, the first rows stand there by themselves
  const shown = $derived(
    items.length > 0
      ? items.map((item) => ({ index: item.index, row: at(item.index) }))
      : first.slice(0, 60).map((each, index) => ({ index, row: each as Row | undefined })),
  );
  const above = $derived(items[0]?.start ?? 0);
  const below = $derived(items.length > 0 ? $virtual.getTotalSize() - items.at(-1)!.end : 0);

  $effect(() => {
    const missing = new Set(
      items.filter((item) => !at(item.index)).map((item) => Math.floor(item.index / PAGE)),
    );
    for (const page of missing) {
      const url = `${more}${more.includes('?') ? '&' : '?'}from=${page * PAGE}`;
      if (asked.has(url)) continue;
      asked.add(url);
      const wanted = more;
      void fetch(url)
        .then((answer) =>
          answer.ok ? (answer.json() as Promise<Row[]>) : Promise.reject(new Error(answer.statusText)),
        )
        .then((rows) => {
          if (wanted === more) pages[page] = rows;
        })
        .catch(() => undefined)
        .finally(() => asked.delete(url));
    }
  });
</script>

<div
  bind:this={scroller}
  class="max-h-[76vh] overflow-auto print:max-h-none"
  role="region"
  aria-label={label}
>
  <table class="ruled drawn table-fixed" aria-rowcount={total + 1}>
    <colgroup
      >{#each columns as wide, i (i)}<col class={wide} />{/each}</colgroup
    >
    <thead class="sticky top-0 z-10 bg-base-100">{@render head()}</thead>
    <tbody>
      {#if above > 0}<tr aria-hidden="true"
          ><td colspan={columns.length} style:height="{above}px" style:padding="0"></td></tr
        >{/if}
      {#each shown as each (each.index)}
        {#if each.row}{@render row(each.row)}
        {:else}<tr aria-hidden="true"><td colspan={columns.length} style:height="{rowHeight}px">…</td></tr
          >{/if}
      {/each}
      {#if below > 0}<tr aria-hidden="true"
          ><td colspan={columns.length} style:height="{below}px" style:padding="0"></td></tr
        >{/if}
    </tbody>
  </table>
</div>
