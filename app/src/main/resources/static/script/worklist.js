// The worklist: walking and choosing with keys, the glance, lanes, and changes that come in without moving what the reader is looking at.
(function () {
  "use strict";
  var byId = function (id) { return document.getElementById(id); };
  var list = function () { return byId("worklist"); };
  var query = function () { return list().dataset.list; };
  var shape = function () { return list().dataset.shape; };
  var inLanes = function () { return shape() === "lanes" || shape() === "clock"; };
  var cards = function () { return Array.from(document.querySelectorAll("#cards .card-row, #lanes .card-row, #lanes .clock-mark")); };
  var numbersHere = function () {
    return cards().filter(function (c) { return !c.classList.contains("gone"); }).map(function (c) { return c.dataset.number; });
  };
  var held = new Map();
  var current = function () { return document.querySelector(".card-row.at, .clock-mark.at"); };
  var get = function (url) { return Rafter.ask(url, { headers: { "HX-Request": "true" } }).then(function (a) { return a.text(); }); };
  var post = function (url, fields) {
    return Rafter.ask(url, { method: "POST", body: Rafter.form(fields), headers: { "HX-Request": "true" } }).then(function (a) {
      if (a.ok) {
        var told = a.headers.get("HX-Trigger");
        if (told) { document.dispatchEvent(new CustomEvent("done", { detail: JSON.parse(told).done })); }
        return true;
      }
      return a.text().then(function (t) {
        Rafter.toast(Rafter.words(t).slice(0, 300), null, true);
        return false;
      });
    });
  };

  // ---------------------------------------------------------------- walking
  function focusOf(card) { return card.classList.contains("clock-mark") ? card : card.querySelector(".title"); }
  function mark(card) { cards().forEach(function (c) { c.classList.toggle("at", c === card); }); }
  function go(card) {
    if (!card) { return; }
    mark(card);
    focusOf(card).focus({ preventScroll: true });
    card.scrollIntoView({ block: "nearest", inline: "nearest" });
  }
  /** Whether a key goes to the row as such, and not to a link or button in it. */
  function onRow(target) {
    return (target === document.body || target.closest(".card-row, .clock-mark")) && !target.closest("a,button,input,summary");
  }
  function walk(step) {
    var here = current();
    var all = inLanes() && here ? Array.from(here.closest(".lane, .clock-lane").querySelectorAll(".card-row, .clock-mark")) : cards();
    var i = all.indexOf(here);
    go(all[i < 0 ? 0 : Math.max(0, Math.min(all.length - 1, i + step))]);
  }
  function lanesOf() { return Array.from(document.querySelectorAll("#lanes .lane, #lanes .clock-lane")); }
  function across(step) {
    var here = current(), all = lanesOf();
    var i = here ? all.indexOf(here.closest(".lane, .clock-lane")) : -1;
    for (var next = i + step; next >= 0 && next < all.length; next += step) {
      var first = all[next].querySelector(".card-row, .clock-mark");
      if (first) { go(first); return; }
    }
  }
  document.addEventListener("focusin", function (e) {
    var card = list() && e.target.closest(".card-row, .clock-mark");
    if (card) { mark(card); }
  });
  document.addEventListener("keydown", function (e) {
    if (list() && e.key === "Escape" && byId("menu").hidden && !document.querySelector(".veil:not([hidden])")) {
      closeGlance(true);
      return;
    }
    if (!Rafter.keysFree(e)) { return; }
    if (walkHorizon(e)) { return; }
    if (list()) {
      if (e.key === "ArrowDown" || e.key === "ArrowUp") { e.preventDefault(); walk(e.key === "ArrowDown" ? 1 : -1); return; }
      if (inLanes() && (e.key === "ArrowLeft" || e.key === "ArrowRight")) {
        e.preventDefault();
        if (e.shiftKey) { moveAcross(e.key === "ArrowRight" ? 1 : -1); } else { across(e.key === "ArrowRight" ? 1 : -1); }
        return;
      }
      if (e.key === "Home" && cards()[0]) { e.preventDefault(); scrollTo(0, 0); go(cards()[0]); return; }
      if (e.key === "End") {
        var end = document.querySelector("[data-end]");
        e.preventDefault();
        if (end) { location.href = end.href; } else { go(cards().at(-1)); }
        return;
      }
      if (e.key === "Enter" && current() && onRow(e.target)) {
        location.href = focusOf(current()).href || focusOf(current()).getAttribute("href");
        return;
      }
      if (e.key === " " && current() && !e.target.closest("button,input,summary")) {
        e.preventDefault();
        glance(current().dataset.number, current());
        return;
      }
      if (e.key.toLowerCase() === "x" && current()) {
        e.preventDefault();
        choose(current(), all ? except.has(current().dataset.number) : !chosen.has(current().dataset.number), e.shiftKey);
        return;
      }
      if (e.key.toLowerCase() === "b" && (chosen.size || all)) { e.preventDefault(); batch(); return; }
    }
    var what = { o: "owner", s: "state", p: "priority", t: "about", d: "times" }[e.key.toLowerCase()];
    if (!what) { return; }
    var here = current();
    var place = here || byId("thead") || document.createElement("i");
    var link = place.querySelector("[data-menu=" + what + "], a.pick[href$='/" + what + "']");
    if (!link && here && list()) { link = menuLink(here, what); }
    if (link) { e.preventDefault(); Rafter.menu(link); }
  });
  // The horizon is one stop for the Tab key; inside, the arrows go from mark to mark.
  function walkHorizon(e) {
    var here = e.target.closest && e.target.closest("svg.strip a");
    if (!here || (e.key !== "ArrowRight" && e.key !== "ArrowLeft")) { return false; }
    e.preventDefault();
    var marks = Array.from(strip().querySelectorAll("a"));
    var next = marks[marks.indexOf(here) + (e.key === "ArrowRight" ? 1 : -1)];
    if (next) { here.setAttribute("tabindex", "-1"); next.setAttribute("tabindex", "0"); next.focus(); }
    return true;
  }
  // A mark or a row without that cell has no link of its own for the choice; one is made where it stands.
  function menuLink(card, what) {
    var link = document.createElement("a");
    link.href = "/tickets/" + card.dataset.number + "/choose/" + what;
    link.getBoundingClientRect = function () { return card.getBoundingClientRect(); };
    link.focus = function () { focusOf(card).focus(); };
    return link;
  }
  document.addEventListener("click", function (e) {
    var take = e.target.closest("[data-take]");
    if (take) { post("/tickets/" + take.closest(".card-row").dataset.number + "/owner", { owner: list().dataset.me, was: "" }); }
  });

  // ---------------------------------------------------------------- choosing
  var chosen = new Set(), except = new Set(), all = false, lastChosen = null;
  function chosenKey() { return "chosen:" + query(); }
  function restoreChosen() {
    try {
      JSON.parse(sessionStorage.getItem(chosenKey()) || "[]").forEach(function (n) { chosen.add(n); });
    } catch (e) { /* nothing was kept */ }
    showChosen();
  }
  function showChosen() {
    cards().forEach(function (c) {
      var on = all ? !except.has(c.dataset.number) : chosen.has(c.dataset.number), box = c.querySelector(".choose");
      c.classList.toggle("chosen", on);
      if (box) { box.checked = on; }
    });
    var bar = byId("chosen"), count = all ? Number(bar.dataset.total) - except.size : chosen.size;
    bar.hidden = count === 0;
    document.body.classList.toggle("choosing", count > 0);
    bar.querySelector("[data-chosen-count]").textContent = all && !except.size ? "All " + count + " chosen" : count + " chosen";
    sessionStorage.setItem(chosenKey(), JSON.stringify(Array.from(chosen)));
    if (count !== told) { Rafter.say(count ? bar.querySelector("[data-chosen-count]").textContent : "None chosen"); told = count; }
  }
  var told = 0;
  function choose(card, on, range) {
    var rows = cards(), from = range && lastChosen ? rows.findIndex(function (c) { return c.dataset.number === lastChosen; }) : -1;
    var to = rows.indexOf(card);
    // When all were chosen, those that are not in sight stay chosen.
    var add = function (n) { if (all) { except.delete(n); } else { chosen.add(n); } };
    var remove = function (n) { if (all) { except.add(n); } else { chosen.delete(n); } };
    (from < 0 ? [card] : rows.slice(Math.min(from, to), Math.max(from, to) + 1)).forEach(function (c) {
      if (on) { add(c.dataset.number); } else { remove(c.dataset.number); }
    });
    lastChosen = card.dataset.number;
    showChosen();
  }
  document.addEventListener("click", function (e) {
    var box = e.target.closest(".choose");
    if (box) { choose(box.closest(".card-row"), box.checked, e.shiftKey); return; }
    if (!list()) { return; }
    if (e.target.closest("[data-choose-all]")) { all = true; except.clear(); showChosen(); }
    if (e.target.closest("[data-choose-none]")) { all = false; except.clear(); chosen.clear(); showChosen(); }
    if (e.target.closest("[data-batch]")) { batch(); }
  });
  function batch() {
    var form = document.createElement("form");
    form.method = "post";
    form.action = "/batches/new";
    var fields = {
      _csrf: Rafter.token(),
      list: query(),
      numbers: all ? "" : Array.from(chosen).join(","),
      all: all ? "true" : "",
      except: Array.from(except).join(",")
    };
    Object.keys(fields).forEach(function (name) {
      var i = document.createElement("input");
      i.type = "hidden";
      i.name = name;
      i.value = fields[name];
      form.append(i);
    });
    document.body.append(form);
    form.submit();
  }

  // ---------------------------------------------------------------- glance
  var glancing = null;
  function closeGlance(focus) {
    var open = byId("glance");
    if (!open) { return false; }
    var number = open.dataset.number;
    keepWords(open, number);
    open.closest("tr.glance-row") ? open.closest("tr.glance-row").remove() : open.remove();
    glancing = null;
    var card = cards().find(function (c) { return c.dataset.number === number; });
    if (focus && card) { go(card); }
    return true;
  }
  // What was typed in a glance waits for the next one at the same ticket.
  function wordsKey(number, form) { return "glance:" + number + ":" + form.getAttribute("action").split("/").pop(); }
  function keepWords(open, number) {
    var some = false;
    open.querySelectorAll("form[data-quick]").forEach(function (form) {
      var text = form.elements.html.value;
      if (text.trim()) {
        sessionStorage.setItem(wordsKey(number, form), text);
        some = true;
      } else { sessionStorage.removeItem(wordsKey(number, form)); }
    });
    if (some) { Rafter.toast("What you wrote about " + number + " is saved; glance at it again to go on."); }
  }
  function giveWordsBack(open, number) {
    open.querySelectorAll("form[data-quick]").forEach(function (form) {
      form.elements.html.value = sessionStorage.getItem(wordsKey(number, form)) || "";
    });
  }
  function glance(number, at) {
    var same = glancing === number;
    closeGlance(same);
    if (same) { return; }
    glancing = number;
    var inList = !!(at && at.closest("#cards .card-row"));
    get("/tickets/" + number + "/glance").then(function (html) {
      if (glancing !== number) { return; }
      var part = new DOMParser().parseFromString(html, "text/html").getElementById("glance");
      if (!part) { return; }
      // The row may have been drawn anew meanwhile.
      var row = inList && byId("t" + number);
      if (row && row.tagName === "TR") {
        var tr = document.createElement("tr"), td = document.createElement("td");
        tr.className = "glance-row";
        td.colSpan = row.cells.length;
        td.append(part);
        tr.append(td);
        row.after(tr);
      } else if (row) { row.after(part); } else {
        part.classList.add("floating");
        document.body.append(part);
      }
      get("/worklist/why/" + number + "?" + query()).then(function (why) {
        if (byId("glance-why")) { byId("glance-why").innerHTML = why; }
      });
      giveWordsBack(part, number);
      part.scrollIntoView({ block: "nearest" });
      part.focus({ preventScroll: true });
    });
  }
  document.addEventListener("click", function (e) {
    var link = list() && e.target.closest("[data-glance], svg.strip a, .clock-mark");
    if (link && !e.ctrlKey && !e.metaKey && !e.shiftKey) {
      e.preventDefault();
      glance(link.dataset.glance || link.getAttribute("href").split("/").pop(), link);
      return;
    }
    if (e.target.closest("[data-glance-close]")) { closeGlance(true); }
  });
  document.addEventListener("keydown", function (e) {
    var open = byId("glance");
    if (!open || !open.contains(e.target)) { return; }
    if (e.key === "Escape") { e.stopPropagation(); closeGlance(true); }
    if (e.key === " " && e.target === open) { e.preventDefault(); closeGlance(true); }
    if (e.key === "Enter" && (e.ctrlKey || e.metaKey) && e.target.form) {
      e.preventDefault();
      e.target.form.requestSubmit(e.target.form.querySelector("button"));
    }
  });
  document.addEventListener("submit", function (e) {
    var form = e.target;
    if (!form.hasAttribute("data-quick")) { return; }
    e.preventDefault();
    var text = form.elements.html;
    if (!text.value.trim()) { text.focus(); return; }
    Rafter.ask(form.action, { method: "POST", body: new URLSearchParams(new FormData(form)) }).then(function (a) {
      if (a.ok && a.redirected) { Rafter.toast(form.dataset.quick); text.value = ""; closeGlance(true); return; }
      // Something is in the way: the page that says so keeps what was written.
      return a.text().then(function (html) {
        var page = new DOMParser().parseFromString(html, "text/html");
        var words = page.querySelector(".trouble, .alone p, main p"), crossing = page.getElementById("crossing");
        Rafter.toast((words ? words.textContent.trim() : "That did not work.") + " What you wrote is still here.", null, true);
        if (!crossing) { return; }
        // What came meanwhile is shown where the answer is written; sent once more it goes, for now it was seen.
        form.querySelectorAll(".crossing").forEach(function (old) { old.remove(); });
        crossing.removeAttribute("id");
        form.prepend(crossing);
        form.elements.seen.value = page.querySelector("input[name=seen]").value;
        form.querySelector("button").textContent = "Send all the same";
      });
    });
  });

  // ---------------------------------------------------------------- lanes
  var dragged = null;
  function lay(card, lane) {
    var d = lane.dataset;
    if (!d.path || lane.contains(card)) { return; }
    var fields = {};
    fields[d.field] = d.value || "";
    post("/tickets/" + card.dataset.number + "/" + d.path, fields).then(function () { soon(Number(card.dataset.number)); });
  }
  function moveAcross(step) {
    var card = current(), every = lanesOf();
    if (!card) { return; }
    for (var i = every.indexOf(card.closest(".lane, .clock-lane")) + step; i >= 0 && i < every.length; i += step) {
      if (every[i].dataset.path) { lay(card, every[i]); return; }
    }
    Rafter.toast("There is no lane there that it could be laid into.");
  }
  document.addEventListener("dragstart", function (e) {
    dragged = e.target.closest && e.target.closest("#lanes .card-row, #lanes .clock-mark");
    if (dragged) { e.dataTransfer.setData("text/plain", dragged.dataset.number); e.dataTransfer.effectAllowed = "move"; }
  });
  document.addEventListener("dragover", function (e) {
    var lane = dragged && e.target.closest && e.target.closest(".lane, .clock-lane");
    lanesOf().forEach(function (l) { l.classList.toggle("over", l === lane && !!l.dataset.path); });
    if (lane && lane.dataset.path) { e.preventDefault(); }
  });
  document.addEventListener("drop", function (e) {
    var lane = dragged && e.target.closest && e.target.closest(".lane, .clock-lane");
    if (lane) { e.preventDefault(); lay(dragged, lane); }
  });
  document.addEventListener("dragend", function () { dragged = null; lanesOf().forEach(function (l) { l.classList.remove("over"); }); });
  // Links inside SVG cannot be dragged by the browser alone, so the marks of the Clock follow the pointer.
  var pulled = null;
  document.addEventListener("pointerdown", function (e) {
    var m = e.target.closest && e.target.closest(".clock-mark");
    if (m && e.button === 0) { pulled = { mark: m, x: e.clientX, y: e.clientY, moved: false }; }
  });
  document.addEventListener("pointermove", function (e) {
    if (!pulled) { return; }
    if (!pulled.moved && Math.hypot(e.clientX - pulled.x, e.clientY - pulled.y) > 6) {
      pulled.moved = true;
      pulled.mark.classList.add("pulled");
    }
    if (pulled.moved) {
      var lane = document.elementFromPoint(e.clientX, e.clientY);
      lane = lane && lane.closest(".clock-lane");
      lanesOf().forEach(function (l) { l.classList.toggle("over", l === lane); });
    }
  });
  document.addEventListener("pointerup", function (e) {
    if (!pulled) { return; }
    var was = pulled;
    pulled = null;
    was.mark.classList.remove("pulled");
    lanesOf().forEach(function (l) { l.classList.remove("over"); });
    if (!was.moved) { return; }
    addEventListener("click", function (c) { c.preventDefault(); c.stopPropagation(); }, { capture: true, once: true });
    var lane = document.elementFromPoint(e.clientX, e.clientY);
    lane = lane && lane.closest(".clock-lane");
    if (lane) { lay(was.mark, lane); }
  });
  document.addEventListener("click", function (e) {
    var button = e.target.closest("[data-limit]");
    if (!button) { return; }
    var input = document.createElement("input");
    input.type = "number";
    input.min = "0";
    input.max = "9999";
    input.className = "limit-input";
    input.setAttribute("aria-label", button.getAttribute("aria-label") + ", empty for none");
    input.value = (button.textContent.match(/\d+/) || [""])[0];
    button.replaceWith(input);
    input.focus();
    input.addEventListener("keydown", function (k) {
      if (k.key === "Escape") { input.replaceWith(button); button.focus(); }
      if (k.key !== "Enter") { return; }
      var p = new URLSearchParams(query()), place = input.closest("[data-limit-key]").dataset, key = place.limitKey;
      var left = (p.get("limits") || list().dataset.limits || "").split(",").filter(function (one) {
        return one && [key, place.lane].indexOf(one.slice(0, one.lastIndexOf(":"))) < 0;
      });
      if (input.value) { left.push(key + ":" + input.value); }
      p.set("limits", left.join(","));
      location.href = "/worklist?" + p;
    });
  });
  function renewLanes() {
    if (dragged || pulled) { setTimeout(renewLanes, 400); return; }
    get("/worklist/lanes?" + query()).then(function (html) {
      // As it is now: somebody may have begun to walk or to drag since it was asked for.
      if (dragged || pulled) { setTimeout(renewLanes, 400); return; }
      var place = byId("lanes"), focused = place.contains(document.activeElement) && current() ? current().dataset.number : null;
      var side = place.firstElementChild ? place.firstElementChild.scrollLeft : 0;
      place.innerHTML = html;
      htmx.process(place);
      if (place.firstElementChild) { place.firstElementChild.scrollLeft = side; }
      if (focused) { go(cards().find(function (c) { return c.dataset.number === focused; })); }
      showChosen();
    });
  }

  // ---------------------------------------------------------------- the grid's columns
  function columns() { return Array.from(document.querySelectorAll("table.grid th[data-col]")); }
  function showColumns(names) {
    var p = new URLSearchParams(query());
    p.set("cols", names.join(","));
    location.href = "/worklist?" + p;
  }
  function columnNames() { return columns().map(function (th) { return th.dataset.col + ":" + th.dataset.width; }); }
  var movedColumn = null, sized = null;
  document.addEventListener("dragstart", function (e) { movedColumn = e.target.closest && e.target.closest("th[data-col]"); });
  document.addEventListener("dragover", function (e) { if (movedColumn && e.target.closest("th[data-col]")) { e.preventDefault(); } });
  document.addEventListener("drop", function (e) {
    var to = movedColumn && e.target.closest("th[data-col]");
    if (!to || to === movedColumn) { return; }
    e.preventDefault();
    to[e.clientX > to.getBoundingClientRect().left + to.offsetWidth / 2 ? "after" : "before"](movedColumn);
    showColumns(columnNames());
  });
  document.addEventListener("dragend", function () { movedColumn = null; });
  document.addEventListener("pointerdown", function (e) {
    var edge = e.target.closest && e.target.closest("th .edge");
    if (!edge) { return; }
    e.preventDefault();
    var th = edge.closest("th");
    th.draggable = false;
    sized = { th: th, x: e.clientX, width: th.offsetWidth };
  });
  document.addEventListener("pointermove", function (e) {
    if (!sized) { return; }
    sized.th.dataset.width = Math.max(48, Math.min(900, Math.round(sized.width + e.clientX - sized.x)));
    sized.th.setAttribute("width", sized.th.dataset.width);
  });
  document.addEventListener("pointerup", function () { if (sized) { sized = null; showColumns(columnNames()); } });
  document.addEventListener("click", function (e) {
    var head = e.target.closest("th a[data-then]");
    if (head && e.shiftKey) { e.preventDefault(); location.href = head.dataset.then; return; }
    if (e.target.closest("[data-columns]")) {
      var widths = {};
      columns().forEach(function (th) { widths[th.dataset.col] = th.dataset.width; });
      var ticked = Array.from(document.querySelectorAll("#columns input:checked")).map(function (i) { return i.value; });
      var kept = columns().map(function (th) { return th.dataset.col; }).filter(function (c) { return ticked.includes(c); });
      var added = ticked.filter(function (c) { return !kept.includes(c); });
      showColumns(kept.concat(added).map(function (c) { return widths[c] ? c + ":" + widths[c] : c; }));
    }
  });
  // With the keyboard: Alt and an arrow on a header moves the column, with Shift it changes how wide it is.
  document.addEventListener("keydown", function (e) {
    var th = e.altKey && (e.key === "ArrowLeft" || e.key === "ArrowRight") && e.target.closest("th[data-col]");
    if (!th) { return; }
    e.preventDefault();
    var right = e.key === "ArrowRight";
    if (e.shiftKey) {
      th.dataset.width = Math.max(48, Math.min(900, Number(th.dataset.width) + (right ? 20 : -20)));
      showColumns(columnNames());
      return;
    }
    var other = right ? th.nextElementSibling : th.previousElementSibling;
    if (other && other.dataset.col) { other[right ? "after" : "before"](th); showColumns(columnNames()); }
  });

  // ---------------------------------------------------------------- brushing the horizon
  var brushing = null;
  function strip() { return document.querySelector("svg.strip"); }
  function xOf(e) { var m = strip().getScreenCTM(); return (e.clientX - m.e) / m.a; }
  function edges() { return strip().dataset.edges.split(",").map(function (p) { return p.split(":").map(Number); }); }
  function drawBrush(a, b) { var r = byId("brush"); r.setAttribute("x", Math.min(a, b)); r.setAttribute("width", Math.abs(b - a)); }
  function timeAt(x) {
    var at = edges();
    if (x <= at[0][0]) { return at[0][1]; }
    for (var i = 1; i < at.length; i++) {
      if (x <= at[i][0]) {
        return Math.round(at[i - 1][1] + (at[i][1] - at[i - 1][1]) * (x - at[i - 1][0]) / Math.max(1, at[i][0] - at[i - 1][0]));
      }
    }
    return at.at(-1)[1];
  }
  function xAt(time) {
    var at = edges();
    for (var i = 1; i < at.length; i++) {
      if (time <= at[i][1]) {
        return at[i - 1][0] + (at[i][0] - at[i - 1][0]) * Math.max(0, time - at[i - 1][1]) / (at[i][1] - at[i - 1][1]);
      }
    }
    return at.at(-1)[0];
  }
  function showBrush() {
    var brush = byId("brush"), due = brush && brush.dataset.due;
    if (!due) { return; }
    var p = due.split("-").map(Number);
    if (p[0] === 0) { drawBrush(128, 178); } else { drawBrush(xAt(p[0]), xAt(p[1])); }
  }
  document.addEventListener("pointerdown", function (e) {
    if (e.button === 0 && e.target.closest && e.target.closest("svg.strip") && !e.target.closest("a")) {
      e.preventDefault();
      brushing = xOf(e);
    }
  });
  document.addEventListener("pointermove", function (e) { if (brushing !== null) { drawBrush(brushing, xOf(e)); } });
  document.addEventListener("pointerup", function (e) {
    if (brushing === null) { return; }
    var a = Math.min(brushing, xOf(e)), b = Math.max(brushing, xOf(e));
    brushing = null;
    var p = new URLSearchParams(strip().closest("[data-list]").dataset.list);
    if (b <= 182) {
      p.set("due", "0-" + edges()[0][1]);
    } else if (b - a < 4) { p.delete("due"); } else { p.set("due", (a < 182 ? 0 : timeAt(a)) + "-" + timeAt(b)); }
    location.href = "/worklist?" + p;
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
    var numbers = Array.from(asked).slice(0, 200);
    asked.clear();
    head();
    if (inLanes()) { renewLanes(); return; }
    var shown = numbers.filter(function (n) { return byId("t" + n); });
    fetchCards("numbers=" + numbers.join(",") + "&shown=" + shown.join(","));
  }
  // Everything that changed since the list was made, for when changes may have been missed.
  function catchUp() {
    if (!list()) { return; }
    if (inLanes()) { renewLanes(); head(); return; }
    var shown = numbersHere().slice(0, 200);
    fetchCards("since=" + list().dataset.asof + "&shown=" + shown.join(",") + "&numbers=" + shown.join(","));
    head();
  }
  function fetchCards(what) {
    get("/worklist/cards?" + query() + "&" + what).then(function (html) {
      var page = new DOMParser().parseFromString(html, "text/html");
      if (what.startsWith("since")) { list().dataset.asof = page.getElementById("some-in").dataset.asof; }
      page.querySelectorAll("#some-in .card-row").forEach(place);
      page.querySelectorAll("#some-gone li").forEach(function (li) { leave(li.dataset.number, li.textContent); });
      showChosen();
    });
  }
  function head() {
    get("/worklist/head?" + query()).then(function (html) {
      var place = byId("head");
      if (place.contains(document.activeElement) || place.querySelector("details[open]") || brushing !== null) { return; }
      place.innerHTML = html;
      showBrush();
    });
  }
  // A card that is there is renewed where it stands. A new one goes to its place when that is out of sight, with the scroll
  // moved along; when its place is in sight it waits behind a button, so that nothing moves under the reader's eyes.
  function place(card) {
    var old = byId(card.id);
    if (old) { renew(old, card); return; }
    var next = cards().find(function (c) { return before(card.dataset.place, c.dataset.place); });
    if (!next && document.querySelector("#cards .more-row")) { return; }
    var box = next ? next.getBoundingClientRect() : null;
    if (next && box.top < 46) { insert(card, next); scrollBy(0, byId(card.id).offsetHeight); return; }
    if (next ? box.top > innerHeight : (cards().length && cards().at(-1).getBoundingClientRect().bottom > innerHeight)) {
      insert(card, next);
      return;
    }
    if (!cards().length) { var none = byId("none"); if (none) { none.remove(); } insert(card, null); return; }
    held.set(card.dataset.number, card);
    tell();
  }
  function renew(old, card) {
    var focused = old.contains(document.activeElement);
    if (old.classList.contains("at")) { card.classList.add("at"); }
    var what = focused && document.activeElement.dataset.menu;
    old.replaceWith(card);
    htmx.process(card);
    if (focused) {
      ((what && card.querySelector("[data-menu=" + what + "]")) || card.querySelector(".title")).focus({ preventScroll: true });
    }
  }
  function insert(card, next) {
    card.classList.add("fresh");
    var above = next && next.previousElementSibling;
    var before = above && /group-/.test(above.className) && next.dataset.group !== card.dataset.group
      ? above : next;
    byId("cards").insertBefore(card, before || document.querySelector("#cards > .more-row") || null);
    htmx.process(card);
  }
  function leave(number, words) {
    held.delete(number);
    tell();
    var card = byId("t" + number);
    if (!card || card.classList.contains("gone")) { return; }
    card.classList.add("gone");
    var line = card.querySelector(".clock, .c-due, .c-state");
    if (line) { line.textContent = "left this view: " + words; }
  }
  // The values of a row in each order of the list, as texts that compare as the values do. What is lacking comes last either way.
  function before(a, b) {
    var x = a.split("\u001f"), y = b.split("\u001f"), down = byId("cards").dataset.down.split(",");
    for (var i = 0; i < x.length; i++) {
      if (x[i] === y[i]) { continue; }
      if (x[i] === "\uffff" || y[i] === "\uffff") { return y[i] === "\uffff"; }
      return (x[i] < y[i]) !== ((down[i] || down[0]) === "1");
    }
    return false;
  }
  function tell() {
    var bar = byId("arrived");
    bar.hidden = held.size === 0;
    var one = held.size === 1 ? held.values().next().value.querySelector(".title, .num").textContent : "";
    if (held.size) { Rafter.say(held.size === 1 ? "A ticket arrived" : held.size + " tickets arrived"); }
    var named = "Arrived: " + (one.length > 60 ? one.slice(0, 58) + "…" : one);
    bar.querySelector("button").textContent = held.size === 1 ? named : held.size + " tickets arrived, show them";
  }
  document.addEventListener("click", function (e) {
    if (!e.target.closest("#arrived button")) { return; }
    var all = Array.from(held.values());
    held.clear();
    tell();
    all.forEach(function (card) { insert(card, cards().find(function (c) { return before(card.dataset.place, c.dataset.place); })); });
    if (all[0]) { byId(all[0].id).querySelector(".title, a").focus(); }
  });
  document.addEventListener("rafter:ticket", function (e) { soon(e.detail); });
  document.addEventListener("rafter:all", catchUp);
  document.addEventListener("htmx:afterSwap", function () { if (list()) { showChosen(); } });
  // Clocks go on while nothing happens: cards in sight are renewed every minute.
  setInterval(function () {
    if (!list() || document.hidden) { return; }
    if (inLanes()) { renewLanes(); head(); return; }
    cards().filter(function (c) {
      var b = c.getBoundingClientRect();
      return b.bottom > 0 && b.top < innerHeight && !c.classList.contains("gone");
    })
      .forEach(function (c) { soon(Number(c.dataset.number)); });
    head();
  }, 60000);

  // ---------------------------------------------------------------- coming back to where one was
  function placeKey() { return "place:" + query(); }
  addEventListener("pagehide", function () {
    // A ticket that is opened from here knows which one comes next.
    if (list()) {
      sessionStorage.setItem("walk", JSON.stringify({ list: query(), numbers: numbersHere() }));
    }
    if (list() && !inLanes()) {
      var at = current() ? current().dataset.number : "";
      sessionStorage.setItem(placeKey(), JSON.stringify({ y: scrollY, rows: cards().length, at: at }));
    }
  });
  function comeBack() {
    var kept;
    try { kept = JSON.parse(sessionStorage.getItem(placeKey()) || "null"); } catch (e) { kept = null; }
    var entry = performance.getEntriesByType("navigation")[0];
    var back = entry && (entry.type === "back_forward" || entry.type === "reload") || sessionStorage.getItem("from-ticket") === "1";
    sessionStorage.removeItem("from-ticket");
    if (!kept || !back || inLanes()) { return; }
    var more = kept.rows > cards().length
      ? get("/worklist/more?" + query() + "&size=" + Math.min(300, kept.rows)).then(function (html) {
          byId("cards").innerHTML = html;
          htmx.process(byId("cards"));
          showChosen();
        })
      : Promise.resolve();
    more.then(function () {
      scrollTo(0, kept.y);
      var card = kept.at && byId("t" + kept.at);
      if (card) { mark(card); focusOf(card).focus({ preventScroll: true }); }
    });
  }
  document.addEventListener("DOMContentLoaded", function () {
    var begun = document.querySelector("[data-batch-list]");
    if (begun) { sessionStorage.removeItem("chosen:" + begun.dataset.batchList); }
    if (!list()) { if (/^\/tickets\/\d+$/.test(location.pathname)) { sessionStorage.setItem("from-ticket", "1"); } return; }
    restoreChosen();
    showBrush();
    comeBack();
  });
})();
