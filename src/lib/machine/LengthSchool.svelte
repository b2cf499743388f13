<script lang="ts">
  import type { LengthSchool } from '$core/length/schools';
  import { formatWithUnit } from '$core/units/format-length';
  import type { Length, LengthUnit } from '$core/units/length';

  interface Props {
    machine: {
      name: string;
      unit: LengthUnit;
      lengthSchool: LengthSchool;
      planeConstant: Length;
      masterLength: Length;
    };
  }
  let { machine }: Props = $props();
  const { lengthSchool: school } = $derived(machine);
  const WORDS = {
    gaugeLength: {
      name: 'Gauge length',
      sum: 'H = L',
      tail: 'The work offset carries the distance from spindle to part.',
    },
    touchOff: {
      name: 'Touch-off to a plane',
      sum: 'H = K + L',
      tail: 'The work offset carries the distance from plane to part top.',
    },
    masterTool: {
      name: 'Difference from a master tool',
      sum: 'H = L − Lm',
      tail: 'The master tool itself has zero.',
    },
  };
</script>

<!-- What "length" means here, drawn: gauge line, tool, and the plane or master it is reckoned from. -->
<section aria-labelledby="school">
  <h2 id="school" class="heading">{WORDS[school].name}</h2>
  <svg
    viewBox="0 0 300 210"
    class="mt-2 w-full max-w-sm"
    role="img"
    aria-label="{WORDS[school].name}: {WORDS[school].sum}"
    font-size="12"
    fill="currentColor"
    font-family="var(--font-narrow)"
  >
    <path d="M20 40H180" stroke="var(--color-accent)" stroke-width="1.5" /><text
      x="184"
      y="44"
      fill="var(--color-accent)">gauge line</text
    >
    <path
      d="M60 40h50v14h-8v34h-10v32h-14v-32h-10v-34h-8z"
      fill="var(--color-base-300)"
      stroke="currentColor"
    />
    <path d="M30 40V120M26 120h8M26 40h8" fill="none" stroke="currentColor" /><text x="10" y="84">L</text>
    {#if school === 'touchOff'}
      <path d="M20 190H200" stroke="currentColor" stroke-width="2" /><text x="204" y="194">plane</text>
      <path d="M150 40V190M146 40h8M146 190h8" fill="none" stroke="currentColor" /><text x="156" y="150"
        >K</text
      >
      <path d="M85 120V190" stroke="var(--color-accent)" stroke-dasharray="4 3" /><text
        x="90"
        y="160"
        fill="var(--color-accent)">H</text
      >
    {:else if school === 'masterTool'}
      <path
        d="M140 40h24v14h-4v26h-6v12h-4v-12h-6v-26h-4z"
        fill="none"
        stroke="currentColor"
        stroke-dasharray="3 2"
      /><text x="172" y="84">master, Lm</text>
      <path d="M60 92H160M60 120H110" stroke="currentColor" stroke-dasharray="2 3" opacity="0.7" />
      <path d="M125 92V120" stroke="var(--color-accent)" stroke-width="2" /><text
        x="130"
        y="112"
        fill="var(--color-accent)">H</text
      >
    {:else}
      <path
        d="M130 40V120M126 120h8M126 40h8"
        fill="none"
        stroke="var(--color-accent)"
        stroke-width="2"
      /><text x="138" y="84" fill="var(--color-accent)">H</text>
    {/if}
  </svg>
  <p class="font-display text-xl font-semibold">{WORDS[school].sum}</p>
  {#if school === 'touchOff'}<p>
      K on {machine.name}: <b>{formatWithUnit(machine.planeConstant, machine.unit)}</b>
    </p>
  {:else if school === 'masterTool'}<p>
      Lm on {machine.name}: <b>{formatWithUnit(machine.masterLength, machine.unit)}</b>
    </p>{/if}
  <p class="small-words">{WORDS[school].tail} Never mix two ways in one set-up.</p>
</section>
