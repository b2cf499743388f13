<script lang="ts">
  import Delete from '@lucide/svelte/icons/delete';
  import { onMount, tick } from 'svelte';

  /**
   * A pad of our own under every number field that a finger types into: a soft keyboard is small for gloves, has letters, and covers
   * half of the screen. Fields say what they hold: `inputmode` numeric or decimal, or `data-pad="length"` for a length with its unit.
   */
  const FIELDS = 'input[inputmode="numeric"], input[inputmode="decimal"], input[data-pad]';

  let field = $state.raw<HTMLInputElement | null>(null);
  let kind = $state<'whole' | 'decimal' | 'length'>('whole');
  let label = $state('');
  let pad: HTMLElement | undefined = $state();

  /** As on a calculator: three columns of digits, and what goes with them to the right. */
  const KEYS = {
    whole: ['7', '8', '9', 'back', '4', '5', '6', '0', '1', '2', '3', 'done'],
    decimal: ['7', '8', '9', 'back', '4', '5', '6', '.', '1', '2', '3', '0', 'done'],
    length: ['7', '8', '9', 'back', '4', '5', '6', '+', '1', '2', '3', '-', '0', '.', 'mm', 'in', 'done'],
  };
  const said: Readonly<Record<string, string>> = { '.': 'point', '-': 'minus', '+': 'plus' };

  onMount(() => {
    const came = ({ target }: { target: EventTarget | null }) => {
      if (!(target instanceof HTMLInputElement) || !target.matches(FIELDS) || target.readOnly) return;
      kind =
        target.dataset.pad === 'length'
          ? 'length'
          : (target.dataset.pad ?? target.inputMode) === 'decimal'
            ? 'decimal'
            : 'whole';
      // what it holds is kept in its own attribute: the soft keyboard is asked for by the other
      target.dataset.pad = kind;
      target.inputMode = 'none';
      label =
        target.getAttribute('aria-label') ??
        target.labels?.[0]?.querySelector('span')?.textContent?.trim() ??
        '';
      field = target;
      void tick().then(() => {
        const under =
          target.getBoundingClientRect().bottom - (pad?.getBoundingClientRect().top ?? Infinity) + 12;
        if (under > 0) window.scrollBy({ top: under });
      });
    };
    const went = ({ relatedTarget }: FocusEvent) => {
      if (!(relatedTarget instanceof Node && pad?.contains(relatedTarget))) field = null;
    };
    // a field may have been touched before the pad was here
    came({ target: document.activeElement });
    document.addEventListener('focusin', came);
    document.addEventListener('focusout', went);
    return () => {
      document.removeEventListener('focusin', came);
      document.removeEventListener('focusout', went);
    };
  });

  function put(text: string, from: number, to: number) {
    if (!field) return;
    field.value = field.value.slice(0, from) + text + field.value.slice(to);
    field.setSelectionRange(from + text.length, from + text.length);
    field.dispatchEvent(new Event('input', { bubbles: true }));
  }
  function press(key: string) {
    const from = field?.selectionStart ?? field?.value.length ?? 0;
    put(key, from, field?.selectionEnd ?? from);
  }
  function back() {
    const from = field?.selectionStart ?? field?.value.length ?? 0;
    const to = field?.selectionEnd ?? from;
    put('', from === to ? Math.max(0, from - 1) : from, to);
  }
  /** A finger on the pad leaves the field its focus. */
  const stay = (event: Event) => event.preventDefault();
</script>

{#if field}
  <!-- room to scroll what stands under the pad into sight -->
  <div class="no-print h-80" aria-hidden="true"></div>
  <div
    bind:this={pad}
    class="no-print fixed inset-x-0 bottom-0 z-40 border-t-2 border-base-content bg-base-200 p-2"
    role="group"
    aria-label="Number pad for {label}"
  >
    <div class="mx-auto grid max-w-lg grid-cols-4 gap-1.5">
      {#each KEYS[kind] as key (key)}
        {#if key === 'back'}
          <button type="button" class="btn h-14" aria-label="Rub out" onmousedown={stay} onclick={back}
            ><Delete size={26} aria-hidden="true" /></button
          >
        {:else if key === 'done'}
          <button
            type="button"
            class={['btn h-14 text-lg btn-primary', kind !== 'whole' && 'col-span-4']}
            onmousedown={stay}
            onclick={() => field?.blur()}>Done</button
          >
        {:else}
          <button
            type="button"
            class="btn h-14 text-2xl"
            aria-label={said[key]}
            onmousedown={stay}
            onclick={() => press(key)}>{key === '-' ? '−' : key}</button
          >
        {/if}
      {/each}
    </div>
  </div>
{/if}
