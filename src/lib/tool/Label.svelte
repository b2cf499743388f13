<script lang="ts">
  import type { AssemblyShape } from '$core/assembly/silhouette';
  import Silhouette from '../Silhouette.svelte';
  import { formatWithUnit } from '$core/units/format-length';

  interface Props {
    number: string;
    name: string;
    shape: AssemblyShape;
    /** SVG of the 2-D code, made by the server. */
    code: string;
  }
  let { number, name, shape, code }: Props = $props();
</script>

<!-- 60 by 25 mm: a label that can be peeled off. -->
<div
  class="flex h-[25mm] w-[60mm] items-center gap-[2mm] overflow-hidden border border-black bg-white p-[1.5mm] text-black"
  data-theme="tin"
  style:break-inside="avoid"
>
  <img
    class="h-[20mm] w-[20mm] shrink-0"
    src="data:image/svg+xml,{encodeURIComponent(code)}"
    alt="Code of {number}"
  />
  <span class="min-w-0 flex-1 leading-tight">
    <b class="block font-display text-[4.6mm] whitespace-nowrap">{number}</b>
    <span class="block truncate text-[2.8mm]">{name}</span>
    <span class="block text-[2.8mm] whitespace-nowrap">{formatWithUnit(shape.gaugeLength, 'mm')}</span>
  </span>
  <span class="label-drawing ml-auto shrink-0"><Silhouette {shape} height={64} /></span>
</div>
