// The worklist at hand: its rows, and asking for some of it.
import { toast, wordsOf } from "../messages.js";
import { byId } from "../page.js";
import { atRest } from "../press.js";
import { ask, formOf } from "../server.js";

export const list = () => byId("worklist");
export const query = () => list().dataset.list;
const shape = () => list().dataset.shape;
export const inLanes = () => shape() === "lanes" || shape() === "clock";
export const cards = () => Array.from(document.querySelectorAll("#cards .card-row, #lanes .card-row, #lanes .clock-mark"));
export const numbersHere = () => {
  return cards().filter(c => !c.classList.contains("gone")).map(c => c.dataset.number);
};
export const held = new Map();
export const current = () => document.querySelector(".card-row.at, .clock-mark.at");
export const get = url => { return ask(url, { headers: { "HX-Request": "true" } }).then(a => a.text()); };
/** Some of the worklist, once nobody presses anything: what a press began on stays until its end. */
export const getAtRest = url => { return get(url).then(atRest); };
export const post = (url, fields) => {
  return ask(url, { method: "POST", body: formOf(fields), headers: { "HX-Request": "true" } }).then(a => {
    if (a.ok) {
      const told = a.headers.get("HX-Trigger");
      if (told) { document.dispatchEvent(new CustomEvent("done", { detail: JSON.parse(told).done })); }
      return true;
    }
    return a.text().then(t => {
      toast(wordsOf(t).slice(0, 300), null, true);
      return false;
    });
  });
};
