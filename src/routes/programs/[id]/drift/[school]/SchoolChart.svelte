<script lang="ts">
  import { inUnit, type Length, type LengthUnit } from '$core/units/length';
  import {
    Chart,
    LinearScale,
    LineController,
    LineElement,
    PointElement,
    Tooltip,
    type ChartDataset,
  } from 'chart.js';
  import { onMount } from 'svelte';
  import { partAxes } from '$lib/part-axes';
  import { partAt } from '../part-at';
  import { stepMarks } from '../step-marks';

  interface Props {
    walked: { at: number; measured: number; change: number; edge: number }[];
    points: { at: number; part: number; deviation: number }[];
    /** Less the target. */
    limits: { lower: number; upper: number };
    feature: { target: Length };
    unit: LengthUnit;
    words: string;
  }
  let { walked, points, limits, feature, unit, words }: Props = $props();
  let canvas = $state<HTMLCanvasElement>();
  let chart: Chart | undefined;
  Chart.register(LineController, LineElement, PointElement, LinearScale, Tooltip);

  /** Each at the part after which it was keyed, or with which the edge began. */
  const steps = stepMarks(() =>
    walked.flatMap((each, i) => [
      ...(i > 0 && each.edge !== walked[i - 1]!.edge ? [{ at: each.at - 0.5, kind: 'edge' as const }] : []),
      ...(each.change !== 0 ? [{ at: each.at + 0.5, kind: 'correction' as const }] : []),
    ]),
  );

  function draw() {
    if (!canvas) return;
    const style = getComputedStyle(canvas);
    const ink = style.color;
    const accent = style.getPropertyValue('--color-accent').trim();
    const size = (deviation: number) => inUnit(feature.target + deviation, unit);
    const ends = [walked[0]!.at, walked.at(-1)!.at];
    const level = (label: string, deviation: number, dash: number[]): ChartDataset<'line'> => ({
      label,
      data: ends.map((x) => ({ x, y: size(deviation) })),
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
            label: 'by this school',
            data: walked.map(({ at, measured }) => ({ x: at, y: size(measured) })),
            borderColor: accent,
            backgroundColor: accent,
            borderWidth: 1.5,
            pointRadius: 3,
          },
          {
            label: 'as they were',
            data: points.map(({ at, deviation }) => ({ x: at, y: size(deviation) })),
            borderColor: ink,
            borderWidth: 1,
            borderDash: [1, 3],
            pointRadius: 0,
          },
          level('upper limit', limits.upper, []),
          level('lower limit', limits.lower, []),
          level('aim', 0, [6, 4]),
        ],
      },
      plugins: [steps],
      options: {
        animation: false,
        maintainAspectRatio: false,
        scales: partAxes(ink, unit, 'part', {
          x: { min: ends[0], max: ends[1] },
          xTicks: { callback: (value: string | number) => partAt(points, Number(value)) },
        }),
      },
    });
  }
  onMount(() => () => chart?.destroy());
  $effect(draw);
</script>

<figure>
  <div class="relative mt-1 h-72"><canvas bind:this={canvas} aria-label={words}></canvas></div>
  <figcaption class="small-words mt-1">
    Line: as the parts would have been by this school. Dots: as they were cut. Upright: a new edge or set-up.
    Ticks at the foot: what it would have keyed.
  </figcaption>
</figure>
