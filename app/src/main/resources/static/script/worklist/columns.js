// The columns of the Grid: moved, widened, chosen.
import { query } from "./list.js";

function columns() { return Array.from(document.querySelectorAll("table.grid th[data-col]")); }
function showColumns(names) {
  const p = new URLSearchParams(query());
  p.set("cols", names.join(","));
  location.href = "/worklist?" + p;
}
function columnNames() { return columns().map(th => th.dataset.col + ":" + th.dataset.width); }
let movedColumn = null, sized = null;
document.addEventListener("dragstart", e => { movedColumn = e.target.closest && e.target.closest("th[data-col]"); });
document.addEventListener("dragover", e => { if (movedColumn && e.target.closest("th[data-col]")) { e.preventDefault(); } });
document.addEventListener("drop", e => {
  const to = movedColumn && e.target.closest("th[data-col]");
  if (!to || to === movedColumn) { return; }
  e.preventDefault();
  to[e.clientX > to.getBoundingClientRect().left + to.offsetWidth / 2 ? "after" : "before"](movedColumn);
  showColumns(columnNames());
});
document.addEventListener("dragend", () => { movedColumn = null; });
document.addEventListener("pointerdown", e => {
  const edge = e.target.closest && e.target.closest("th .edge");
  if (!edge) { return; }
  e.preventDefault();
  const th = edge.closest("th");
  th.draggable = false;
  sized = { th, x: e.clientX, width: th.offsetWidth };
});
document.addEventListener("pointermove", e => {
  if (!sized) { return; }
  sized.th.dataset.width = Math.max(48, Math.min(900, Math.round(sized.width + e.clientX - sized.x)));
  sized.th.setAttribute("width", sized.th.dataset.width);
});
document.addEventListener("pointerup", () => { if (sized) { sized = null; showColumns(columnNames()); } });
document.addEventListener("click", e => {
  const head = e.target.closest("th a[data-then]");
  if (head && e.shiftKey) { e.preventDefault(); location.href = head.dataset.then; return; }
  if (e.target.closest("[data-columns]")) {
    const widths = {};
    columns().forEach(th => { widths[th.dataset.col] = th.dataset.width; });
    const ticked = Array.from(document.querySelectorAll("#columns input:checked")).map(i => i.value);
    const kept = columns().map(th => th.dataset.col).filter(c => ticked.includes(c));
    const added = ticked.filter(c => !kept.includes(c));
    showColumns(kept.concat(added).map(c => widths[c] ? c + ":" + widths[c] : c));
  }
});
// With the keyboard: Alt and an arrow on a header moves the column, with Shift it changes how wide it is.
document.addEventListener("keydown", e => {
  const th = e.altKey && (e.key === "ArrowLeft" || e.key === "ArrowRight") && e.target.closest("th[data-col]");
  if (!th) { return; }
  e.preventDefault();
  const right = e.key === "ArrowRight";
  if (e.shiftKey) {
    th.dataset.width = Math.max(48, Math.min(900, Number(th.dataset.width) + (right ? 20 : -20)));
    showColumns(columnNames());
    return;
  }
  const other = right ? th.nextElementSibling : th.previousElementSibling;
  if (other && other.dataset.col) { other[right ? "after" : "before"](th); showColumns(columnNames()); }
});
