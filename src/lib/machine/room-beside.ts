import { hangingRadius, LEAST_GAP, withinReach } from '$core/changer/clearance';
import type { ChangerShape } from '$core/changer/layout';
import type { PlaceRow } from '$core/changer/place';
import { widestThatHangs } from '$core/changer/side-view';
import { traitsOf } from '$core/changer/traits';
import { formatWithUnit } from '$core/units/format-length';
import { inUnit, lengthOf, type LengthUnit } from '$core/units/length';
import { placeWord } from '../words';

/** What hangs beside an empty pocket, and what that leaves. */
export function roomBeside(
  shape: ChangerShape,
  places: readonly PlaceRow[],
  unit: LengthUnit,
  empty: PlaceRow,
): string {
  if (empty.kind !== 'pocket' || !traitsOf(shape).hangs) return '';
  const radii = new Map(
    places
      .filter((each) => each.kind === 'pocket' && each.assembly)
      .map((each) => [each.number, hangingRadius(shape, each.assembly!)]),
  );
  const free = widestThatHangs(
    withinReach(shape, 1.5 * shape.pitch),
    empty.number,
    (number) => radii.get(number),
    LEAST_GAP,
  );
  const show = (millimetres: number) =>
    formatWithUnit(lengthOf(Math.max(0, millimetres), 'mm'), unit, {
      decimals: unit === 'mm' ? 1 : 2,
    });
  const cell = empty.cell === null ? '' : ` Its cell takes holders up to ${show(inUnit(empty.cell, 'mm'))}.`;
  return free === null
    ? cell.trim()
    : `T${places.find((each) => each.number === free.beside)?.tool} in ${placeWord(shape.kind)} ${free.beside} leaves room for ${show(free.widest)} across.${cell}`;
}
