// A day of the floor, run through by a slider; a whole day takes a minute.
import { byId } from "./page.js";

const DAY = 60000;
const place = byId("then"), slider = byId("then-at"), button = byId("then-run");
const times = place.dataset.times.split(",");
const here = [];
place.dataset.here.split("|").forEach(names => { here.push(names === "=" ? here.at(-1) : names); });
const most = Math.max(1, ...[...document.querySelectorAll("[data-loads]")].map(person => Number(person.dataset.most)));
let running = null;

function show() {
  const at = Number(slider.value);
  byId("then-time").textContent = times[at];
  byId("then-here").textContent = here[at] || "nobody";
  slider.setAttribute("aria-valuetext", times[at]);
  document.querySelectorAll("[data-loads]").forEach(person => {
    const had = Number(person.dataset.loads.split(",")[at]);
    person.querySelector("[data-now]").textContent = had;
    person.querySelector(".used").setAttribute("width", 100 * had / most);
  });
  document.querySelectorAll("[data-counts]").forEach(queue => {
    queue.querySelector("[data-now]").textContent = queue.dataset.counts.split(",")[at];
    const line = queue.querySelector(".at");
    const x = at * queue.querySelector("svg").viewBox.baseVal.width / Math.max(1, times.length - 1);
    line.setAttribute("x1", x);
    line.setAttribute("x2", x);
  });
}
function stop() {
  clearInterval(running);
  running = null;
  button.textContent = "Run the day";
}
button.addEventListener("click", () => {
  if (running) { stop(); return; }
  if (Number(slider.value) >= times.length - 1) { slider.value = 0; }
  button.textContent = "Hold";
  running = setInterval(() => {
    slider.value = Number(slider.value) + 1;
    show();
    if (Number(slider.value) >= times.length - 1) { stop(); }
  }, DAY / 288);
});
slider.addEventListener("input", show);
show();
