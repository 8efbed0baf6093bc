/** Asks for a card; it goes into this field, else where the cursor is. */
export function drawCard(field: HTMLElement | null): void {
  window.dispatchEvent(new CustomEvent('draw-card', { detail: field }));
}

/** Where a card goes: a field of text, or the draft. */
export function fieldFor(element: Element | null): HTMLElement | null {
  if (!(element instanceof HTMLElement)) return null;
  if (element instanceof HTMLTextAreaElement) return element;
  return element.closest<HTMLElement>('.cm-content');
}

/** Puts words at the cursor of a field, as if they were typed there. */
export function putInto(field: HTMLElement, text: string): void {
  if (!(field instanceof HTMLTextAreaElement)) {
    // The draft makes a remark of it, and knows its own place.
    field.dispatchEvent(new CustomEvent('put-in', { detail: text, cancelable: true }));
    return;
  }
  field.focus();
  const { selectionStart: from, selectionEnd: to, value } = field;
  const space = from > 0 && !/\s$/.test(value.slice(0, from)) ? ' ' : '';
  // As typing does it, so that the browser's own undo takes it back.
  if (document.execCommand('insertText', false, space + text)) return;
  const set = Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value')?.set;
  set?.call(field, value.slice(0, from) + space + text + value.slice(to));
  field.dispatchEvent(new Event('input', { bubbles: true }));
}
