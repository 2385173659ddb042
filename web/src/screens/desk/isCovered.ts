/** Whether a dialog or menu is open, which has all keys to itself. */
export function isCovered(): boolean {
  return document.querySelector('[role="dialog"], .dropdown-menu.show') !== null;
}
