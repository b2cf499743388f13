/**
 * The fields of a page that say what it was asked for (a filter, a place, a length) show it again: after going back, or along a link
 * of the page, what was typed for the question before would stand beside the answer to another.
 */
export function showAsked(within: ParentNode): void {
  for (const field of within.querySelectorAll('input')) {
    if (field.form?.method !== 'get' || !field.hasAttribute('value')) continue;
    if (field.type === 'checkbox') field.checked = field.defaultChecked;
    else if (!['hidden', 'radio', 'submit'].includes(field.type)) field.value = field.defaultValue;
  }
}
