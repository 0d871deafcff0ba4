// A room: what is said comes by itself, what is typed stays, and the end of the talk is in sight.
function toEnd(root) {
  root.querySelectorAll(".room-lines").forEach(lines => { lines.scrollTop = lines.scrollHeight; });
}
let below = true;
document.addEventListener("htmx:beforeSwap", e => {
  if (e.target.id !== "room-live") { return; }
  const lines = e.target.querySelector(".room-lines");
  // Who reads further up stays there.
  below = !lines || lines.scrollHeight - lines.scrollTop - lines.clientHeight < 40;
  e.target.dataset.top = lines ? lines.scrollTop : 0;
});
document.addEventListener("htmx:afterSwap", e => {
  if (e.target.id !== "room-live") { return; }
  const lines = e.target.querySelector(".room-lines");
  if (below) { toEnd(e.target); } else if (lines) { lines.scrollTop = Number(e.target.dataset.top); }
});
document.addEventListener("htmx:afterRequest", e => {
  const form = e.target.closest("form[data-room-say]");
  if (!form || !e.detail.successful || e.detail.elt !== form) { return; }
  const text = form.querySelector("textarea");
  text.value = "";
  form.querySelector("[name=file]").value = "";
  form.querySelector("[name=step]").checked = false;
  form.querySelector("[name=once]").value = crypto.randomUUID ? crypto.randomUUID() : String(Date.now()) + Math.random();
  const lines = document.querySelector("#room-live .room-lines");
  if (lines) { lines.scrollTop = lines.scrollHeight; }
  text.focus();
});
document.addEventListener("keydown", e => {
  const text = e.target.closest("form[data-room-say] textarea");
  if (text && e.key === "Enter" && !e.shiftKey && !e.isComposing) { e.preventDefault(); text.form.requestSubmit(); }
});
document.addEventListener("htmx:load", e => { if (e.detail.elt.querySelector) { toEnd(e.detail.elt); } });
toEnd(document);
