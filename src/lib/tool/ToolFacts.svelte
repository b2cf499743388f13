<script lang="ts">
  import { ASSEMBLY_WORDS, INTERFACES, type AssemblyShape } from '$core/assembly/silhouette';
  import type { Length, LengthUnit } from '$core/units/length';

  import Size from '../Size.svelte';

  let {
    assembly,
    unit,
  }: {
    assembly: AssemblyShape & {
      id: number;
      cornerRadius: Length;
      holder: string;
      teeth: number;
      leftHand: boolean;
    };
    unit: LengthUnit;
  } = $props();
</script>

<dl class="grid grid-cols-[auto_1fr] items-center gap-x-4 gap-y-0.5 font-narrow">
  <dt>Kind</dt>
  <dd class="font-semibold">
    {ASSEMBLY_WORDS[assembly.kind]}{#if assembly.kind === 'probe'},
      <a class="underline" href="/tools/{assembly.id}/probe">its calibration</a>{/if}
  </dd>
  <dt>Diameter</dt>
  <dd class="font-semibold"><Size value={assembly.diameter} {unit} /></dd>
  {#if assembly.cornerRadius > 0}<dt>Corner radius</dt>
    <dd class="font-semibold"><Size value={assembly.cornerRadius} {unit} /></dd>{/if}
  {#if assembly.leftHand}<dt>Hand</dt>
    <dd class="font-semibold">left: it cuts with M4</dd>{/if}
  <dt>Gauge length</dt>
  <dd class="font-semibold"><Size value={assembly.gaugeLength} {unit} /></dd>
  <dt>Stick-out</dt>
  <dd class="font-semibold"><Size value={assembly.stickOut} {unit} /></dd>
  <dt>End</dt>
  <dd class="font-semibold">{INTERFACES[assembly.interface].words}</dd>
  {#if assembly.holder}<dt>Holder</dt>
    <dd class="font-semibold">{assembly.holder}</dd>{/if}
  {#if assembly.teeth > 0}<dt>Teeth</dt>
    <dd class="font-semibold">{assembly.teeth}</dd>{/if}
</dl>
