<script lang="ts">
  let { name, most = 32 }: { name: string; /** Megabytes. */ most?: number } = $props();
  let input = $state<HTMLInputElement>();
  let over = $state(false);
  let chosen = $state('');

  /** Too large is said before it is sent. */
  function look() {
    const file = input?.files?.[0];
    chosen = file?.name ?? '';
    input?.setCustomValidity(
      file && file.size > most * 1024 * 1024 ? `The file is over ${most} MB: split it.` : '',
    );
  }

  function drop(event: DragEvent) {
    event.preventDefault();
    over = false;
    const files = event.dataTransfer?.files;
    if (!input || !files?.length) return;
    input.files = files;
    look();
  }
</script>

<label
  class={[
    'grid min-h-28 cursor-pointer place-content-center gap-1 border-2 border-dashed border-base-content p-3 text-center',
    'focus-within:outline-2 focus-within:outline-offset-2 focus-within:outline-primary focus-within:outline-solid',
    over && 'bg-base-300',
  ]}
  ondragover={(event) => {
    event.preventDefault();
    over = true;
  }}
  ondragleave={() => (over = false)}
  ondrop={drop}
>
  <span class="font-semibold">{chosen || 'Drop a file here, or tap to choose'}</span>
  <input bind:this={input} class="sr-only" type="file" {name} required onchange={look} />
</label>
