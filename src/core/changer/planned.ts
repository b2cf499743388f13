import { lengthOf } from '../units/length.ts';
import type { Layout, PlanQuestion, PlanTool } from './plan-layout.ts';
import type { PlaceRow, PlacedAssembly } from './place.ts';
import type { Wanted, WantedTool } from './wanted.ts';

/** What a T of the plan is: a piece that stands, one that is loose, or one that must be built. */
export interface PlanPiece {
  tool: number;
  assemblyId: number | null;
  number: string;
  name: string;
  state: 'standing' | 'loose' | 'toBuild';
  programs: string[];
  /** The first program that asks for it. */
  asked: { program: number; tool: number } | null;
  orientation: WantedTool['orientation'];
}

export interface LayoutTask {
  question: Omit<PlanQuestion, 'weights'>;
  /** In the order of the question's tools. */
  pieces: PlanPiece[];
  /** What the plan leaves out or cannot know, a sentence each. */
  remarks: string[];
}

/** What a layout makes of one tool. */
export interface Planned {
  tool: PlanTool;
  piece: PlanPiece;
  /** 0: out of the machine. */
  pocket: number;
  act: 'in' | 'out' | 'moves' | 'stays';
  /** The T it has then: its pocket's number where T n lives in pocket n. */
  becomes: number;
}

/** What becomes of each tool under a layout, by the T it has then. `fixed`: T n lives in pocket n. */
export const plannedTools = ({ question, pieces }: LayoutTask, layout: Layout, fixed: boolean): Planned[] =>
  layout
    .map((pocket, i): Planned => {
      const tool = question.tools[i]!;
      const stands = tool.now === pocket || tool.now === 0;
      return {
        tool,
        piece: pieces[i]!,
        pocket,
        act: pocket === 0 ? 'out' : tool.now === null ? 'in' : stands ? 'stays' : 'moves',
        becomes: fixed && pocket > 0 ? pocket : tool.tool,
      };
    })
    .sort((a, b) => a.becomes - b.becomes);

/** The aim of a load plan that brings a machine to where a layout has it. */
export const wantedByPlan = (planned: readonly Planned[]): Wanted => ({
  tools: planned
    .filter((row) => row.pocket > 0)
    .map(({ pocket, becomes, tool, piece }) => ({
      assemblyId: piece.assemblyId,
      number: piece.number,
      name: piece.name,
      tool: becomes,
      pocket,
      wide: tool.wide,
      heavy: tool.heavy,
      radius: piece.assemblyId === null ? null : tool.radius,
      orientation: piece.orientation,
      asked: piece.assemblyId === null ? piece.asked : null,
    })),
  out: planned.flatMap((row) => (row.pocket === 0 && row.piece.assemblyId ? [row.piece.assemblyId] : [])),
});

/** The magazine as it would stand. What is not in the machine yet is drawn as round as it is wide, with the machine's own end. */
export function placesAsPlanned(
  places: readonly PlaceRow[],
  planned: readonly Planned[],
  end: PlacedAssembly['interface'],
): PlaceRow[] {
  return places.map((each) => {
    const row = each.kind === 'pocket' ? planned.find((other) => other.pocket === each.number) : undefined;
    const standing = row && places.find((other) => other.assembly?.id === row.piece.assemblyId);
    return {
      ...each,
      wide: row ? row.tool.wide : each.wide && planned.every((other) => other.piece.tool !== each.tied),
      tied: row?.tool.wide ? row.becomes : each.tied,
      tool: row?.becomes ?? null,
      assembly: row ? (standing?.assembly ?? roundTool(row, end)) : null,
    };
  });
}

function roundTool({ piece, tool }: Planned, end: PlacedAssembly['interface']): PlacedAssembly {
  const round = lengthOf(2 * tool.radius, 'mm');
  return {
    id: piece.assemblyId ?? 0,
    number: piece.number,
    name: piece.name,
    kind: 'endMill',
    interface: end,
    gaugeLength: lengthOf(100, 'mm'),
    stickOut: lengthOf(40, 'mm'),
    holderDiameter: round,
    diameter: round,
    flag: null,
    basis: null,
    remaining: null,
    fullLife: null,
    speedLimit: null,
    mass: tool.mass,
    massReckoned: false,
    moment: null,
    measured: false,
  };
}
