<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { changedQuery } from './query';

  interface Props {
    label: string;
    placeholder: string;
    /** What the page was asked for. */
    value: string;
    class?: string;
    /** What else in the address ends with another question. */
    ends?: readonly string[];
  }
  /** Asks the page for what is typed, in its address under `words`, once the typing rests. */
  let { label, placeholder, value, class: classes = '', ends = [] }: Props = $props();
  /** How long it has to rest, milliseconds. */
  const REST = 150;

  let timer: ReturnType<typeof setTimeout> | undefined;
  const typed = (words: string) => {
    clearTimeout(timer);
    timer = setTimeout(() => {
      const changed = { ...Object.fromEntries(ends.map((name) => [name, null])), words };
      void goto(changedQuery(page.url.search, changed), {
        keepFocus: true,
        noScroll: true,
        replaceState: true,
      });
    }, REST);
  };
</script>

<input
  class={['input', classes]}
  type="search"
  name="words"
  aria-label={label}
  {placeholder}
  {value}
  oninput={(event) => typed(event.currentTarget.value)}
/>
