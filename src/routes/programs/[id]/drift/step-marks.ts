import type { Chart } from 'chart.js';

/** Draws upright lines where a new edge began, and a tick at the foot for each correction. */
export const stepMarks = (steps: () => readonly { at: number; kind: 'edge' | 'correction' }[]) => ({
  id: 'steps',
  beforeDatasetsDraw(drawn: Chart) {
    const { ctx, chartArea: area, scales } = drawn;
    ctx.save();
    ctx.strokeStyle = getComputedStyle(drawn.canvas).color;
    for (const step of steps()) {
      const x = scales.x!.getPixelForValue(step.at);
      if (x < area.left || x > area.right) continue;
      ctx.lineWidth = 2;
      ctx.beginPath();
      ctx.moveTo(x, step.kind === 'edge' ? area.top : area.bottom - 9);
      ctx.lineTo(x, area.bottom);
      ctx.stroke();
    }
    ctx.restore();
  },
});
