// The worklist: walking with keys, and changes that come in without moving what the reader is looking at.
(function () {
  "use strict";
  var list = function () { return document.getElementById("worklist"); };
  var cards = function () { return Array.from(document.querySelectorAll("#cards .card-row")); };
  var held = new Map();
  var current = function () { return document.querySelector(".card-row.at"); };

  function walk(step) {
    var all = cards(), i = all.indexOf(current());
    var next = all[i < 0 ? 0 : Math.max(0, Math.min(all.length - 1, i + step))];
    if (!next) { return; }
    all.forEach(function (c) { c.classList.remove("at"); });
    next.classList.add("at");
    next.querySelector(".title").focus({ preventScroll: true });
    next.scrollIntoView({ block: "nearest" });
  }
  document.addEventListener("focusin", function (e) {
    var card = list() && e.target.closest(".card-row");
    if (card) { cards().forEach(function (c) { c.classList.toggle("at", c === card); }); }
  });
  document.addEventListener("keydown", function (e) {
    if (!Rafter.keysFree(e)) { return; }
    if (list()) {
      if (e.key === "ArrowDown" || e.key === "ArrowUp") { e.preventDefault(); walk(e.key === "ArrowDown" ? 1 : -1); return; }
      if (e.key === "Enter" && current() && !e.target.closest("a,button")) { location.href = current().querySelector(".title").href; return; }
    }
    var what = { o: "owner", s: "state", p: "priority" }[e.key.toLowerCase()];
    var link = what && (current() || document.getElementById("thead") || document.createElement("i")).querySelector("[data-menu=" + what + "]");
    if (link) { e.preventDefault(); Rafter.menu(link); }
  });

  // ---------------------------------------------------------------- changes
  var asked = new Set(), timer = null;
  function soon(number) {
    if (!list()) { return; }
    asked.add(number);
    if (!timer) { timer = setTimeout(refresh, 250); }
  }
  function refresh() {
    timer = null;
    var numbers = Array.from(asked);
    asked.clear();
    var shown = numbers.filter(function (n) { return document.getElementById("t" + n); });
    head();
    fetchCards("numbers=" + numbers.join(",") + "&shown=" + shown.join(","));
  }
  // Everything that changed since the list was made, for when changes may have been missed.
  function catchUp() {
    if (!list()) { return; }
    var shown = cards().filter(function (c) { return !c.classList.contains("gone"); }).map(function (c) { return c.dataset.number; }).slice(0, 200);
    var since = list().dataset.asof;
    fetchCards("since=" + since + "&shown=" + shown.join(",") + "&numbers=" + shown.join(","));
    head();
  }
  function fetchCards(what) {
    Rafter.ask("/worklist/cards?view=" + list().dataset.view + "&" + what, { headers: { "HX-Request": "true" } })
      .then(function (a) { return a.text(); })
      .then(function (html) {
        var page = new DOMParser().parseFromString(html, "text/html");
        if (what.startsWith("since")) { list().dataset.asof = page.getElementById("some-in").dataset.asof; }
        page.querySelectorAll("#some-in .card-row").forEach(place);
        page.querySelectorAll("#some-gone li").forEach(function (li) { leave(li.dataset.number, li.textContent); });
      });
  }
  function head() {
    Rafter.ask("/worklist/head?view=" + list().dataset.view, { headers: { "HX-Request": "true" } }).then(function (a) { return a.text(); }).then(function (html) {
      var place = document.getElementById("head");
      if (!place.contains(document.activeElement)) { place.innerHTML = html; }
    });
  }
  // A card that is there is renewed where it stands. A new one goes to its place when that is out of sight, with the scroll
  // moved along; when its place is in sight it waits behind a button, so that nothing moves under the reader's eyes.
  function place(card) {
    var old = document.getElementById(card.id);
    if (old) { renew(old, card); return; }
    var next = cards().find(function (c) { return before(card.dataset.after, c.dataset.after); });
    if (!next && document.querySelector("#cards .more-row")) { return; }
    var box = next ? next.getBoundingClientRect() : null;
    if (next && box.top < 46) { insert(card, next); scrollBy(0, document.getElementById(card.id).offsetHeight); return; }
    if (next ? box.top > innerHeight : (cards().length && cards().at(-1).getBoundingClientRect().bottom > innerHeight)) { insert(card, next); return; }
    if (!cards().length) { var none = document.getElementById("none"); if (none) { none.remove(); } insert(card, null); return; }
    held.set(card.dataset.number, card);
    tell();
  }
  function renew(old, card) {
    var focused = old.contains(document.activeElement);
    if (old.classList.contains("at")) { card.classList.add("at"); }
    var what = focused && document.activeElement.dataset.menu;
    old.replaceWith(card);
    htmx.process(card);
    if (focused) { (what ? card.querySelector("[data-menu=" + what + "]") : card.querySelector(".title")).focus({ preventScroll: true }); }
  }
  function insert(card, next) {
    card.classList.add("fresh");
    document.getElementById("cards").insertBefore(card, next || null);
    htmx.process(card);
  }
  function leave(number, words) {
    held.delete(number);
    tell();
    var card = document.getElementById("t" + number);
    if (!card || card.classList.contains("gone")) { return; }
    card.classList.add("gone");
    var line = card.querySelector(".clock");
    line.textContent = "left this view: " + words;
  }
  // "seconds.nanos~number", or "-~number" for those without a due instant, which come last; the last changed first when closed.
  function before(a, b) {
    var x = a.split("~"), y = b.split("~");
    var closed = list().dataset.view === "closed";
    if (x[0] !== y[0]) {
      if (x[0] === "-") { return false; }
      if (y[0] === "-") { return true; }
      var d = time(x[0]) - time(y[0]);
      return closed ? d > 0 : d < 0;
    }
    return closed ? Number(x[1]) > Number(y[1]) : Number(x[1]) < Number(y[1]);
  }
  function time(w) { var p = w.split("."); return Number(p[0]) + Number(p[1]) / 1e9; }
  function tell() {
    var bar = document.getElementById("arrived");
    bar.hidden = held.size === 0;
    var one = held.size === 1 ? held.values().next().value.querySelector(".title").textContent : "";
    bar.querySelector("button").textContent = held.size === 1 ? "Arrived: " + (one.length > 60 ? one.slice(0, 58) + "…" : one) : held.size + " tickets arrived, show them";
  }
  document.addEventListener("click", function (e) {
    if (!e.target.closest("#arrived button")) { return; }
    var all = Array.from(held.values());
    held.clear();
    tell();
    all.forEach(function (card) { insert(card, cards().find(function (c) { return before(card.dataset.after, c.dataset.after); })); });
    if (all[0]) { document.getElementById(all[0].id).querySelector(".title").focus(); }
  });
  document.addEventListener("rafter:ticket", function (e) { soon(e.detail); });
  document.addEventListener("rafter:all", catchUp);
  // Clocks go on while nothing happens: cards in sight are renewed every minute.
  setInterval(function () {
    if (!list() || document.hidden) { return; }
    cards().filter(function (c) { var b = c.getBoundingClientRect(); return b.bottom > 0 && b.top < innerHeight && !c.classList.contains("gone"); })
      .forEach(function (c) { soon(Number(c.dataset.number)); });
    head();
  }, 60000);
})();
