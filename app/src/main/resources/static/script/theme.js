// Sets the theme before anything is drawn, and says that scripts run: what they lay out is shown once it stands in its place.
(() => {
  const kept = localStorage.getItem("theme");
  const dark = kept ? kept === "dark" : matchMedia("(prefers-color-scheme: dark)").matches;
  document.documentElement.setAttribute("data-bs-theme", dark ? "dark" : "light");
  document.documentElement.classList.add("settling");
  const settled = () => { document.documentElement.classList.remove("settling"); };
  document.addEventListener("rafter:settled", settled);
  // Should a script fail, the page is shown as it is.
  setTimeout(settled, 2500);
})();
