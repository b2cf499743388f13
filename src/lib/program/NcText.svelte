<script lang="ts">
  import { onMount } from 'svelte';
  import type { Mark, Viewer } from './viewer';

  interface Props {
    lines: string[];
    /** Number of the first of them, and how many the program has. */
    first: number;
    all: number;
    /** Another part of a long text is to be shown. */
    onPart: (first: number) => void;
    line: number | null;
    /** Findings at their lines. */
    marks: readonly Mark[];
    /** A finding in the margin was pressed. */
    onMark: (line: number) => void;
  }
  let { lines, first, all, line, marks, onMark, onPart }: Props = $props();

  const SHOWN = 20_000;
  let box = $state<HTMLElement>();
  let viewer = $state.raw<Viewer | null>(null);

  onMount(() => {
    let gone = false;
    // what shows programs is large: it is fetched where one is shown
    void import('./viewer').then(({ showProgram }) => {
      if (!gone && box) viewer = showProgram(box, lines.join('\n'), first, (at) => onMark(at));
    });
    return () => {
      gone = true;
      viewer?.close();
    };
  });
  $effect(() => viewer?.go(line));
  $effect(() => viewer?.mark(marks));
</script>

<section aria-labelledby="text" class="min-w-0">
  <h2 id="text" class="heading">The text</h2>
  {#if lines.length < all}
    <nav aria-label="Parts of the text" class="mt-1 flex flex-wrap items-center gap-2">
      <button class="btn" disabled={first === 1} onclick={() => onPart(first - SHOWN)}>Lines before</button>
      <span class="small-words">{first} to {first + lines.length - 1} of {all}</span>
      <button class="btn" disabled={first + lines.length > all} onclick={() => onPart(first + lines.length)}
        >Lines after</button
      >
    </nav>
  {/if}
  <div bind:this={box} class="mt-1 h-[70vh] border border-base-content bg-base-100"></div>
  <p class="small-words mt-1">
    What was found stands in the margin; press it to see what. ■ stops the job, ? cannot be told, □ to be
    looked at.
  </p>
</section>
