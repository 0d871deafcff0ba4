// What goes on is drawn anew every two seconds, but for a part in which somebody is about to do something; what is typed elsewhere stays.
function parts(page) { return Array.from(page.querySelectorAll("[data-fresh]")); }
setInterval(() => {
  fetch(location.href).then(answer => answer.text()).then(html => {
    const now = parts(new DOMParser().parseFromString(html, "text/html"));
    parts(document).forEach((part, i) => { if (now[i] && !part.contains(document.activeElement)) { part.replaceWith(now[i]); } });
  }).catch(() => {});
}, 2000);
