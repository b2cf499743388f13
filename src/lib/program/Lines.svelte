<script lang="ts">
  interface Props {
    title: string;
    lines: readonly string[];
    words: string;
    /** Where it is had as a file. */
    file?: string;
  }
  let { title, lines, words, file }: Props = $props();
  const id = $props.id();
  let copied = $state(false);
  async function copy() {
    await navigator.clipboard.writeText(`${lines.join('\n')}\n`);
    copied = true;
  }
</script>

<section aria-labelledby={id}>
  <h2 {id} class="heading flex items-baseline">
    {title}<span class="no-print ml-auto flex gap-2"
      >{#if file}<a class="btn btn-sm" href={file} download>File</a>{/if}<button
        type="button"
        class="btn btn-sm"
        onclick={copy}>{copied ? 'Copied' : 'Copy'}</button
      ></span
    >
  </h2>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <pre tabindex="0" class="mt-1 max-h-96 overflow-auto border border-base-content p-2 font-mono">{lines.join(
      '\n',
    )}</pre>
  <p class="small-words mt-1">{words}</p>
</section>
