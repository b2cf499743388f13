/** The same, as a sentence begins. */
export const capital = (text: string): string => `${text.slice(0, 1).toUpperCase()}${text.slice(1)}`;
