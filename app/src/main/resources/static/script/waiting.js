// A reply that waits to go out: how long still, and the page anew once it has gone.
const bar = () => document.getElementById("waiting");
function tick() {
  if (!bar()) { return; }
  const left = Math.ceil((Date.parse(bar().dataset.due) - Date.now()) / 1000);
  bar().querySelector("[data-left]").textContent = left > 0 && left < 100 ? left + " s" : "";
  if (left < -1) { location.hash = "end"; location.reload(); return; }
  setTimeout(tick, 500);
}
document.addEventListener("DOMContentLoaded", tick);
