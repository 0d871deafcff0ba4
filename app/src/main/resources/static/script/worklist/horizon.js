// Brushing the due horizon.
import { byId } from "../page.js";

export let brushing = null;
export function strip() { return document.querySelector("svg.strip"); }
function xOf(e) { const m = strip().getScreenCTM(); return (e.clientX - m.e) / m.a; }
function edges() { return strip().dataset.edges.split(",").map(p => p.split(":").map(Number)); }
function drawBrush(a, b) { const r = byId("brush"); r.setAttribute("x", Math.min(a, b)); r.setAttribute("width", Math.abs(b - a)); }
function timeAt(x) {
  const at = edges();
  if (x <= at[0][0]) { return at[0][1]; }
  for (let i = 1; i < at.length; i++) {
    if (x <= at[i][0]) {
      return Math.round(at[i - 1][1] + (at[i][1] - at[i - 1][1]) * (x - at[i - 1][0]) / Math.max(1, at[i][0] - at[i - 1][0]));
    }
  }
  return at.at(-1)[1];
}
function xAt(time) {
  const at = edges();
  for (let i = 1; i < at.length; i++) {
    if (time <= at[i][1]) {
      return at[i - 1][0] + (at[i][0] - at[i - 1][0]) * Math.max(0, time - at[i - 1][1]) / (at[i][1] - at[i - 1][1]);
    }
  }
  return at.at(-1)[0];
}
export function showBrush() {
  const brush = byId("brush"), due = brush && brush.dataset.due;
  if (!due) { return; }
  const p = due.split("-").map(Number);
  if (p[0] === 0) { drawBrush(128, 178); } else { drawBrush(xAt(p[0]), xAt(p[1])); }
}
document.addEventListener("pointerdown", e => {
  if (e.button === 0 && e.target.closest && e.target.closest("svg.strip") && !e.target.closest("a")) {
    e.preventDefault();
    brushing = xOf(e);
  }
});
document.addEventListener("pointermove", e => { if (brushing !== null) { drawBrush(brushing, xOf(e)); } });
document.addEventListener("pointerup", e => {
  if (brushing === null) { return; }
  const a = Math.min(brushing, xOf(e)), b = Math.max(brushing, xOf(e));
  brushing = null;
  const p = new URLSearchParams(strip().closest("[data-list]").dataset.list);
  if (b <= 182) {
    p.set("due", "0-" + edges()[0][1]);
  } else if (b - a < 4) { p.delete("due"); } else { p.set("due", (a < 182 ? 0 : timeAt(a)) + "-" + timeAt(b)); }
  location.href = "/worklist?" + p;
});
