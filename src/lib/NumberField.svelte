<script lang="ts">
  interface Props {
    name: string;
    label: string;
    value?: string;
    /** A whole number without sign or point. */
    whole?: boolean;
    /** The label is read to those who do not see, and not shown. */
    bare?: boolean;
    class?: string;
    placeholder?: string;
    hint?: string;
    required?: boolean;
    oninput?: () => void;
    field?: HTMLInputElement;
  }
  let {
    name,
    label,
    value = $bindable(''),
    whole = false,
    bare = false,
    class: classes = '',
    placeholder,
    hint,
    required = false,
    oninput,
    field = $bindable(),
  }: Props = $props();
</script>

<!-- A number, or a length with its unit; a finger types it on the pad (Pad.svelte). -->
<div class="grid gap-1">
  <label class="grid gap-1">
    <span class={bare ? 'sr-only' : 'font-semibold'}>{label}</span>
    <input
      bind:this={field}
      bind:value
      class={['input', classes]}
      {name}
      {placeholder}
      {required}
      inputmode={whole ? 'numeric' : undefined}
      data-pad={whole ? undefined : 'length'}
      autocomplete="off"
      {oninput}
    />
  </label>
  {#if hint}<span class="small-words">{hint}</span>{/if}
</div>
