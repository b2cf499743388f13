import { POLICY_WORDS, type Policy } from '../correction/policies.ts';
import type { FeatureAim } from '../correction/propose.ts';
import { FEATURE_WORDS, type FeatureKind, type Rough } from '../inspection/feature.ts';
import { MOMENT_WORDS, type Moment } from '../inspection/next-reading.ts';
import type { Length } from '../units/length.ts';
import type { FamilyField } from './family.ts';
import type { Change } from './parted.ts';

/** A size of a measuring plan, as far as machines may part in it. */
export interface PlanSize extends FeatureAim {
  tool: number;
  row: number;
  other: { tool: number; row: number } | null;
  rough: Rough | null;
  operatorLimit: Length;
  gauge: string;
  every: number | null;
  also: readonly string[];
}

/** The fields of a size as they are kept: lengths as lengths, the rest as the record has it, whose words may change. */
export const planFields = (size: PlanSize): Record<string, Length | string> => ({
  kind: size.kind,
  nominal: size.nominal,
  'upper limit': size.upper,
  'lower limit': size.lower,
  'cut by': `T${size.tool}, row ${size.row}${size.other ? `, and T${size.other.tool}, row ${size.other.row}` : ''}`,
  'roughed by': size.rough ? `T${size.rough.tool}, row ${size.rough.row}` : 'nobody else',
  aim: size.target,
  corrected: size.policy,
  'readings of an average': String(size.averageOf),
  'dead band': size.deadBand,
  'limit at the machine': size.operatorLimit,
  gauge: size.gauge || 'none',
  'parts between readings': size.every === null ? 'not said' : String(size.every),
  'measured also': size.also.toSorted().join(' ') || 'not',
});

/** A field's value in words. */
export function fieldWords(field: string, value: string): string {
  if (field === 'kind') return FEATURE_WORDS[value as FeatureKind] ?? value;
  if (field === 'corrected') return POLICY_WORDS[value as Policy] ?? value;
  if (field === 'measured also' && value !== 'not')
    return value
      .split(' ')
      .map((moment) => MOMENT_WORDS[moment as Moment] ?? moment)
      .join(', ');
  return value;
}

/** What a change of a plan keeps of what it was: for each size that changed the fields that did; null: it was not there. */
export type PlanWas = Readonly<Record<string, Readonly<Record<string, Length | string>> | null>>;

/** What has to be kept of a plan before it is changed, so that its past can be told. */
export function planWas(
  before: readonly (PlanSize & { name: string })[],
  after: readonly (PlanSize & { name: string })[],
): PlanWas {
  const was: Record<string, Record<string, Length | string> | null> = {};
  for (const size of after) {
    const old = before.find(({ name }) => name === size.name);
    if (!old) {
      was[size.name] = null;
      continue;
    }
    const [from, to] = [planFields(old), planFields(size)];
    const changed = Object.entries(from).filter(([field, value]) => to[field] !== value);
    if (changed.length > 0) was[size.name] = Object.fromEntries(changed);
  }
  return was;
}

/**
 * What each field of a size was over time, from what it is now and the changes of its plan, the newest first. A change from before
 * that was kept leaves what was before it unknown.
 */
export function fieldHistories(
  size: PlanSize & { name: string },
  changes: readonly { at: Date; was: PlanWas | null }[],
): FamilyField[] {
  return Object.entries(planFields(size)).map(([field, present]) => {
    const history: Change<Length | string>[] = [];
    let value: Length | string | null = present;
    let since: Date | null = null;
    for (const { at, was } of changes) {
      since = at;
      const own: PlanWas[string] | undefined = was === null ? null : was[size.name];
      if (own === undefined || (own !== null && !(field in own))) continue;
      history.unshift({ at, value });
      value = own?.[field] ?? null;
      if (value === null) return { field, history };
    }
    if (since === null || history[0]?.at !== since) history.unshift({ at: since ?? new Date(0), value });
    return { field, history };
  });
}

/**
 * What the fields of a size were when something was entered, from what they are now and the changes of its plan, the newest first.
 * A field that was changed since by an entry that did not keep what it was is not in the answer.
 */
export function fieldsAt(
  size: PlanSize & { name: string },
  changes: readonly { entry: number; was: PlanWas | null }[],
  entry: number,
): Partial<Record<string, Length | string>> {
  const fields: Partial<Record<string, Length | string>> = planFields(size);
  for (const change of changes) {
    if (change.entry <= entry) break;
    // nothing is known of what was before
    if (change.was === null) return {};
    const was = change.was[size.name];
    if (was === null) return {};
    if (was !== undefined) Object.assign(fields, was);
  }
  return fields;
}
