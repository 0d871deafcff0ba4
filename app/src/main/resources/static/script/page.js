// What every module asks of the page.
export function byId(id) { return document.getElementById(id); }

/** Whether somebody types there. */
export function typing(el) {
  return !!el.closest("input:not([type=checkbox]):not([type=radio]), textarea, select, [contenteditable=true]");
}

const MARKS = ["id", "href", "name", "value", "action", "aria-label", "title"];
function markOf(el) {
  const marks = MARKS.map(name => el.getAttribute(name) || "");
  return [el.tagName, ...marks, marks.some(Boolean) ? "" : el.textContent.trim()].join("|");
}
/** What stands now where that stood before its part of the page was drawn anew; the thing itself where it is still there. */
export function again(el) {
  if (el.isConnected) { return el; }
  const mark = markOf(el);
  return Array.from(document.getElementsByTagName(el.tagName)).find(other => markOf(other) === mark) || null;
}
/** Draws a part of the page anew; who was there by keyboard stays where they were. */
export function drawAnew(draw) {
  const was = document.activeElement;
  draw();
  const now = was && was !== document.body && document.activeElement === document.body ? again(was) : null;
  if (now) { now.focus({ preventScroll: true }); }
}
