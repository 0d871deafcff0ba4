// Sets the theme before anything is drawn.
(function () {
  var kept = localStorage.getItem("theme");
  var dark = kept ? kept === "dark" : matchMedia("(prefers-color-scheme: dark)").matches;
  document.documentElement.setAttribute("data-bs-theme", dark ? "dark" : "light");
})();
