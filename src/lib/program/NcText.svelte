<script lang="ts">
  interface Props {
    lines: string[];
    line: number | null;
  }
  let { lines, line = $bindable() }: Props = $props();

  const HEIGHT = 20;
  const OVERSCAN = 20;
  let box = $state<HTMLElement>();
  let top = $state(0);
  let tall = $state(600);
  const first = $derived(Math.max(0, Math.floor(top / HEIGHT) - OVERSCAN));
  const shown = $derived(lines.slice(first, first + Math.ceil(tall / HEIGHT) + 2 * OVERSCAN));

  $effect(() => {
    if (line !== null && box) box.scrollTo({ top: Math.max(0, (line - 6) * HEIGHT) });
  });
</script>

<!-- Only the lines in view are in the page, so that a program of a million lines scrolls as smoothly as one of ten. -->
<section aria-labelledby="text" class="min-w-0">
  <h2 id="text" class="heading">The text</h2>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <div
    bind:this={box}
    bind:clientHeight={tall}
    onscroll={() => (top = box?.scrollTop ?? 0)}
    class="mt-1 h-[70vh] overflow-auto border border-base-content bg-base-100 font-mono text-sm leading-5"
    role="region"
    aria-label="Program text"
    tabindex="0"
  >
    <div class="relative w-max min-w-full" style:height="{lines.length * HEIGHT}px">
      {#each shown as text, i (first + i)}
        {@const number = first + i + 1}
        <div
          class={[
            'absolute flex h-5 w-full gap-3 pr-3 whitespace-pre',
            number === line && 'bg-accent text-accent-content',
          ]}
          style:top="{(number - 1) * HEIGHT}px"
        >
          <span class={['w-12 shrink-0 text-right select-none', number === line ? '' : 'opacity-75']}
            >{number}</span
          ><span>{text}</span>
        </div>
      {/each}
    </div>
  </div>
</section>
