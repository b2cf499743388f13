<script lang="ts">
  import type { Length, LengthUnit } from '$core/units/length';
  import { inUnit } from '$core/units/length';
  import {
    Chart,
    Filler,
    LinearScale,
    LineController,
    LineElement,
    PointElement,
    ScatterController,
    Tooltip,
    type ChartDataset,
  } from 'chart.js';
  import { onMount } from 'svelte';
  import { partAxes } from '$lib/part-axes';

  import { partAt } from './part-at';
  import { stepMarks } from './step-marks';
  import type { PageData } from './$types';

  interface Props {
    page: NonNullable<PageData['page']>;
    feature: { target: Length; nominal: Length; upper: Length; lower: Length };
    unit: LengthUnit;
    words: string;
  }
  let { page, feature, unit, words }: Props = $props();
  let canvas = $state<HTMLCanvasElement>();
  let chart: Chart | undefined;
  Chart.register(LineController, ScatterController, LineElement, PointElement, LinearScale, Filler, Tooltip);

  const steps = stepMarks(() => page.steps);

  function draw() {
    if (!canvas) return;
    const style = getComputedStyle(canvas);
    const ink = style.color;
    const accent = style.getPropertyValue('--color-accent').trim();
    const shade = style.getPropertyValue('--color-base-300').trim();
    const { points, drift } = page;
    // of a set-up that nobody has measured nothing is foretold
    const foretold = page.setUpSince ? [] : drift.fan;
    const size = (deviation: number) => inUnit(feature.target + deviation, unit);
    const last = points.at(-1)!.at + 1;
    const bounds = [feature.lower, feature.upper].map(
      (limit) => feature.nominal + limit - feature.target,
    ) as [number, number];
    const room = (bounds[1] - bounds[0]) / 3;
    // and where it stands now, though no part was cut there yet
    const cut = points.map(({ deviation }) => deviation);
    if (!page.setUpSince) cut.push(drift.now - room / 2, drift.now + room / 2);
    const ends = [points[0]!.at, last + (foretold.at(-1)?.ahead ?? 1)];
    const level = (label: string, deviation: number, dash: number[]): ChartDataset<'line'> => ({
      label,
      data: ends.map((x) => ({ x, y: size(deviation) })),
      borderColor: ink,
      borderWidth: 1,
      borderDash: dash,
      pointRadius: 0,
    });
    const fan = (label: string, pick: 'low' | 'mean' | 'high', more: Partial<ChartDataset<'line'>>) => ({
      label,
      data: foretold.map((each) => ({ x: last + each.ahead, y: size(each[pick]) })),
      borderColor: shade,
      borderWidth: 0,
      pointRadius: 0,
      ...more,
    });
    const lines: ChartDataset<'line'>[] = [
      {
        label: 'as cut',
        data: points.map(({ at, deviation }) => ({ x: at, y: size(deviation) })),
        borderColor: accent,
        backgroundColor: accent,
        borderWidth: 1.5,
        pointRadius: 3.5,
      },
      {
        label: 'with the row as it is now all along',
        data: points.map(({ at, uncorrected }) => ({ x: at, y: size(uncorrected) })),
        borderColor: ink,
        borderWidth: 1,
        borderDash: [1, 3],
        pointRadius: 0,
      },
      fan('nine parts of ten, low', 'low', { fill: '+1' as never, backgroundColor: shade }),
      fan('nine parts of ten, high', 'high', {}),
      fan('foretold', 'mean', { borderColor: accent, borderWidth: 2, borderDash: [6, 3] }),
      level('upper limit', bounds[1], []),
      level('lower limit', bounds[0], []),
      level('aim', 0, [6, 4]),
    ];
    chart?.destroy();
    chart = new Chart(canvas, {
      type: 'line',
      data: { datasets: lines },
      plugins: [steps],
      options: {
        animation: false,
        maintainAspectRatio: false,
        scales: partAxes(ink, unit, 'part', {
          x: { min: ends[0], max: ends[1] },
          xTicks: { callback: (value: string | number) => partAt(page.points, Number(value)) },
          // far ahead the fan is wider than anything that matters
          y: {
            min: size(Math.min(bounds[0] - room, ...cut)),
            max: size(Math.max(bounds[1] + room, ...cut)),
          },
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
    Line: as cut. Dots: as if the row had stood as it does now all along. {page.setUpSince
      ? 'What lies ahead is of another set-up, and not foretold.'
      : 'Shaded: where nine parts of ten will be if nothing is touched.'} Upright: a new edge, its row set anew,
    or a new set-up; broken: it jumped. Ticks at the foot: corrections.
  </figcaption>
</figure>
