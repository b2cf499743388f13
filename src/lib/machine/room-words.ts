import type { ChangerShape } from '$core/changer/layout';
import type { PlaceRow } from '$core/changer/place';
import { roomBeside } from '$core/changer/room-beside';
import { formatWithUnit } from '$core/units/format-length';
import type { Length, LengthUnit } from '$core/units/length';
import { placeWord } from '../words';

/** What an empty pocket has room for, as a sentence; empty where nothing limits it. */
export function roomWords(
  shape: ChangerShape,
  places: readonly PlaceRow[],
  unit: LengthUnit,
  empty: PlaceRow,
): string {
  const show = (length: Length) => formatWithUnit(length, unit, { decimals: unit === 'mm' ? 1 : 2 });
  const free = roomBeside(shape, places, empty);
  return [
    free &&
      `T${free.tool} in ${placeWord(shape.kind)} ${free.beside} leaves room for ${show(free.widest)} across.`,
    empty.kind === 'pocket' && empty.cell !== null && `Its cell takes holders up to ${show(empty.cell)}.`,
  ]
    .filter(Boolean)
    .join(' ');
}
