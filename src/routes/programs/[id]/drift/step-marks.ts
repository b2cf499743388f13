import type { Chart } from 'chart.js';

/** Draws upright lines where a new edge began, broken ones where it jumped, and a tick at the foot for each correction. */
export const stepMarks = (steps: () => readonly { at: number; kind: 'edge' | 'correction' | 'jump' }[]) => ({
  id: 'steps',
  beforeDatasetsDraw(drawn: Chart) {
    const { ctx, chartArea: area, scales } = drawn;
    ctx.save();
    ctx.strokeStyle = getComputedStyle(drawn.canvas).color;
    for (const step of steps()) {
      const x = scales.x!.getPixelForValue(step.at);
      if (x < area.left || x > area.right) continue;
      ctx.lineWidth = 2;
      ctx.setLineDash(step.kind === 'jump' ? [7, 5] : []);
      ctx.beginPath();
      ctx.moveTo(x, step.kind === 'correction' ? area.bottom - 9 : area.top);
      ctx.lineTo(x, area.bottom);
      ctx.stroke();
    }
    ctx.restore();
  },
});
