import { placeKey, whereCut, type InCycle } from '../inspection/cycle-place.ts';
import type { JudgedReading, JudgeQuestion } from './judge-question.ts';

/**
 * Parts that are cut in several places with the same rows: two vices, a fixture of four, pallets one after the other. One place stands a little off
 * the other, and no row moves one without the other. So a size that was measured in more than one place is judged as one size a place:
 * of the same rows, each off by something of its own, near the others. What is decided serves all of them, and what one place teaches
 * of the edge counts for the others too.
 *
 * Readings of which nobody knows the place are taken as those of a place of their own.
 *
 * @returns the question with such sizes told apart: the first place of each under the index that the size had, the others at the end
 */
export function byPlace<Question extends Pick<JudgeQuestion, 'sizes' | 'readings' | 'setUps'>>(
  question: Question,
): Question {
  const { sizes, readings, setUps } = question;
  const split = sizes.map((_, index) => placesOf(readings.filter(({ size }) => size === index)));
  if (split.every((places) => places.length < 2)) return question;
  const told = [...sizes];
  const anew = [...setUps];
  const indexOf = new Map<string, number>();
  sizes.forEach((size, index) => {
    const places = split[index]!;
    if (places.length < 2) return;
    places.forEach((place, nth) => {
      const own = nth === 0 ? index : told.length;
      const words = place === null ? null : whereCut(place);
      told[own] = {
        ...size,
        name: `${size.name}, ${words ?? 'place not known'}`,
        place: { of: index, words },
      };
      indexOf.set(`${index} ${placeKey(place)}`, own);
      if (nth > 0)
        anew.push(...setUps.flatMap((each) => (each.size === index ? [{ ...each, size: own }] : [])));
    });
  });
  return {
    ...question,
    sizes: told,
    setUps: anew,
    readings: readings.map((each) => ({
      ...each,
      size: indexOf.get(`${each.size} ${placeKey(each.place ?? null)}`) ?? each.size,
    })),
  };
}

/** The places that a size was measured in, in their order, those of which it is not known last; fewer than two known: none. */
function placesOf(readings: readonly JudgedReading[]): (InCycle | null)[] {
  const places = new Map(
    readings.flatMap(({ held, place }) =>
      held === null ? [] : [[placeKey(place ?? null), place ?? null] as const],
    ),
  );
  const known = [...places.values()].flatMap((place) => place ?? []);
  if (known.length < 2) return [];
  known.sort((a, b) => (a.pallet ?? 0) - (b.pallet ?? 0) || a.parts - b.parts || a.place - b.place);
  return places.has(placeKey(null)) ? [...known, null] : known;
}
