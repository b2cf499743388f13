<script lang="ts">
  import { afterNavigate, beforeNavigate } from '$app/navigation';
  import { askPage } from './ask-page';

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
  /** What stands in the field, whatever answer to fewer words comes in late. */
  let typed = $state<string | null>(null);
  const ask = (words: string) => {
    typed = words;
    clearTimeout(timer);
    timer = setTimeout(() => {
      timer = undefined;
      askPage({ ...Object.fromEntries(ends.map((name) => [name, null])), words });
    }, REST);
  };
  // who has gone on to what was found already is not called back by the words
  beforeNavigate(() => {
    clearTimeout(timer);
    timer = undefined;
  });
  // the page was asked for other words: by going back, or by a link
  afterNavigate(() => {
    if (timer === undefined && typed !== value) typed = null;
  });
</script>

<input
  class={['input', classes]}
  type="search"
  name="words"
  aria-label={label}
  {placeholder}
  value={typed ?? value}
  oninput={(event) => ask(event.currentTarget.value)}
/>
