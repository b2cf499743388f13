/** A field that somebody types into. */
const TYPED = 'input:not([type=hidden], [type=checkbox], [type=radio], [type=submit]), textarea, select';

/**
 * Whether somebody has gone on to a field elsewhere meanwhile: what answers an act does not call them back, or the rest of what they type
 * would stand in another field.
 *
 * @param here where the act was done
 */
export function typingElsewhere(here: Element | null | undefined): boolean {
  const now = document.activeElement;
  return now !== null && now.matches(TYPED) && !here?.contains(now);
}

/** What stands in the fields of a form; returns whether somebody has typed something else there since. */
export function standing(form: HTMLFormElement): () => boolean {
  const fields = [...form.elements].filter(
    (each): each is HTMLInputElement | HTMLTextAreaElement => each.matches(TYPED) && 'value' in each,
  );
  const before = fields.map(({ value }) => value);
  return () => fields.some((field, i) => field.isConnected && field.value !== before[i]);
}
