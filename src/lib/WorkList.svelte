<script lang="ts">
  import type { Snippet } from 'svelte';

  interface Line {
    key: string | number;
    href: string;
    /** What it is about, set large. */
    what: string;
    /** What to do, or why. */
    words: string;
    /** A time or a number at the end of the line. */
    end?: string;
    urgent?: boolean;
  }
  interface Props {
    id: string;
    title: string;
    lines: Line[];
    /** Said when there is nothing to do. */
    none: string;
    foot?: Snippet;
  }
  let { id, title, lines, none, foot }: Props = $props();
</script>

<section aria-labelledby={id}>
  <h2 {id} class="heading">{title}</h2>
  <ul class="ruled-list mt-1">
    {#if lines.length === 0}<li class="py-2">{none}</li>{/if}
    {#each lines as line (line.key)}
      <li>
        <a
          class="grid min-h-14 grid-cols-[1fr_auto] items-center gap-x-3 py-1.5 hover:bg-base-300"
          href={line.href}
        >
          <span><b class="text-lg">{line.what}</b><br /><span class="small-words">{line.words}</span></span>
          {#if line.end}<span
              class={['text-right font-display text-lg font-semibold', line.urgent && 'text-accent']}
              >{line.end}</span
            >{/if}
        </a>
      </li>
    {/each}
  </ul>
  {@render foot?.()}
</section>
