/** Focuses something that is just being shown: Alpine shows it a moment after the page's state has changed. */
export function focusWhenShown(find: () => HTMLElement | null | undefined, tries = 20): void {
  const element = find();
  element?.focus({ preventScroll: true });
  if (document.activeElement !== element && tries > 0) {
    setTimeout(() => focusWhenShown(find, tries - 1), 16);
  }
}
