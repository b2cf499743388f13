<script lang="ts">
  import Delete from '@lucide/svelte/icons/delete';
  import { onMount, tick } from 'svelte';

  interface Props {
    name: string;
    label: string;
    value?: string;
    /** A whole number without sign or point. */
    whole?: boolean;
    /** Keys for the units, for a length. */
    units?: boolean;
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
    units = false,
    bare = false,
    class: classes = '',
    placeholder,
    hint,
    required = false,
    oninput,
    field = $bindable(),
  }: Props = $props();

  // a pad of our own where a finger types: a soft keyboard is small for gloves and covers half of the screen
  let coarse = $state(false);
  let open = $state(false);
  let box: HTMLElement | undefined = $state();
  onMount(() => {
    coarse = window.matchMedia('(pointer: coarse)').matches;
  });

  const keys = $derived([
    ...['7', '8', '9', '4', '5', '6', '1', '2', '3', '0'],
    ...(whole ? [] : ['.', '-', '+']),
    ...(units ? ['mm', 'in'] : []),
  ]);
  const said: Readonly<Record<string, string>> = { '.': 'point', '-': 'minus', '+': 'plus' };

  async function put(text: string, from: number, to: number) {
    value = value.slice(0, from) + text + value.slice(to);
    oninput?.();
    await tick();
    field?.setSelectionRange(from + text.length, from + text.length);
  }
  function press(key: string) {
    const from = field?.selectionStart ?? value.length;
    void put(key, from, field?.selectionEnd ?? from);
  }
  function back() {
    const from = field?.selectionStart ?? value.length;
    const to = field?.selectionEnd ?? from;
    void put('', from === to ? Math.max(0, from - 1) : from, to);
  }
</script>

<div
  bind:this={box}
  class="grid gap-1"
  onfocusout={(event) => {
    // it goes when another field is typed into; a button under it must not move away from the finger
    const to = event.relatedTarget as HTMLElement | null;
    if (to?.matches('input, select, textarea') && !box?.contains(to)) open = false;
  }}
>
  <label class="grid gap-1">
    <span class={bare ? 'sr-only' : 'font-semibold'}>{label}</span>
    <input
      bind:this={field}
      bind:value
      class={['input', classes]}
      {name}
      {placeholder}
      {required}
      inputmode={coarse ? 'none' : whole ? 'numeric' : 'text'}
      autocomplete="off"
      onfocus={() => (open = coarse)}
      {oninput}
    />
  </label>
  {#if hint}<span class="small-words">{hint}</span>{/if}
  {#if open}
    <div class="grid grid-cols-3 gap-1.5" role="group" aria-label="Number pad for {label}">
      {#each keys as key (key)}
        <button
          type="button"
          class="btn h-14 text-2xl"
          aria-label={said[key]}
          onmousedown={(event) => event.preventDefault()}
          onclick={() => press(key)}>{key === '-' ? '−' : key}</button
        >
      {/each}
      <button
        type="button"
        class="btn h-14"
        aria-label="Rub out"
        onmousedown={(event) => event.preventDefault()}
        onclick={back}><Delete size={26} aria-hidden="true" /></button
      >
    </div>
  {/if}
</div>
