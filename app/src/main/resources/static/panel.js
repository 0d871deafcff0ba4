// The panel on a website: one script tag, <script src=".../panel.js" data-site="word" async></script>.
(function () {
  "use strict";
  var tag = document.currentScript;
  var word = tag && tag.getAttribute("data-site");
  if (!word) { console.warn("The panel needs data-site in its script tag."); return; }
  if (document.getElementById("rafter-panel")) { return; }
  var rafter = new URL(tag.src).origin;
  var at = rafter + "/panel/" + encodeURIComponent(word);
  var STORE = "rafter-panel-" + word;
  var kept = read();
  function read() { try { return JSON.parse(localStorage.getItem(STORE)) || {}; } catch (e) { return {}; } }
  function keep() { try { localStorage.setItem(STORE, JSON.stringify(kept)); } catch (e) { /* it then lives as long as the page */ } }
  function searched() {
    var query = new URLSearchParams(location.search);
    var found = "";
    ["q", "s", "query", "search"].forEach(function (name) { found = found || query.get(name) || ""; });
    return found.slice(0, 200);
  }
  var place = {
    path: location.pathname, title: document.title.slice(0, 200), language: document.documentElement.lang || "", searched: searched()
  };
  function query(more) {
    return new URLSearchParams(Object.assign({}, place, more)).toString();
  }
  function style(element, rules) { Object.keys(rules).forEach(function (key) { element.style[key] = rules[key]; }); return element; }
  var host = style(document.createElement("div"), {
    position: "fixed", right: "16px", bottom: "16px", zIndex: "2147483000", maxWidth: "calc(100vw - 32px)",
    display: "flex", flexDirection: "column", alignItems: "flex-end" });
  host.id = "rafter-panel";
  var button = style(document.createElement("button"), {
    font: "600 16px/1.2 system-ui, sans-serif", color: "#fffefb", background: "#1d5a52", border: "2px solid #fffefb", borderRadius: "8px",
    padding: "12px 18px", cursor: "pointer", minHeight: "44px"
  });
  button.type = "button";
  button.setAttribute("aria-expanded", "false");
  button.setAttribute("aria-controls", "rafter-panel-frame");
  var frame = null;
  var opens = "Chat";
  function ensure(invite) {
    if (frame) { return; }
    frame = style(document.createElement("iframe"), {
      display: "block", border: "1px solid #d9d2c3", borderRadius: "10px", width: "380px", height: "560px",
      maxWidth: "calc(100vw - 32px)", maxHeight: "calc(100vh - 90px)", marginBottom: "8px", background: "#fffefb"
    });
    frame.id = "rafter-panel-frame";
    frame.title = "Chat";
    frame.allow = "";
    frame.src = at + "?" + query({ invite: invite || 0 });
    host.insertBefore(frame, host.firstChild);
  }
  function show(on, invite) {
    if (on) { ensure(invite); }
    if (frame) { frame.style.display = on ? "block" : "none"; }
    button.setAttribute("aria-expanded", String(on));
    button.textContent = on ? "Close" : opens;
    kept.open = on;
    keep();
    if (on) { frame.focus(); } else { button.focus(); }
  }
  button.addEventListener("click", function () { show(button.getAttribute("aria-expanded") !== "true"); });
  addEventListener("message", function (e) {
    if (e.origin !== rafter || !frame || e.source !== frame.contentWindow) { return; }
    if (e.data === "fold") { show(false); }
  });
  function invited(invite) {
    var card = style(document.createElement("div"), {
      background: "#fffefb", color: "#1d2730", border: "1px solid #d9d2c3", borderRadius: "10px", padding: "12px 14px", marginBottom: "8px",
      font: "16px/1.4 system-ui, sans-serif", maxWidth: "320px"
    });
    card.setAttribute("role", "status");
    var words = document.createElement("p");
    words.style.margin = "0 0 8px";
    words.textContent = invite.words;
    var yes = document.createElement("button");
    var no = document.createElement("button");
    yes.type = no.type = "button";
    yes.textContent = "Yes, please";
    no.textContent = "Not now";
    [yes, no].forEach(function (one) {
      style(one, { font: "inherit", padding: "6px 12px", marginRight: "6px", minHeight: "36px", cursor: "pointer" });
    });
    yes.addEventListener("click", function () { card.remove(); show(true, invite.id); });
    no.addEventListener("click", function () { card.remove(); button.focus(); });
    card.append(words, yes, no);
    host.insertBefore(card, button);
    kept.shown = kept.shown || {};
    kept.shown[invite.id] = Math.floor(Date.now() / 1000);
    keep();
    fetch(at + "/invites/" + invite.id, { method: "POST", credentials: "omit" }).catch(function () {});
  }
  var shown = Object.keys(kept.shown || {}).map(function (id) { return id + ":" + kept.shown[id]; }).join(",");
  fetch(at + "/open?" + query({ shown: shown }), { credentials: "omit" }).then(function (answer) {
    return answer.json().then(function (said) {
      if (!answer.ok) { console.warn(said.words || "There is no panel here."); return; }
      opens = said.open ? "Chat" : "Leave a message";
      button.textContent = kept.open ? "Close" : opens;
      host.append(button);
      document.body.append(host);
      if (kept.open) { ensure(); button.setAttribute("aria-expanded", "true"); }
      if (said.invite && !kept.open) {
        setTimeout(function () {
          if (button.getAttribute("aria-expanded") !== "true") { invited(said.invite); }
        }, said.invite.after * 1000);
      }
    });
  }).catch(function () { console.warn("The panel is not there just now."); });
})();
