/** A4 within margins of 10 mm, in CSS pixels, less a line for what a printer rounds. */
const SHEET = { width: 718, height: 1030 };
/** Smaller nobody reads it; a fuller leaf takes a second sheet. */
const SMALLEST = 0.6;

/** Sets the print so small that the element stands on one sheet; what is printed is laid out as `.printing` and measured. */
export function oneSheet(element: HTMLElement) {
  const root = document.documentElement;
  function fit() {
    root.classList.add('printing');
    element.style.width = `${SHEET.width}px`;
    let size = 1;
    const set = () => root.style.setProperty('--sheet', String(size));
    for (set(); element.scrollHeight > SHEET.height && size > SMALLEST; set()) size -= 0.02;
    element.style.width = '';
    root.classList.remove('printing');
  }
  window.addEventListener('beforeprint', fit);
  return {
    destroy() {
      window.removeEventListener('beforeprint', fit);
      root.style.removeProperty('--sheet');
    },
  };
}
