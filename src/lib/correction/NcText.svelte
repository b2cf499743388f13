<script lang="ts">
  /** Lines that set registers on the control, to be run or carried there. */
  let { text, name }: { text: string; name: string } = $props();
  const href = $derived(`data:text/plain;charset=us-ascii,${encodeURIComponent(`%\n${text}\n%\n`)}`);
</script>

<details class="mt-3">
  <summary class="inline-flex min-h-11 cursor-pointer items-center underline">Or run these lines</summary>
  <pre
    class="overflow-x-auto bg-base-300 px-3 py-2 font-mono text-lg leading-snug font-semibold select-all">{text}</pre>
  <p class="small-words mt-1">
    The values are absolute: running them twice does no more than running them once. A line that asks what a
    row shows leaves before anything is written. Check the lines against the machine’s manual first.
  </p>
  <a class="btn mt-1" {href} download="{name.toLowerCase().replaceAll(' ', '-')}.nc">Save as a file</a>
</details>
