// The watch in the frame: it ticks here, and is asked for again when something was done with it.
import { ask } from "./server.js";

const place = () => document.getElementById("stopwatch-place");
function words(seconds) {
  const minutes = Math.floor(seconds / 60), two = n => String(n).padStart(2, "0");
  return minutes < 60 ? minutes + ":" + two(seconds % 60) : Math.floor(minutes / 60) + " h " + two(minutes % 60);
}
let base = 0, at = 0;
function tick() {
  const watch = place() && place().querySelector(".stopwatch");
  if (!watch) { return; }
  const seconds = base + (watch.dataset.runs === "true" ? Math.floor((Date.now() - at) / 1000) : 0);
  watch.querySelector("[data-clock]").textContent = words(seconds);
}
function show() {
  if (!place()) { return; }
  ask("/stopwatch", { headers: { "HX-Request": "true" } }).then(a => a.ok ? a.text() : "").then(html => {
    place().innerHTML = html.includes("stopwatch") ? html : "";
    const watch = place().querySelector(".stopwatch");
    if (watch) {
      base = Number(watch.dataset.seconds);
      at = Date.now();
      tick();
      htmx.process(place());
    }
  });
}
setInterval(tick, 1000);
document.addEventListener("DOMContentLoaded", show);
document.addEventListener("htmx:afterRequest", e => {
  if (String(e.detail.requestConfig && e.detail.requestConfig.path).startsWith("/stopwatch")) { show(); }
});
