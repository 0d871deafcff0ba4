// What every page does: tokens, messages with undo, menus, palette, keys, live changes, and going on after a session has ended.
(function () {
  "use strict";
  var Rafter = (window.Rafter = {});
  var byId = function (id) { return document.getElementById(id); };
  Rafter.token = function () { return document.querySelector("meta[name=csrf]").content; };
  Rafter.typing = function (el) {
    return !!el.closest("input:not([type=checkbox]):not([type=radio]), textarea, select, [contenteditable=true]");
  };

  // Asks the server; waits for a new sign-in when the session has ended.
  Rafter.ask = function (url, options) {
    var o = Object.assign({}, options);
    o.headers = Object.assign({ "X-Requested-With": "fetch", "X-CSRF-TOKEN": Rafter.token() }, o.headers);
    return fetch(url, o).then(function (answer) {
      if (answer.status !== 401) { return answer; }
      return signInAgain().then(function () { return Rafter.ask(url, options); });
    });
  };
  Rafter.form = function (fields) { return new URLSearchParams(fields); };

  // ---------------------------------------------------------------- after the session has ended
  var waiting = null, lastKey = 0, writtenIn = null;
  document.addEventListener("keydown", function (e) { if (Rafter.typing(e.target)) { lastKey = Date.now(); } }, true);
  // The question takes the focus, so it waits for a pause: no letter of a word begun elsewhere lands in it.
  function askToSignIn() {
    var pause = 1500 - (Date.now() - lastKey);
    if (pause > 0) { setTimeout(askToSignIn, pause); return; }
    writtenIn = document.activeElement;
    byId("over").hidden = false;
    byId("over-form").elements.password.focus();
  }
  function signInAgain() {
    if (waiting) { return waiting; }
    var veil = byId("over");
    if (!veil) { location.href = "/sign-in"; return new Promise(function () {}); }
    waiting = new Promise(function (go) { veil.go = go; });
    askToSignIn();
    return waiting;
  }
  function freshToken() {
    return fetch("/sign-in/token", { headers: { "X-Requested-With": "fetch" } }).then(function (a) { return a.json(); }).then(function (t) {
      document.querySelector("meta[name=csrf]").content = t.token;
      document.querySelectorAll("input[name=_csrf]").forEach(function (i) { i.value = t.token; });
    });
  }
  document.addEventListener("submit", function (e) {
    if (e.target.id !== "over-form") { return; }
    e.preventDefault();
    freshToken().then(function () {
      return fetch("/sign-in", {
        method: "POST",
        body: new URLSearchParams(new FormData(e.target)),
        headers: { "X-Requested-With": "fetch", "X-CSRF-TOKEN": Rafter.token() }
      });
    }).then(function (answer) {
      byId("over-wrong").hidden = answer.ok;
      if (!answer.ok) { return; }
      return freshToken().then(function () {
        var veil = byId("over");
        veil.hidden = true;
        e.target.elements.password.value = "";
        waiting = null;
        if (writtenIn && writtenIn.isConnected) { writtenIn.focus(); }
        veil.go();
        listen();
      });
    });
  });
  document.addEventListener("htmx:configRequest", function (e) { e.detail.headers["X-CSRF-TOKEN"] = Rafter.token(); });
  document.addEventListener("htmx:responseError", function (e) {
    if (e.detail.xhr.status === 401) { signInAgain(); return; }
    var words = new DOMParser().parseFromString(e.detail.xhr.responseText, "text/html").body.textContent.trim();
    Rafter.toast(words.slice(0, 300) || "That did not work. Nothing was changed.", null, true);
    // Where something was typed it stays, to be mended.
    if (!byId("menu").querySelector("input:not([type=hidden]), textarea")) { closeMenu(); }
  });
  document.addEventListener("htmx:sendError", function () {
    Rafter.toast("Rafter does not answer. Nothing was changed; try again in a moment.", null, true);
  });

  // Says something to those who hear the page: what is chosen, what arrived, how a sentence reads now.
  Rafter.say = function (words) {
    clearTimeout(saying);
    saying = setTimeout(function () { byId("said").textContent = words; }, 250);
  };
  var saying = null;

  // ---------------------------------------------------------------- short messages, with an undo
  /** What an answer that is a page says in words. */
  Rafter.words = function (html) { return new DOMParser().parseFromString(html, "text/html").body.textContent.trim(); };
  Rafter.toast = function (words, undo, bad) {
    var line = document.createElement("div");
    line.className = "toast-line" + (bad ? " bad" : "");
    var text = document.createElement("span");
    text.textContent = words;
    line.append(text);
    if (undo && undo.action) {
      var button = document.createElement("button");
      button.type = "button";
      button.textContent = "Undo";
      button.addEventListener("click", function () {
        line.remove();
        Rafter.ask(undo.action, { method: "POST", body: Rafter.form(undo.fields), headers: { "HX-Request": "true" } }).then(function (a) {
          if (a.ok) { Rafter.toast("Taken back."); return; }
          a.text().then(function (t) { Rafter.toast(Rafter.words(t), null, true); });
        });
      });
      line.append(button);
    }
    byId("toasts").append(line);
    setTimeout(function () { line.remove(); }, undo && undo.action ? 14000 : bad ? 9000 : 5000);
  };
  document.addEventListener("done", function (e) { closeMenu(); Rafter.toast(e.detail.words, e.detail); });

  // ---------------------------------------------------------------- menus
  var opener = null, returnTo = null;
  function closeMenu(focus) {
    var menu = byId("menu");
    if (menu.hidden) { return; }
    menu.hidden = true;
    menu.replaceChildren();
    if (opener) {
      opener.setAttribute("aria-expanded", "false");
      if (focus) { (returnTo && returnTo.isConnected ? returnTo : opener).focus({ preventScroll: true }); }
    }
  }
  // A link to a small menu; in rows, of which there are many, each is only a link of its kind.
  var MENU_LINKS = "[data-menu], .card-row a.pick";
  document.addEventListener("focusin", function (e) {
    if (e.target.matches(".card-row a.pick")) { e.target.setAttribute("aria-haspopup", "dialog"); }
  });
  Rafter.menu = function (link) {
    closeMenu();
    opener = link;
    returnTo = document.activeElement === document.body ? link : document.activeElement;
    Rafter.ask(link.href, { headers: { "HX-Request": "true" } }).then(function (a) { return a.text(); }).then(function (html) {
      var menu = byId("menu");
      menu.innerHTML = html;
      htmx.process(menu);
      menu.hidden = false;
      link.setAttribute("aria-expanded", "true");
      var at = link.getBoundingClientRect();
      menu.style.left = Math.max(8, Math.min(at.left, innerWidth - menu.offsetWidth - 8)) + "px";
      var below = at.bottom + 4;
      menu.style.top = (below + menu.offsetHeight > innerHeight ? Math.max(8, at.top - menu.offsetHeight - 4) : below) + "px";
      (menu.querySelector("[aria-checked=true]") || menu.querySelector("button, input:not([type=hidden]), a") || menu).focus();
    });
  };
  document.addEventListener("click", function (e) {
    var link = e.target.closest(MENU_LINKS);
    if (link && !e.ctrlKey && !e.metaKey && !e.shiftKey) {
      e.preventDefault();
      if (link === opener && !byId("menu").hidden) { closeMenu(true); } else { Rafter.menu(link); }
    } else if (!e.target.closest("#menu")) { closeMenu(); }
    var closing = e.target.closest("[data-close]");
    if (closing) { hide(closing.dataset.close); }
    if (e.target.classList.contains("veil") && e.target.id !== "over") { hide(e.target.id); }
    document.querySelectorAll("details.person[open]").forEach(function (d) { if (!d.contains(e.target)) { d.open = false; } });
  });

  // ---------------------------------------------------------------- palette and keys
  var before = null;
  function open(id, focus) { before = document.activeElement; byId(id).hidden = false; focus.focus(); }
  function hide(id) { byId(id).hidden = true; if (before) { before.focus(); } }
  // What lies on top holds the Tab key: from its last stop on to its first, and back.
  document.addEventListener("keydown", function (e) {
    var top = e.key !== "Tab" ? null : document.querySelector(".veil:not([hidden]) .over") || (byId("menu").hidden ? null : byId("menu"));
    if (!top) { return; }
    var all = top.querySelectorAll("a[href], button, input:not([type=hidden]), select, textarea, summary");
    var stops = Array.from(all).filter(function (one) {
      return one.offsetParent && !one.disabled && one.tabIndex >= 0;
    });
    if (!stops.length) { e.preventDefault(); return; }
    var i = stops.indexOf(document.activeElement);
    if (i < 0 || (e.shiftKey ? i === 0 : i === stops.length - 1)) { e.preventDefault(); stops[e.shiftKey ? stops.length - 1 : 0].focus(); }
  });
  // The pages that a person may see, asked for when the palette is first opened.
  var places = null;
  function fetchPlaces() {
    if (places) { return; }
    places = [];
    Rafter.ask("/search/places").then(function (a) { return a.ok ? a.json() : []; }).then(function (all) {
      places = all.map(function (p) { return { words: p.words, kind: p.kind, path: p.go, go: function () { location.href = p.go; } }; });
      if (!byId("palette").hidden) { draw(); }
    });
  }
  function actions() {
    // Those that this page leads to are there at once; the others come when they were asked for.
    var all = [], there = new Set();
    document.querySelectorAll("header.top nav a, .tabs a").forEach(function (a) {
      there.add(a.getAttribute("href"));
      var words = (a.firstChild || a).textContent.trim();
      all.push({ words: words, kind: a.closest(".tabs") ? "view" : "page", go: function () { location.href = a.href; } });
    });
    document.querySelectorAll("#thead [data-menu], .card-row.at a.pick, #side [data-menu]").forEach(function (a) {
      all.push({ words: a.getAttribute("aria-label") || a.textContent.trim(), kind: "action", go: function () { Rafter.menu(a); } });
    });
    document.querySelectorAll("#thead form button, .card-row.at form button").forEach(function (b) {
      var words = b.getAttribute("aria-label") || b.textContent.trim() + " this ticket";
      all.push({ words: words, kind: "action", go: function () { b.click(); } });
    });
    var elsewhere = (places || []).filter(function (p) { return !there.has(p.path); });
    all = all.concat(Rafter.actions || [], elsewhere);
    var signOut = function () { document.querySelector("form[action='/sign-out']").requestSubmit(); };
    all.push(
      { words: "Keys", kind: "help", go: showKeys },
      { words: "Light or dark", kind: "look", go: switchTheme },
      { words: "Sign out", kind: "action", go: signOut });
    return all;
  }
  var shown = [], at = 0;
  // What the server finds comes a moment after the pages and actions that are known here.
  var found = { words: "", hits: [] }, looking = null;
  function look(words) {
    clearTimeout(looking);
    if (words.length < 2) { return; }
    looking = setTimeout(function () {
      Rafter.ask("/search/quick?q=" + encodeURIComponent(words)).then(function (a) { return a.ok ? a.json() : []; }).then(function (hits) {
        var those = hits.map(function (h) {
          return { words: h.words, kind: h.kind, go: function () { location.href = h.go; } };
        });
        found = { words: words, hits: those };
        if (!byId("palette").hidden && byId("palette-words").value.trim().toLowerCase() === words) { draw(); }
      });
    }, 150);
  }
  function draw() {
    var words = byId("palette-words").value.trim().toLowerCase();
    shown = actions().filter(function (a) { return words.split(/\s+/).every(function (w) { return a.words.toLowerCase().includes(w); }); });
    if (/^\d+$/.test(words)) {
      shown.unshift({ words: "Ticket " + words, kind: "ticket", go: function () { location.href = "/tickets/" + words; } });
    }
    if (found.words === words) { shown = shown.concat(found.hits); } else { look(words); }
    if (words.length > 1) {
      var search = function () { location.href = "/search?q=" + encodeURIComponent(words); };
      shown.push({ words: "Search for “" + words + "”", kind: "search", go: search });
    }
    at = Math.min(at, Math.max(0, shown.length - 1));
    var list = byId("palette-list");
    list.replaceChildren.apply(list, shown.map(function (a, i) {
      var li = document.createElement("li");
      li.id = "choice-" + i;
      li.setAttribute("role", "option");
      li.setAttribute("aria-selected", String(i === at));
      li.append(a.words);
      var kind = document.createElement("span");
      kind.textContent = a.kind;
      li.append(kind);
      li.addEventListener("click", function () { hide("palette"); a.go(); });
      return li;
    }));
    if (!shown.length) {
      var none = document.createElement("li");
      none.textContent = "Nothing of that name. Try a page, a ticket’s number, or words.";
      list.append(none);
    }
    byId("palette-words").setAttribute("aria-activedescendant", shown.length ? "choice-" + at : "");
    var chosen = byId("choice-" + at);
    if (chosen) { chosen.scrollIntoView({ block: "nearest" }); }
  }
  function showPalette() { fetchPlaces(); at = 0; byId("palette-words").value = ""; open("palette", byId("palette-words")); draw(); }
  function showKeys() { open("keys", byId("keys").querySelector(".over")); }
  function switchTheme() {
    var next = document.documentElement.getAttribute("data-bs-theme") === "dark" ? "light" : "dark";
    document.documentElement.setAttribute("data-bs-theme", next);
    localStorage.setItem("theme", next);
  }
  Rafter.keysFree = function (e) {
    return !e.ctrlKey && !e.metaKey && !e.altKey && !Rafter.typing(e.target)
      && byId("menu").hidden && !document.querySelector(".veil:not([hidden])");
  };
  document.addEventListener("keydown", function (e) {
    if (!byId("palette")) { return; }
    if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === "k") {
      e.preventDefault();
      if (byId("palette").hidden) { showPalette(); } else { hide("palette"); }
      return;
    }
    if (e.key === "Escape") {
      if (!byId("menu").hidden) { closeMenu(true); return; }
      ["palette", "keys"].forEach(function (id) { if (!byId(id).hidden) { hide(id); } });
      return;
    }
    if (!byId("palette").hidden) {
      if (e.key === "ArrowDown" || e.key === "ArrowUp") {
        e.preventDefault();
        at = (at + (e.key === "ArrowDown" ? 1 : shown.length - 1)) % Math.max(1, shown.length);
        draw();
      }
      if (e.key === "Enter" && shown[at]) { e.preventDefault(); hide("palette"); shown[at].go(); }
      return;
    }
    if (!byId("menu").hidden && (e.key === "ArrowDown" || e.key === "ArrowUp")) {
      var choices = Array.from(byId("menu").querySelectorAll("button.choice"));
      if (!choices.length) { return; }
      e.preventDefault();
      var i = choices.indexOf(document.activeElement);
      choices[(i + (e.key === "ArrowDown" ? 1 : choices.length - 1)) % choices.length].focus();
      return;
    }
    if (e.key === "?" && Rafter.keysFree(e)) { e.preventDefault(); showKeys(); }
  });
  document.addEventListener("input", function (e) { if (e.target.id === "palette-words") { at = 0; draw(); } });

  // ---------------------------------------------------------------- today stays fresh
  var renewing = null;
  function renewToday() {
    if (!byId("today") || renewing) { return; }
    renewing = setTimeout(function () {
      Rafter.ask("/today").then(function (a) { return a.text(); }).then(function (html) {
        renewing = null;
        var fresh = new DOMParser().parseFromString(html, "text/html").getElementById("today"), here = byId("today");
        // Whoever stands on a line of it is not moved; it is renewed once they go on.
        if (!fresh || !here || here.contains(document.activeElement)) { return; }
        here.replaceChildren.apply(here, Array.from(fresh.childNodes));
      }).catch(function () { renewing = null; });
    }, 3000);
  }
  ["rafter:ticket", "rafter:all"].forEach(function (news) { document.addEventListener(news, renewToday); });
  setInterval(function () { if (!document.hidden) { renewToday(); } }, 60000);

  // ---------------------------------------------------------------- the page of a batch
  // A letter chooses the act and leads to its first field; Enter in a choice, or with Ctrl in a text, does it.
  document.addEventListener("keydown", function (e) {
    var place = document.querySelector("[data-acts]");
    if (!place || !place.contains(e.target) && e.target !== document.body || !byId("palette").hidden) { return; }
    var field = e.target.matches("textarea,select,input:not([type=radio],[type=checkbox])");
    if (e.key === "Enter" && (e.target.matches("select") || e.ctrlKey && e.target.matches("textarea"))) {
      e.preventDefault();
      e.target.form.requestSubmit();
      return;
    }
    if (field || e.ctrlKey || e.metaKey || e.altKey) { return; }
    var act = Array.from(place.querySelectorAll("[data-key]")).find(function (one) { return one.dataset.key === e.key; });
    if (!act) { return; }
    e.preventDefault();
    var radio = act.querySelector("input");
    radio.checked = true;
    var inputs = Array.from(place.querySelectorAll(".act-fields :is(input,select,textarea)"));
    (inputs.find(function (one) { return one.offsetParent; }) || radio).focus();
  });

  // ---------------------------------------------------------------- notices
  function bell(fresh) {
    Rafter.ask("/notices/unread").then(function (a) { return a.ok ? a.text() : "0"; }).then(function (n) {
      var mark = byId("unread");
      mark.hidden = n === "0";
      mark.textContent = n;
      byId("bell").setAttribute("aria-label", n === "0" ? "Notices" : n + " unread notices");
      if (fresh && n !== "0") { Rafter.toast("A notice for you: see the bell."); byBrowser(); }
    });
  }

  // Only where the person chose it, and the browser was given leave.
  function byBrowser() {
    if (!("Notification" in window) || Notification.permission !== "granted") { return; }
    Rafter.ask("/notices/browser").then(function (a) { return a.json(); }).then(function (one) {
      if (!one.words) { return; }
      var shown = new Notification("Rafter, " + one.ticket, { body: one.words, tag: "rafter-" + one.ticket });
      shown.onclick = function () { window.focus(); location.href = "/tickets/" + one.ticket; };
    });
  }
  document.addEventListener("change", function (e) {
    var wanted = e.target.hasAttribute("data-browser-notice") && e.target.checked;
    if (wanted && "Notification" in window && Notification.permission === "default") {
      Notification.requestPermission();
    }
  });

  // ---------------------------------------------------------------- live changes
  var source = null;
  function listen() {
    if (source) { source.close(); }
    source = new EventSource("/live");
    source.addEventListener("hello", function () {
      byId("live-lost").classList.remove("on");
      // Something may have happened between the making of the page, or the loss of the connection, and now.
      document.dispatchEvent(new CustomEvent("rafter:all"));
    });
    ["ticket", "writing"].forEach(function (topic) {
      source.addEventListener(topic, function (e) {
        document.dispatchEvent(new CustomEvent("rafter:" + topic, { detail: Number(e.data) }));
      });
    });
    source.addEventListener("notice", function (e) { if (e.data === document.querySelector("meta[name=me]").content) { bell(true); } });
    source.onerror = function () {
      byId("live-lost").classList.add("on");
      if (source.readyState === EventSource.CLOSED) { setTimeout(listen, 4000); }
    };
  }
  document.addEventListener("DOMContentLoaded", function () {
    if (!document.querySelector("header.top")) { return; }
    byId("open-palette").addEventListener("click", showPalette);
    byId("open-keys").addEventListener("click", showKeys);
    byId("switch-theme").addEventListener("click", switchTheme);
    document.querySelectorAll("input[name=back]:not([value])").forEach(function (i) { i.value = location.pathname + location.search; });
    listen();
    bell(false);
  });
  addEventListener("pagehide", function () { if (source) { source.close(); } });
})();
// Forms whose shape the server keeps: a changed choice asks for the form anew, with everything that was typed in it.
(function () {
  "use strict";
  // One after the other, each with the form as the one before left it.
  var busy = Promise.resolve();
  function reshape(form, act) {
    var place = form.parentElement.id;
    busy = busy.then(function () {
      return reshapeNow(document.querySelector("#" + CSS.escape(place) + " > form") || form, act);
    }).catch(function () {
      Rafter.toast("Rafter does not answer. What you typed is still here; try again in a moment.", null, true);
    });
  }
  function reshapeNow(form, act) {
    var body = new URLSearchParams(new FormData(form));
    body.set("act", act);
    var began = document.activeElement;
    var state = function (e) { return e.type === "checkbox" ? e.checked : e.value; };
    var asked = new Map(Array.from(form.elements).map(function (e) { return [e, state(e)]; }));
    return Rafter.ask(form.action, { method: "POST", body: body }).then(function (a) { return a.text(); }).then(function (html) {
      var fresh = new DOMParser().parseFromString(html, "text/html").getElementById(form.parentElement.id);
      if (!fresh) { form.submit(); return; }
      // Several values of one part share a name; they are told apart by their order.
      var same = function (place, e) { return Array.from(place.querySelectorAll("[name='" + CSS.escape(e.name) + "']")); };
      var fields = Array.from(form.elements).filter(function (e) { return e.name; });
      var places = new Map(fields.map(function (e) { return [e, same(form, e).indexOf(e)]; }));
      var twin = function (e) { return same(fresh, e)[places.get(e)]; };
      var known = new Set(Array.from(form.elements).map(function (e) { return e.name; }));
      var stops = function (place) {
        return Array.from(place.querySelectorAll("select, input:not([type=hidden]), button:not([tabindex='-1'])"));
      };
      var stood = stops(form).indexOf(began);
      // What was typed while the answer was on its way is carried over.
      asked.forEach(function (value, e) {
        if (!e.name || e.name === "act" || state(e) === value) { return; }
        var there = twin(e);
        if (there && there.type === "checkbox") { there.checked = e.checked; } else if (there) { there.value = e.value; }
      });
      // Whoever has gone on to another field stays there, with the cursor where it was.
      var at = form.contains(document.activeElement) ? document.activeElement : began;
      var named = at && at.name && at.name !== "act";
      var from = named && typeof at.selectionStart === "number" ? at.selectionStart : null;
      form.parentElement.replaceWith(fresh);
      // After a part was added it is filled; after one was taken away, what stands in its place has the focus.
      var added = named ? null : stops(fresh).find(function (e) { return e.name !== "act" && !known.has(e.name); });
      var next = named ? twin(at) : added || fresh.querySelector("[name=act][value='" + CSS.escape(act) + "']");
      next = next || stops(fresh)[Math.min(Math.max(stood, 0), stops(fresh).length - 1)];
      if (next) { next.focus({ preventScroll: true }); }
      var reads = fresh.querySelector(".reads");
      if (reads) { Rafter.say(reads.textContent.trim()); }
      if (next && from !== null && next.setSelectionRange) { next.setSelectionRange(from, from); }
    });
  }
  // Whoever chooses by typing goes through choices that are not meant: they are done when they pause, go on or press Enter.
  var byKey = false, waiting = null;
  function settle() {
    if (!waiting) { return; }
    clearTimeout(waiting.timer);
    var form = waiting.form;
    waiting = null;
    reshape(form, "shape");
  }
  document.addEventListener("keydown", function (e) {
    byKey = true;
    if (e.key === "Enter" && waiting && e.target.matches("select")) { e.preventDefault(); settle(); }
  }, true);
  document.addEventListener("pointerdown", function () { byKey = false; }, true);
  document.addEventListener("focusout", function (e) { if (waiting && e.target === waiting.field) { settle(); } });
  document.addEventListener("change", function (e) {
    var form = e.target.closest("[data-reshape-form]");
    if (!form || !e.target.hasAttribute("data-reshape")) { return; }
    if (waiting) { clearTimeout(waiting.timer); waiting = null; }
    if (!byKey || !e.target.matches("select")) { reshape(form, "shape"); return; }
    waiting = { form: form, field: e.target, timer: setTimeout(settle, 1200) };
  });
  document.addEventListener("submit", function (e) {
    var form = e.target, by = e.submitter;
    if (!form.hasAttribute("data-reshape-form") || !by || by.name !== "act" || by.value === "save") { return; }
    e.preventDefault();
    reshape(form, by.value);
  });
})();
