import { formatLength, formatWithUnit } from '$core/units/format-length';
import { lengthOf, type Length, type LengthUnit } from '$core/units/length';

/** A line of the plate: its figure, and the tool that comes nearest to it now. */
export interface PlateFigure {
  name: string;
  words: string;
  limit: number | null;
  typed: string;
  suffix: string;
  now: { share: number; words: string } | null;
}

interface Standing {
  tool: number;
  gaugeLength: Length;
  widest: Length;
  mass: number;
  moment: number;
}
interface Plate {
  unit: LengthUnit;
  longest: Length | null;
  widest: Length | null;
  widestAlone: Length | null;
  heaviest: number | null;
  moment: number | null;
  heaviestAll: number | null;
  unbalance: number | null;
  swing: Length | null;
  travelX: Length | null;
  travelY: Length | null;
}
interface Bearing {
  total: number;
  unbalance: number;
  towards: number | null;
  swing: number | null;
}

function most(
  standing: readonly Standing[],
  of: (tool: Standing) => number,
  words: (value: number) => string,
): PlateFigure['now'] {
  const top = standing.reduce<Standing | null>(
    (best, each) => (best === null || of(each) > of(best) ? each : best),
    null,
  );
  return top ? { share: of(top), words: `now T${top.tool} ${words(of(top))}` } : null;
}

/** The highest T that stands in the machine. */
export const highestNow = (standing: readonly Standing[]) =>
  most(
    standing,
    (tool) => tool.tool,
    () => '',
  );

/** The figures that a plate of this kind has: of one tool and of all together, or a turret's swing. */
export function plateLines(
  machine: Plate,
  standing: readonly Standing[],
  bearing: Bearing,
  turret: boolean,
): PlateFigure[] {
  const { unit } = machine;
  const decimals = unit === 'mm' ? 1 : 2;
  const lengthWords = (value: number) => formatWithUnit(value as Length, unit, { decimals });
  const kilograms = (grams: number) => `${(grams / 1000).toFixed(2)} kg`;
  const typed = (value: Length | null) => (value === null ? '' : formatLength(value, unit, { decimals }));
  const ofOneTool = [
    {
      name: 'longest',
      words: 'Longest tool, from the gauge line',
      limit: machine.longest,
      typed: typed(machine.longest),
      suffix: unit,
      now: most(standing, (tool) => tool.gaugeLength, lengthWords),
    },
    {
      name: 'widest',
      words: 'Widest tool, neighbours full',
      limit: machine.widest,
      typed: typed(machine.widest),
      suffix: unit,
      now: null,
    },
    {
      name: 'widestAlone',
      words: 'Widest tool, neighbours empty',
      limit: machine.widestAlone,
      typed: typed(machine.widestAlone),
      suffix: unit,
      now: most(standing, (tool) => tool.widest, lengthWords),
    },
    {
      name: 'heaviest',
      words: 'Heaviest tool',
      limit: machine.heaviest,
      typed: machine.heaviest === null ? '' : String(machine.heaviest / 1000),
      suffix: 'kg',
      now: most(standing, (tool) => tool.mass, kilograms),
    },
    {
      name: 'moment',
      words: 'Moment about the gauge line',
      limit: machine.moment,
      typed: machine.moment === null ? '' : String(machine.moment),
      suffix: 'N·m',
      now: turret
        ? null
        : most(
            standing,
            (tool) => tool.moment,
            (value) => `${value.toFixed(1)} N·m`,
          ),
    },
  ];
  return [
    ...(turret
      ? [
          {
            name: 'swing',
            words: 'Swing of the turret, across',
            limit: machine.swing,
            typed: typed(machine.swing),
            suffix: unit,
            now:
              bearing.swing === null
                ? null
                : {
                    share: bearing.swing * 1e6,
                    words: `now ${formatWithUnit(lengthOf(bearing.swing, 'mm'), unit, { decimals })}`,
                  },
          },
        ]
      : [
          ...ofOneTool,
          {
            name: 'heaviestAll',
            words: 'All tools together',
            limit: machine.heaviestAll,
            typed: machine.heaviestAll === null ? '' : String(machine.heaviestAll / 1000),
            suffix: 'kg',
            now: { share: bearing.total, words: `now ${kilograms(bearing.total)}` },
          },
          ...(['X', 'Y'] as const).map((axis) => ({
            name: `travel${axis}`,
            words: `Travel in ${axis}`,
            limit: machine[`travel${axis}`],
            typed: typed(machine[`travel${axis}`]),
            suffix: unit,
            now: null,
          })),
        ]),
    ...(bearing.towards !== null
      ? [
          {
            name: 'unbalance',
            words: 'Out of balance',
            limit: machine.unbalance,
            typed: machine.unbalance === null ? '' : String(machine.unbalance / 1000),
            suffix: 'kg·m',
            now: {
              share: bearing.unbalance,
              words: `now ${(bearing.unbalance / 1000).toFixed(2)} kg·m`,
            },
          },
        ]
      : []),
  ];
}
