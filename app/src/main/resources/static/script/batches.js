// The page on which an act for many tickets is chosen.
import { byId } from "./page.js";

// A letter chooses the act and leads to its first field; Enter in a choice, or with Ctrl in a text, does it.
document.addEventListener("keydown", e => {
  const place = document.querySelector("[data-acts]");
  if (!place || !place.contains(e.target) && e.target !== document.body || !byId("palette").hidden) { return; }
  const field = e.target.matches("textarea,select,input:not([type=radio],[type=checkbox])");
  if (e.key === "Enter" && (e.target.matches("select") || e.ctrlKey && e.target.matches("textarea"))) {
    e.preventDefault();
    e.target.form.requestSubmit();
    return;
  }
  if (field || e.ctrlKey || e.metaKey || e.altKey) { return; }
  const act = Array.from(place.querySelectorAll("[data-key]")).find(one => one.dataset.key === e.key);
  if (!act) { return; }
  e.preventDefault();
  const radio = act.querySelector("input");
  radio.checked = true;
  const inputs = Array.from(place.querySelectorAll(".act-fields :is(input,select,textarea)"));
  (inputs.find(one => one.offsetParent) || radio).focus();
});
// What was chosen is chosen no more once it is acted on.
document.addEventListener("DOMContentLoaded", () => {
  const begun = document.querySelector("[data-batch-list]");
  if (begun) { sessionStorage.removeItem("chosen:" + begun.dataset.batchList); }
});
