<script lang="ts" module>
  /** Labels that printers of a shop take: width by height, and what stands beside the code. */
  export const LABEL_SIZES = {
    large: { words: 'large, 60 × 25 mm', box: 'h-[25mm] w-[60mm] gap-[2mm] p-[1mm]', code: 'size-[23mm]' },
    small: { words: 'small, 40 × 15 mm', box: 'h-[15mm] w-[40mm] gap-[1mm] p-[0.5mm]', code: 'size-[14mm]' },
    tape: { words: 'tape, 12 mm high', box: 'h-[12mm] w-[60mm] gap-[1mm] p-0', code: 'size-[11.4mm]' },
  } as const;
  export type LabelSize = keyof typeof LABEL_SIZES;
</script>

<script lang="ts">
  import type { Snippet } from 'svelte';

  interface Props {
    number: string;
    name: string;
    /** A third line, where there is room for one. */
    more?: string;
    /** SVG of the 2-D code with its quiet zone, made by the server. */
    code: string;
    size: LabelSize;
    /** Stands at the end of a large one. */
    drawing?: Snippet;
  }
  let { number, name, more = '', code, size, drawing }: Props = $props();
  const sizes = $derived(LABEL_SIZES[size]);
  /** A long number is set smaller, and in two lines where it must. */
  const set = $derived(
    size === 'large'
      ? number.length > 9
        ? 'text-[3.2mm] break-all'
        : 'text-[4.6mm] whitespace-nowrap'
      : number.length > 9
        ? 'text-[2.4mm] break-all'
        : 'text-[3.6mm] whitespace-nowrap',
  );
  const words = $derived(size === 'large' ? 'text-[2.8mm]' : 'text-[2.2mm]');
</script>

<div
  class={['flex items-center overflow-hidden border border-black bg-white text-black', sizes.box]}
  data-theme="tin"
  data-label={number}
  style:break-inside="avoid"
>
  <img
    class={['shrink-0', sizes.code]}
    src="data:image/svg+xml,{encodeURIComponent(code)}"
    alt="Code of {number}"
  />
  <span class="min-w-0 flex-1 leading-tight">
    <b class={['block font-display', set]}>{number}</b>
    <span class={['block truncate', words]}>{name}</span>
    {#if size !== 'tape' && more !== ''}<span class={['block truncate', words]}>{more}</span>{/if}
  </span>
  {#if size === 'large' && drawing}<span class="label-drawing ml-auto shrink-0">{@render drawing()}</span
    >{/if}
</div>
