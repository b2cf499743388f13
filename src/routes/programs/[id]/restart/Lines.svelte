<script lang="ts">
  interface Props {
    title: string;
    lines: readonly string[];
    words: string;
  }
  let { title, lines, words }: Props = $props();
  const id = $props.id();
  let copied = $state(false);
  async function copy() {
    await navigator.clipboard.writeText(`${lines.join('\n')}\n`);
    copied = true;
  }
</script>

<section aria-labelledby={id}>
  <h2 {id} class="heading flex items-baseline">
    {title}<button type="button" class="btn ml-auto btn-sm" onclick={copy}
      >{copied ? 'Copied' : 'Copy'}</button
    >
  </h2>
  <pre class="mt-1 overflow-x-auto border border-base-content p-2 font-mono">{lines.join('\n')}</pre>
  <p class="small-words mt-1">{words}</p>
</section>
