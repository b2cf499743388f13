import type { LengthUnit } from '$core/units/length';

/** The axes of a chart of sizes over parts. What a chart asks for beside is laid over them. */
export function partAxes(
  ink: string,
  unit: LengthUnit,
  title: string,
  own: { x?: object; y?: object; xTicks?: object } = {},
) {
  const ticks = { color: ink, font: { family: 'Barlow Semi Condensed', size: 13 } };
  return {
    x: {
      type: 'linear' as const,
      ticks: { ...ticks, precision: 0, ...own.xTicks },
      grid: { display: false },
      title: { display: true, text: title, color: ink },
      ...own.x,
    },
    y: {
      ticks: {
        ...ticks,
        callback: (value: string | number) => Number(value).toFixed(unit === 'mm' ? 3 : 4),
      },
      grid: { display: false },
      ...own.y,
    },
  };
}
