// What others do to the ticket meanwhile, drawn around the composer.
import { byId, drawAnew } from "../page.js";
import { atRest } from "../press.js";
import { ask } from "../server.js";

/** The parts that change come as one piece; each is laid into its place around the composer. */
export function arrange() {
  byId("talk-place").replaceChildren(byId("talk"));
  byId("side-place").replaceChildren(byId("side"));
  const { words } = byId("writing-words").dataset;
  const bar = byId("writing");
  bar.hidden = !words;
  bar.textContent = words ? words + (words.includes(" and ") ? " are" : " is") + " writing a reply to this ticket just now." : "";
}

/** Which parts of which entries are unfolded. */
function unfolded() {
  return Array.from(document.querySelectorAll("#talk details[open]")).map(part => {
    const entry = part.closest(".entry");
    return { entry: entry.id, part: Array.from(entry.querySelectorAll("details")).indexOf(part) };
  });
}
function unfold({ entry, part }) {
  const there = byId(entry)?.querySelectorAll("details")[part];
  if (there) { there.open = true; }
}

function put(html) {
  const open = unfolded();
  const alike = document.querySelector("#alike:not([hx-get])");
  const y = scrollY;
  drawAnew(() => {
    byId("live").innerHTML = html;
    arrange();
    // What looks alike was looked for once and stays.
    if (alike) { byId("alike").replaceWith(alike); }
  });
  open.forEach(unfold);
  htmx.process(byId("live"));
  htmx.process(byId("side"));
  scrollTo(0, y);
}

/** Keeps the page of a ticket fresh. */
export function follow({ number, seen }) {
  let timer = null;
  const refresh = async () => {
    timer = null;
    const answer = await ask("/tickets/" + number + "/live" + location.search, { headers: { "HX-Request": "true" } });
    if (!answer.ok) { return; }
    put(await atRest(await answer.text()));
    if (Number(byId("thead").dataset.seq) > seen) {
      const bar = byId("meanwhile");
      bar.hidden = false;
      bar.textContent = "Something new was written on this ticket while you are here. Read it above before you send.";
    }
  };
  const soon = e => {
    if (e.detail === undefined || e.detail === null || e.detail === number) {
      clearTimeout(timer);
      timer = setTimeout(refresh, 200);
    }
  };
  ["rafter:ticket", "rafter:writing", "rafter:all"].forEach(what => { document.addEventListener(what, soon); });
  setInterval(() => { if (!document.hidden) { refresh(); } }, 60000);
}
