// The rulebook: rules are moved by dragging, or with Alt and an arrow while one has the focus.
let dragged = null;
const card = e => e.target.closest && e.target.closest("[data-rule]");
function place(rule, section, before) {
  const others = Array.from(section.querySelectorAll("[data-rule]")).filter(one => one !== rule);
  const form = document.getElementById("place-form");
  form.action = "/house-rules/rules/" + encodeURIComponent(rule.dataset.rule) + "/place";
  form.elements.section.value = section.dataset.section;
  form.elements.place.value = before ? others.indexOf(before) : others.length;
  form.requestSubmit();
}
document.addEventListener("dragstart", e => {
  dragged = card(e);
  if (dragged) { e.dataTransfer.effectAllowed = "move"; e.dataTransfer.setData("text/plain", dragged.dataset.rule); }
});
document.addEventListener("dragover", e => {
  const section = dragged && e.target.closest("[data-rule-section]");
  if (!section) { return; }
  e.preventDefault();
  document.querySelectorAll(".rule-card.over").forEach(one => one.classList.remove("over"));
  const over = card(e);
  if (over && over !== dragged) { over.classList.add("over"); }
});
document.addEventListener("drop", e => {
  const section = dragged && e.target.closest("[data-rule-section]");
  if (!section) { return; }
  e.preventDefault();
  const over = card(e);
  if (over !== dragged) { place(dragged, section, over); }
});
document.addEventListener("dragend", () => {
  dragged = null;
  document.querySelectorAll(".rule-card.over").forEach(one => one.classList.remove("over"));
});
document.addEventListener("keydown", e => {
  const rule = card(e);
  if (!rule || !e.altKey || (e.key !== "ArrowUp" && e.key !== "ArrowDown")) { return; }
  e.preventDefault();
  const button = rule.querySelector("[data-move=" + (e.key === "ArrowUp" ? "up" : "down") + "]");
  if (!button.disabled) { button.form.requestSubmit(button); }
});
// After a move the rule that was moved has the focus, so that it can be moved on.
const moved = document.querySelector(".rule-card.moved h3 a");
if (moved) { moved.focus(); }
