<script lang="ts">
  import type { FeatureAim } from '$core/correction/propose';
  import { inUnit, type Length, type LengthUnit } from '$core/units/length';
  import { Chart, LinearScale, LineController, LineElement, PointElement, Tooltip } from 'chart.js';
  import { onMount } from 'svelte';
  import { partAxes } from '../part-axes';

  interface Props {
    feature: FeatureAim & { name: string; readings: { part: number; measured: Length }[] };
    unit: LengthUnit;
  }
  let { feature, unit }: Props = $props();
  let canvas = $state<HTMLCanvasElement>();
  Chart.register(LineController, LineElement, PointElement, LinearScale, Tooltip);

  const words = $derived(
    `${feature.readings.length} readings of ${feature.name}, newest ${inUnit(feature.readings.at(-1)!.measured, unit)} ${unit}`,
  );

  let chart: Chart | undefined;
  function draw() {
    if (!canvas) return;
    const ink = getComputedStyle(canvas).color;
    const accent = getComputedStyle(canvas).getPropertyValue('--color-accent').trim();
    // to scale by part; where the counting began anew on another job, one after the other
    const { readings } = feature;
    const counted = readings.every((each, i) => i === 0 || each.part >= readings[i - 1]!.part);
    const at = (i: number) => (counted ? readings[i]!.part : i + 1);
    const ends = [at(0), at(readings.length - 1)];
    const level = (value: number) => ends.map((x) => ({ x, y: inUnit(value, unit) }));
    const line = (label: string, value: number, dash: number[]) => ({
      label,
      data: level(value),
      borderColor: ink,
      borderWidth: 1,
      borderDash: dash,
      pointRadius: 0,
    });
    chart?.destroy();
    chart = new Chart(canvas, {
      type: 'line',
      data: {
        datasets: [
          {
            label: 'size',
            data: readings.map((reading, i) => ({ x: at(i), y: inUnit(reading.measured, unit) })),
            borderColor: accent,
            backgroundColor: accent,
            borderWidth: 2,
            pointRadius: 4,
          },
          line('upper limit', feature.nominal + feature.upper, []),
          line('lower limit', feature.nominal + feature.lower, []),
          line('target', feature.target, [6, 4]),
        ],
      },
      options: {
        animation: false,
        maintainAspectRatio: false,
        scales: partAxes(ink, unit, counted ? 'part' : 'reading'),
      },
    });
  }
  onMount(() => () => chart?.destroy());
  $effect(draw);
</script>

<figure>
  <figcaption class="heading">Size, part by part</figcaption>
  <div class="relative mt-1 h-52"><canvas bind:this={canvas} aria-label={words}></canvas></div>
</figure>
