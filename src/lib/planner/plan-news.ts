import type { Layout, PlanMeasure, PlanQuestion, PlanWeights } from '../../core/changer/plan-layout.ts';
import type { FoundLayout } from '../../core/changer/plan-search.ts';
import type { Verdict } from './exact.ts';

/** What the page asks of the planner's worker. */
export interface PlanAsk {
  question: PlanQuestion;
  /** How long the exact solver may take. */
  seconds: number;
}

/** What one search of several is asked. */
export interface SearchAsk {
  question: PlanQuestion;
  /** Changes that it tries. */
  rounds: number;
  /** A layout that can be, to begin from; null: none is known. */
  known: Layout | null;
  seed: number;
}

/** The best that one wish alone would get, and what it costs the others. */
export interface TradeRow {
  wish: keyof PlanWeights;
  measure: PlanMeasure;
}

/** What the worker tells. */
export type PlanNews =
  | { kind: 'progress'; share: number; bound: number | null }
  | { kind: 'found'; found: FoundLayout }
  | { kind: 'trade'; trade: TradeRow[] }
  | { kind: 'refused'; reason: string }
  | ({ kind: 'done' } & Verdict);
