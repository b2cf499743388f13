/** Smaller than this nobody reads a word in a drawing, pixels on the screen. */
export const LEAST = 11;

/** A size of text in a drawing's own measure that is never drawn smaller than legible; `legible` says what that is. */
export const atLeast = (size: number): string => `max(${size}px, var(--least, 0px))`;

/** Keeps the words of a drawing legible however small it is shown: `--least` is what eleven pixels are in its own measure. */
export function legible(svg: SVGSVGElement) {
  const measure = () => {
    const scale = svg.getScreenCTM()?.a ?? 1;
    svg.style.setProperty('--least', `${scale > 0 ? LEAST / scale : LEAST}px`);
  };
  const seen = new ResizeObserver(measure);
  seen.observe(svg);
  measure();
  return { destroy: () => seen.disconnect() };
}
