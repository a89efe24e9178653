// sets the theme before anything is drawn
(function () {
  var kept = localStorage.getItem("rheon-theme");
  var dark = kept ? kept === "dark" : matchMedia("(prefers-color-scheme: dark)").matches;
  document.documentElement.dataset.theme = dark ? "dark" : "light";
})();
