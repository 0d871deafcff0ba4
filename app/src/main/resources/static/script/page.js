// What every module asks of the page.
export function byId(id) { return document.getElementById(id); }

/** Whether somebody types there. */
export function typing(el) {
  return !!el.closest("input:not([type=checkbox]):not([type=radio]), textarea, select, [contenteditable=true]");
}
