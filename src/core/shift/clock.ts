/** A duration as minutes and seconds, "9:30": whole seconds, rounded. */
export const minutesAndSeconds = (milliseconds: number): string => {
  const seconds = Math.round(milliseconds / 1000);
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
};

/** Milliseconds of a duration typed as minutes, or minutes:seconds; null when it is neither, or nothing. */
export function parseMinutesAndSeconds(text: string): number | null {
  const found = /^(\d{1,4})(?::([0-5]\d))?$/.exec(text.trim());
  if (!found) return null;
  const milliseconds = (Number(found[1]) * 60 + Number(found[2] ?? 0)) * 1000;
  return milliseconds > 0 ? milliseconds : null;
}
